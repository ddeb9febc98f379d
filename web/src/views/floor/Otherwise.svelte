<!-- What could be otherwise: what is taken, one corner, too little time; and keeping the order. -->
<script lang="ts">
  import Pick from '../../lib/ui/Pick.svelte';
  import type { Floor, Plan } from './floor.svelte';

  let { floor, plan }: { floor: Floor; plan: Plan } = $props();
  const used = $derived([
    ...new Map(
      plan.blocks
        .flatMap((b) => b.steps)
        .flatMap((s) => s.items.map((id, i) => [id, s.stations[i] ?? id] as const)),
    ),
  ]);
  const names = $derived(new Map((floor.view?.kit ?? []).map((k) => [k.id, k.name])));
  /** What is taken, and what is used of the rest. */
  const kit = $derived([
    ...floor.wish.without.map((id) => [id, names.get(id) ?? id] as const),
    ...used.filter(([id]) => !floor.wish.without.includes(id)),
  ]);
  const corners = $derived([
    { value: '', label: 'the whole floor' },
    ...used.map(([value, name]) => ({ value, label: `near ${name}` })),
    ...(floor.wish.corner && !used.some(([id]) => id === floor.wish.corner)
      ? [{ value: floor.wish.corner, label: `near ${names.get(floor.wish.corner) ?? floor.wish.corner}` }]
      : []),
  ]);
  const DAYS = ['', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
  const DAY = ['any day', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
</script>

<aside
  class="mt-5 h-fit rounded-xl border border-line bg-panel p-4 text-sm lg:mt-0"
  aria-label="What could be otherwise"
>
  <h2 class="section-title">Could be otherwise</h2>
  <p class="mt-2">
    {#if plan.proven}<strong>Best order, proven.</strong>
    {:else}<strong>Best order found.</strong> Another may be up to {Math.round(plan.gap_s)} s better.{/if}
  </p>
  {#each plan.notes as note (note)}<p class="mt-2 border-l-4 border-swap pl-2">{note}</p>{/each}
  {#each plan.missing as words (words)}<p class="mt-2 border-l-4 border-swap pl-2">{words}</p>{/each}
  {#if plan.cuts.length}
    <h3 class="mt-3 font-semibold">To fit {floor.wish.minutes} min, leave out in this order</h3>
    <ol class="mt-1 list-decimal pl-5">
      {#each plan.cuts as cut (cut.words)}<li>{cut.words}</li>{/each}
    </ol>
    {#if floor.wish.minutes && plan.minutes > floor.wish.minutes}<p class="mt-1">
        Shorter than {Math.round(plan.minutes)} min it cannot be.
      </p>{/if}
  {/if}
  <label class="mt-3 flex items-center gap-2 border-t border-line pt-3"
    ><input
      type="checkbox"
      checked={floor.wish.pairs}
      onchange={(e) => void floor.want({ pairs: e.currentTarget.checked })}
    />in turns where that saves time</label
  >
  <h3 class="mt-3 border-t border-line pt-3 font-semibold">Taken by others</h3>
  <ul class="mt-1">
    {#each kit as [id, name] (id)}
      <li>
        <label class="flex items-center gap-2 py-0.5"
          ><input
            type="checkbox"
            checked={floor.wish.without.includes(id)}
            onchange={(e) =>
              void floor.want({
                without: e.currentTarget.checked
                  ? [...floor.wish.without, id]
                  : floor.wish.without.filter((one) => one !== id),
              })}
          />{name}</label
        >
      </li>
    {/each}
  </ul>
  <div class="mt-2">
    <Pick
      name="stay"
      value={floor.wish.corner}
      items={corners}
      onpick={(corner) => void floor.want({ corner })}
    />
  </div>
  <div class="mt-3 flex flex-wrap items-center gap-2 border-t border-line pt-3">
    <Pick
      name="on"
      value={floor.wish.day}
      items={DAYS.map((value, i) => ({ value, label: DAY[i] ?? '' }))}
      onpick={(day) => void floor.want({ day: day as never })}
    />
    <label class="flex items-center gap-2"
      ><span class="text-muted">from</span><input
        type="time"
        class="h-9 rounded-md border border-line bg-panel px-2"
        aria-label="Time of day it begins"
        value={floor.wish.start}
        onchange={(e) => void floor.want({ start: e.currentTarget.value })}
      /></label
    >
  </div>
  <div class="mt-4 border-t border-line pt-3">
    <button
      class="w-full rounded-md bg-ink px-4 py-2 font-semibold text-paper disabled:opacity-50"
      disabled={floor.busy || plan.cuts.length > 0}
      onclick={() => void floor.keep()}>Write the session in this order</button
    >
    <p class="mt-1 text-small text-muted">
      {plan.cuts.length
        ? 'What was cut for today stays in the program.'
        : 'Lines move in the program; what is done in turns becomes a group.'}
    </p>
    {#if floor.told}<p class="mt-2" role="status">
        {floor.told}
        {#if !floor.undone}<button class="ml-1 font-semibold underline" onclick={() => void floor.undo()}
            >Undo</button
          >{/if}
      </p>{/if}
  </div>
</aside>
