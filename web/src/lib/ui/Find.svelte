<!-- Find anything by a few letters: clients, places, programs, lines, movements, calculators. -->
<script lang="ts">
  import { Combobox } from 'bits-ui';
  import { navigate } from '../../router';
  import { api, ask, type Schemas } from '../api/client';
  import { Latest } from '../api/latest';
  import Dialog from './Dialog.svelte';

  type Found = Schemas['FoundView'];
  let { open = $bindable() }: { open: boolean } = $props();
  let found: Found[] = $state.raw([]);
  let words = $state('');
  const latest = new Latest();

  async function look(text: string) {
    words = text;
    const q = text.trim();
    const answer = await latest.of(
      q ? ask(api.GET('/api/find', { params: { query: { q } } })) : Promise.resolve({ data: [] }),
    );
    if (answer) found = answer.data ?? [];
  }
  const key = (one: Found) => `${one.kind} ${one.id}`;
  function go(value: string) {
    const one = found.find((f) => key(f) === value);
    if (!one) return;
    open = false;
    found = [];
    const { id } = one;
    if (one.kind === 'client') void navigate('/clients/:client', { params: { client: id } });
    if (one.kind === 'place') void navigate('/places/:place', { params: { place: id } });
    if (one.kind === 'program') void navigate('/programs/:program', { params: { program: id } });
    if (one.kind === 'movement') void navigate('/movements/:movement', { params: { movement: id } });
    if (one.kind === 'calculator') void navigate('/calculators/:calculator', { params: { calculator: id } });
    if (one.kind === 'line' && one.place)
      void navigate('/lines/:line/at/:place', { params: { line: id, place: String(one.place) } });
  }
</script>

<Dialog
  bind:open
  title="Find"
  about="Clients, places, programs, lines, movements and calculators, by a few letters."
>
  <Combobox.Root type="single" open={found.length > 0} onValueChange={go} inputValue={words}>
    <Combobox.Input
      class="h-10 w-full rounded-md border border-line bg-paper px-3"
      placeholder="a name …"
      aria-label="Letters of its name"
      autofocus
      oninput={(e) => void look(e.currentTarget.value)}
    />
    <Combobox.ContentStatic class="mt-2 max-h-80 overflow-y-auto">
      {#each found as one (key(one))}
        <Combobox.Item
          value={key(one)}
          label={one.name}
          class="flex cursor-pointer items-baseline gap-3 rounded-md px-3 py-1.5 data-highlighted:bg-soft"
        >
          <span class="font-semibold">{one.name}</span>
          <span class="ml-auto text-small text-muted">{one.about}</span>
        </Combobox.Item>
      {/each}
    </Combobox.ContentStatic>
  </Combobox.Root>
  {#if words.trim() && !found.length}<p class="mt-3 text-sm text-muted" role="status">
      Nothing here has these letters in its name.
    </p>{/if}
</Dialog>
