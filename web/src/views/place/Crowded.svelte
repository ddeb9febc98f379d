<!-- Hours at which kit is usually in use by others. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { PlaceDoc } from '../../lib/api/client';
  import type { Places } from './place.svelte';

  let { places, doc }: { places: Places; doc: PlaceDoc } = $props();
</script>

<h2 class="mt-5 font-sans text-xs font-bold tracking-[0.1em] uppercase">Crowded</h2>
<ul class="mt-1 text-sm">
  {#each doc.busy as b, i (i)}
    <li class="flex items-center gap-2">
      <span class="min-w-0 flex-1"
        ><strong class="font-semibold">{doc.kit.find((k) => k.id === b.item)?.name}</strong>, {b.days?.length
          ? b.days.join(' ')
          : 'every day'}, {b.start} to {b.end}</span
      >
      <button
        class="text-muted hover:text-ink"
        aria-label="Remove crowded hours {i + 1}"
        onclick={() => void places.change((d) => ({ ...d, busy: d.busy.filter((_, k) => k !== i) }))}
        ><Trash size={14} /></button
      >
    </li>
  {/each}
</ul>
<form
  class="mt-1 grid grid-cols-2 gap-2 text-sm sm:grid-cols-[1.4fr_1.2fr_70px_70px_auto]"
  onsubmit={(e) => {
    e.preventDefault();
    const f = Object.fromEntries(new FormData(e.currentTarget)) as Record<string, string>;
    const days = (f['days'] ?? '')
      .toLowerCase()
      .split(/[\s,]+/)
      .filter((d) => d && d !== 'daily') as 'mon'[];
    const row = { item: f['item'] ?? '', days, start: f['start'] ?? '', end: f['end'] ?? '' };
    void places.change((d) => ({ ...d, busy: [...d.busy, row] }));
  }}
>
  <select
    name="item"
    class="h-8 min-w-0 rounded-md border border-line bg-panel px-2"
    aria-label="Crowded item"
  >
    {#each doc.kit as k (k.id)}<option value={k.id}>{k.name}</option>{/each}
  </select>
  <input
    name="days"
    class="h-8 min-w-0 rounded-md border border-line bg-panel px-2"
    placeholder="mon tue"
    aria-label="Days"
  />
  <input
    name="start"
    class="h-8 rounded-md border border-line bg-panel px-2"
    placeholder="17:00"
    aria-label="From"
  />
  <input
    name="end"
    class="h-8 rounded-md border border-line bg-panel px-2"
    placeholder="19:30"
    aria-label="Until"
  />
  <button class="h-8 rounded-md bg-ink px-3 font-semibold text-paper">Add</button>
</form>
