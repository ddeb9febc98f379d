<!-- One item of kit: its fields, each with its fault beside it. -->
<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import Trash from '@lucide/svelte/icons/trash-2';
  import Field from '../../lib/ui/Field.svelte';
  import { p } from '../../router';
  import type { Places } from './place.svelte';

  let { places, i }: { places: Places; i: number } = $props();
</script>

{#if places.sort}
  <form
    class="mb-2 rounded-lg border border-line bg-panel p-3"
    aria-label="Item"
    onsubmit={(e) => {
      e.preventDefault();
      void places.save();
    }}
  >
    <p class="mb-2 text-small text-muted">{places.sort.about}</p>
    <div class="grid grid-cols-2 gap-x-4 gap-y-2">
      {#each places.sort.fields.filter((f) => f.name !== 'id') as f (f.name)}
        <Field
          label={f.label + (f.needed ? ' *' : '') + (f.list ? ', spaces between' : '')}
          value={places.draft[f.name] ?? ''}
          choices={f.choices}
          hint={f.usual}
          fault={places.cellFaults[f.name] ?? ''}
          onset={(v) => (places.draft = { ...places.draft, [f.name]: v })}
        />
      {/each}
    </div>
    {#each Object.entries(places.cellFaults).filter(([f]) => !places.sort?.fields.some((k) => k.name === f && f !== 'id')) as [f, words] (f)}
      <p class="mt-2 text-small text-swap" role="alert">{f}: {words}</p>
    {/each}
    <div class="mt-3 flex items-center gap-3">
      <button
        class="flex items-center gap-1.5 rounded-md bg-ink px-3.5 py-1.5 text-sm font-semibold text-paper"
        ><Plus size={15} /> {i < (places.doc?.kit.length ?? 0) ? 'Keep' : 'Add to the kit'}</button
      >
      <button type="button" class="text-sm text-muted" onclick={() => (places.editing = -1)}>Leave</button>
      {#if i < (places.doc?.kit.length ?? 0)}
        {#if ['band', 'cable_column', 'machine'].includes(places.sort.kind)}
          <a
            class="text-sm font-semibold underline"
            href={p('/measuring/:place/:item', {
              params: { place: String(places.id), item: places.draft['id'] ?? '' },
            })}>Measure it</a
          >
        {/if}
        <button
          type="button"
          class="ml-auto flex items-center gap-1 text-sm text-muted hover:text-ink"
          onclick={() => places.remove(i)}><Trash size={14} /> Remove</button
        >
      {/if}
    </div>
  </form>
{/if}
