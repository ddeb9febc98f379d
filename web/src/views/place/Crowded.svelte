<!-- Hours at which kit is usually in use by others; changed where they stand. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { PlaceDoc } from '../../lib/api/client';
  import type { Places } from './place.svelte';

  let { places, doc }: { places: Places; doc: PlaceDoc } = $props();
  type Busy = PlaceDoc['busy'][number];
  const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
  const TIMES = [
    ['start', 'from'],
    ['end', 'until'],
  ] as const;
  const cell = 'h-8 min-w-0 rounded-md border border-line bg-panel px-2';

  function set(at: number, part: Partial<Busy>) {
    void places.change((d) => ({ ...d, busy: d.busy.map((b, i) => (i === at ? { ...b, ...part } : b)) }));
  }
  function turn(at: number, day: (typeof DAYS)[number]) {
    const days = doc.busy[at]?.days ?? [];
    set(at, { days: DAYS.filter((d) => (d === day ? !days.includes(d) : days.includes(d))) });
  }
  const fault = (at: number) =>
    Object.entries(places.faults)
      .filter(([f]) => f.startsWith(`busy.${at}.`))
      .map(([, words]) => words)[0] ?? '';
</script>

<h2 class="mt-5 section-title">Crowded</h2>
<ul class="mt-1 space-y-2 text-sm">
  {#each doc.busy as b, i (i)}
    <li>
      <div class="flex flex-wrap items-center gap-2">
        <select
          class="{cell} flex-1"
          aria-label="Crowded item {i + 1}"
          value={b.item}
          onchange={(e) => set(i, { item: e.currentTarget.value })}
        >
          {#each doc.kit as k (k.id)}<option value={k.id}>{k.name}</option>{/each}
        </select>
        {#each TIMES as [part, word] (part)}
          <input
            type="time"
            class={cell}
            aria-label="Crowded {word}, {i + 1}"
            value={b[part]}
            onchange={(e) => set(i, { [part]: e.currentTarget.value })}
          />
        {/each}
        <button
          class="text-muted hover:text-ink"
          aria-label="Remove crowded hours {i + 1}"
          onclick={() => void places.change((d) => ({ ...d, busy: d.busy.filter((_, k) => k !== i) }))}
          ><Trash size={14} /></button
        >
      </div>
      <div
        class="mt-1 flex flex-wrap gap-1"
        role="group"
        aria-label="Days of crowded hours {i + 1}; none for every day"
      >
        {#each DAYS as day (day)}
          {@const on = b.days?.includes(day)}
          <button
            class="rounded-full border px-2 text-small {on
              ? 'border-ink bg-ink text-paper'
              : 'border-line bg-panel text-muted hover:border-muted'}"
            aria-pressed={on}
            onclick={() => turn(i, day)}>{day}</button
          >
        {/each}
        {#if !b.days?.length}<span class="text-small text-muted">every day</span>{/if}
      </div>
      {#if fault(i)}<p class="text-small text-swap" role="alert">{fault(i)}</p>{/if}
    </li>
  {/each}
</ul>
{#if doc.kit[0]}
  <button
    class="mt-2 text-sm font-semibold underline"
    onclick={() =>
      void places.change((d) => ({
        ...d,
        busy: [...d.busy, { item: d.kit[0]!.id, days: [], start: '17:00', end: '19:30' }],
      }))}>Add crowded hours</button
  >
{/if}
