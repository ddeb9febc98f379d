<!-- Hands on the set-up: every choice a slider with the band it may be off by, and the load in the steps there are. -->
<script lang="ts">
  import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
  import Scale from '@lucide/svelte/icons/scale';
  import type { AdjustableParameter, Swap } from '../../lib/api/client';
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench; swap: Swap };
  let { bench, swap }: Props = $props();

  const key = (c: AdjustableParameter) => `${c.source} ${c.id}`;
  const answered = $derived(bench.detail?.choices ?? []);
  const dearest = $derived(Math.max(...answered.map((c) => c.cost)));
  /** The order that hands found the choices in: one that moved under them would lose the keys. */
  let order: string[] = [];
  const choices = $derived.by(() => {
    if (!bench.hand || !order.length) order = answered.map(key);
    return [...answered].sort((a, b) => order.indexOf(key(a)) - order.indexOf(key(b)));
  });
  const amounts = $derived(bench.detail?.amounts ?? []);
  /** Values as they were set by hand, by source and name; the solved ones else. */
  let set = $state<Record<string, number>>({});
  $effect(() => {
    if (!bench.hand) set = {};
  });
  const value = (c: AdjustableParameter) => set[key(c)] ?? c.value;
  const places = (c: AdjustableParameter) => (c.values.length ? c.values : null);

  function slide(c: AdjustableParameter, v: number) {
    set = { ...set, [key(c)]: v };
    void bench.move([{ source: c.source, id: c.id, value: v }]);
  }
  const rank = $derived(amounts.findIndex((a) => Math.abs(a - swap.load.amount) < 1e-6));
  function load(by: number) {
    const next = amounts[rank + by];
    if (next !== undefined) void bench.move([{ source: 0, id: 'amount', value: next }]);
  }
  const shown = (c: AdjustableParameter) => {
    const there = bench.units.unit(c.unit);
    const here = bench.units.value(value(c), c.unit);
    return `${there === c.unit ? Math.round(here) : here}${there && there !== '°' ? ` ${there}` : there}`;
  };
  const percent = (c: AdjustableParameter, v: number) =>
    `${(100 * (Math.min(c.most, Math.max(c.least, v)) - c.least)) / Math.max(1e-9, c.most - c.least)}%`;
</script>

<div class="space-y-3 text-sm" aria-label="By hand" role="group">
  {#if swap.set_up.sources.length}
    <div class="flex items-center gap-2">
      <span class="w-10 shrink-0 text-muted">load</span>
      <button
        class="h-7 w-7 rounded border border-line bg-panel text-base font-bold hover:border-muted disabled:opacity-40"
        disabled={rank <= 0}
        onclick={() => load(-1)}
        aria-label="Next lighter load">−</button
      >
      <span class="min-w-24 text-center font-bold" aria-live="polite">{swap.load.words}</span>
      <button
        class="h-7 w-7 rounded border border-line bg-panel text-base font-bold hover:border-muted disabled:opacity-40"
        disabled={rank < 0 || rank >= amounts.length - 1}
        onclick={() => load(1)}
        aria-label="Next heavier load">+</button
      >
      <span class="ml-auto whitespace-nowrap text-muted"
        >{Math.round(100 * swap.load.effort_ratio)} % effort</span
      >
    </div>
  {/if}
  {#each choices as c, i (key(c))}
    {@const listed = places(c)}
    <div>
      <div class="flex items-baseline gap-2">
        <label for="choice-{i}" class="text-muted">{c.name}</label>
        <output class="font-bold">{shown(c)}</output>
        <span class="ml-auto text-small">
          {#if c.cost === dearest && c.cost >= 1}<strong class="text-swap">matters most</strong> ·{/if}
          {c.words}
        </span>
      </div>
      <div class="relative mt-0.5 h-6">
        <span class="absolute inset-x-0 top-2.5 h-1.5 rounded-full bg-soft"></span>
        <span
          class="absolute top-2.5 h-1.5 rounded-full bg-swap opacity-45"
          style:left={percent(c, c.low)}
          style:right="calc(100% - {percent(c, c.high)})"
          style:min-width="4px"
        ></span>
        <input
          id="choice-{i}"
          type="range"
          class="slider absolute inset-x-0 top-0 h-6 w-full"
          min={listed ? 0 : c.least}
          max={listed ? listed.length - 1 : c.most}
          step={listed ? 1 : c.step}
          value={listed ? listed.indexOf(value(c)) : value(c)}
          oninput={(e) => {
            const v = Number(e.currentTarget.value);
            slide(c, listed ? (listed[v] ?? c.value) : v);
          }}
        />
      </div>
    </div>
  {:else}
    <p class="text-muted">
      {bench.detail ? 'Nothing to set here but the load.' : 'Reading the tolerances …'}
    </p>
  {/each}
  {#if bench.rejected}
    <p class="rounded border-l-4 border-swap bg-soft px-3 py-1.5" role="alert">
      Cannot be: {bench.rejected}
    </p>
  {/if}
  <div class="flex gap-2">
    <button
      class="flex items-center gap-1.5 rounded-md border border-line bg-panel px-3 py-1 font-semibold hover:border-muted disabled:opacity-45"
      disabled={!bench.hand}
      onclick={() => bench.snap()}
    >
      <RotateCcw size={14} /> Back to solved
    </button>
    <button
      class="flex items-center gap-1.5 rounded-md border border-line bg-panel px-3 py-1 font-semibold hover:border-muted disabled:opacity-45"
      disabled={!bench.hand}
      onclick={() => void bench.move([], true)}
    >
      <Scale size={14} /> Convert load anew
    </button>
  </div>
  <p class="text-small text-muted">
    The shaded part of a slider costs at most 5 points of match at the same load. Pulley, anchor and body can
    be dragged in the lower figure, too.
  </p>
</div>

<style>
  .slider {
    appearance: none;
    background: transparent;
  }
  .slider::-webkit-slider-thumb {
    appearance: none;
    width: 16px;
    height: 16px;
    border-radius: 50%;
    background: var(--panel);
    border: 3px solid var(--swap);
    cursor: grab;
  }
  .slider::-moz-range-thumb {
    width: 12px;
    height: 12px;
    border-radius: 50%;
    background: var(--panel);
    border: 3px solid var(--swap);
    cursor: grab;
  }
</style>
