<!-- Kit in plain rows that are edited where they stand. -->
<script lang="ts">
  import type { PlaceDoc } from '../../lib/api/client';
  import ItemForm from './ItemForm.svelte';
  import type { Places } from './place.svelte';

  let { places, doc }: { places: Places; doc: PlaceDoc } = $props();

  /** What of an item's cells says most, in a line. */
  const summary = (cells: Record<string, string>) =>
    Object.entries(cells)
      .filter(([k]) => !['id', 'name', 'kind'].includes(k))
      .map(
        ([k, v]) =>
          `${k.replace(/_(cm|kg|deg)$/, '').replaceAll('_', ' ')} ${v.replaceAll('_', ' ')}${named(v) ? '' : unit(k)}`,
      )
      .join(' · ');
  const unit = (name: string) =>
    name.endsWith('_cm') ? ' cm' : name.endsWith('_kg') ? ' kg' : name.endsWith('_deg') ? '°' : '';
  /** Cells in another unit than the documents' name it themselves. */
  const named = (cell: string) => /\d(lb|in)$/.test(cell);
</script>

<div class="mt-3 flex items-center gap-3">
  <h2 class="section-title">
    Kit, {doc.kit.length} items
  </h2>
  <select
    class="ml-auto h-8 rounded-md border border-line bg-panel px-2 text-sm"
    aria-label="Add to the kit"
    value=""
    onchange={(e) => {
      places.edit(doc.kit.length, e.currentTarget.value);
      e.currentTarget.value = '';
    }}
  >
    <option value="" disabled>+ add …</option>
    {#each places.kinds as kind (kind.kind)}<option value={kind.kind}>{kind.name}</option>{/each}
  </select>
</div>
<ul class="mt-1">
  {#each places.cells as cells, i (cells['id'])}
    <li class="border-b border-line">
      <button
        class="w-full py-1.5 text-left {places.editing === i ? 'font-semibold' : ''}"
        aria-expanded={places.editing === i}
        onclick={() => (places.editing === i ? (places.editing = -1) : places.edit(i))}
      >
        <span class="flex items-baseline gap-2 text-sm"
          ><strong class="font-semibold">{cells['name']}</strong>
          <span class="text-small text-muted">{cells['kind']?.replaceAll('_', ' ')}</span></span
        >
        <span class="block truncate text-small text-muted">{summary(cells)}</span>
      </button>
      {#if places.editing === i}<ItemForm {places} {i} />{/if}
    </li>
  {/each}
</ul>
{#if places.editing === doc.kit.length}<ItemForm {places} i={doc.kit.length} />{/if}
{#if !doc.kit.length && places.editing < 0}
  <p class="mt-2 text-sm text-muted">Nothing here yet: add the first item, or read a file.</p>
{/if}
