<!-- Everything that was ever accepted for a line, newest first. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../../lib/api/client';
  import { Latest } from '../../lib/api/latest';

  let { line }: { line: number } = $props();
  let past: Schemas['PastSwapView'][] = $state.raw([]);
  let read = $state(false);
  const latest = new Latest();
  $effect(() => {
    const asked = ask(api.GET('/api/lines/{line}/accepted', { params: { path: { line } } }));
    void latest.of(asked).then((answer) => {
      if (!answer) return;
      past = answer.data ?? [];
      read = true;
    });
  });
  const day = (at: string) =>
    new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
</script>

<ol class="space-y-3 text-sm">
  {#each past as one, i (i)}
    <li class="border-l-4 pl-3 {one.in_force ? 'border-swap' : 'border-line text-muted'}">
      <p>
        <strong>{one.title}</strong>, {one.kit}, {one.load}
        <span class="whitespace-nowrap">· match {Math.round(one.match)} by {one.lens_name.toLowerCase()}</span
        >
      </p>
      <p class="text-small">
        {one.place_name}, {day(one.accepted_at)}{one.by ? `, ${one.by}` : ''}.
        {one.in_force ? 'In force.' : one.undone_at ? `Undone ${day(one.undone_at)}.` : 'Replaced since.'}
      </p>
      {#if one.note}<p class="mt-0.5 whitespace-pre-line">{one.note}</p>{/if}
    </li>
  {:else}
    <li class="text-muted">{read ? 'Nothing was accepted for this line yet.' : 'Reading …'}</li>
  {/each}
</ol>
