<!-- The curve through the readings, the figures, and which accepted swaps they move. -->
<script lang="ts">
  import Faults from '../../lib/ui/Faults.svelte';
  import { coachUnits } from '../../lib/units/units.svelte';
  import Chart from './Chart.svelte';
  import type { Run } from './measure.svelte';

  let { run }: { run: Run } = $props();

  const units = $derived(coachUnits());
  const figure = (name: string) =>
    ({
      slack_cm: `slack length, ${units.length}`,
      most_n: 'pull at the longest, N',
      ratio: 'ratio, handle over stack',
      friction: 'friction',
      handle_n: 'handle and carriage, N',
      radius_cm: `mean cam radius, ${units.length}`,
      low_deg: 'low end, °',
      high_deg: 'high end, °',
      repetitions: 'repetitions',
    })[name] ?? name;
</script>

<section class="border-line px-5 py-4 lg:min-h-0 lg:overflow-y-auto lg:border-r" aria-label="Result">
  {#if run.rejected}<div class="mb-3"><Faults problem={run.rejected} /></div>{/if}
  {#if run.rows.length}
    <Chart what={run.what} rows={run.rows} fit={run.fit} />
  {:else}
    <p class="mt-16 text-center text-muted">Readings appear here as they come.</p>
  {/if}
  {#if run.fit}
    <p
      class="mt-2 rounded-lg border-l-4 {run.fit.good_enough
        ? 'border-prescribed'
        : 'border-swap'} bg-panel px-4 py-2 text-sm font-semibold"
      role="status"
    >
      {run.fit.advice}
    </p>
    <dl class="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-sm">
      {#each Object.entries(run.fit.figures) as [name, v] (name)}
        <dt class="text-muted">{figure(name)}</dt>
        <dd class="font-semibold">
          {name === 'friction' ? `${(v * 100).toFixed(1)} %` : name.endsWith('_cm') ? units.lengthText(v) : v}
        </dd>
      {/each}
    </dl>
    <div class="mt-3 flex items-center gap-4">
      <button
        class="rounded-lg bg-ink px-4 py-2 font-semibold text-paper disabled:opacity-40"
        disabled={!!run.done}
        onclick={() => void run.keep()}
        >{run.what === 'joint' ? 'Keep for this client' : 'Put into the kit'}</button
      >
      <p class="text-sm">
        {#if run.done}<strong>{run.done}</strong>{:else}{run.fit.changed.join(', ')}{/if}
      </p>
    </div>
    {#if run.stale.length}
      <div class="mt-3 rounded-lg border border-swap bg-panel px-4 py-3 text-sm" role="alert">
        <p class="font-semibold">Accepted swaps that the new figures move by more than 5 points:</p>
        <ul class="mt-1">
          {#each run.stale as s, i (i)}<li>
              {s.client}, {s.line}: {s.title}, match {Math.round(s.was)} is now {Math.round(s.now)}. Find it
              again.
            </li>{/each}
        </ul>
      </div>
    {:else if run.done && run.what !== 'joint'}
      <p class="mt-2 text-sm text-muted">No accepted swap moves by more than 5 points.</p>
    {/if}
  {/if}
</section>
