<!-- Asks what a text file is written in, where its bytes do not tell. -->
<script lang="ts">
  import { api, ask } from '../api/client';

  let { onpick }: { onpick: (encoding: string) => void } = $props();
  let known: { id: string; name: string }[] = $state.raw([]);
  void ask(api.GET('/api/encodings')).then((answer) => (known = answer.data ?? []));
  const id = $props.id();
</script>

<div class="mt-2 text-sm">
  <label class="block text-small text-muted" for={id}>The file is written in</label>
  <select
    {id}
    class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2"
    value=""
    onchange={(e) => onpick(e.currentTarget.value)}
  >
    <option value="" disabled>pick, and it is read again …</option>
    {#each known as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
  </select>
</div>
