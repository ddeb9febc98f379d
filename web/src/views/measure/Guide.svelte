<!-- What to do, step by step, and where the readings come from. -->
<script lang="ts">
  import Choose from '../../lib/ui/Choose.svelte';
  import { typed } from '../../lib/ui/typed';
  import { coachUnits } from '../../lib/units/units.svelte';
  import type { Run } from './measure.svelte';
  import { shownUnits, tenths, type Way, type What } from './readings';

  let { run, names }: { run: Run; names: Record<What, string> } = $props();

  const how: Record<What, string[]> = {
    band: [
      'Hook the scale between band and anchor; read it unloaded.',
      'Walk back to the length shown, slack end to grip, by tape.',
      'Hold still until the figure settles; three passes in all.',
    ],
    column: [
      'Clip the scale between cable and handle; read it unloaded.',
      'Set the pin shown. Let the stack rise slowly and read, then sink slowly and read.',
      'Two passes over all pins.',
    ],
    cam: [
      'Set a light pin. Hook the scale at the handle, pull square to the arm.',
      'Angle finder on the arm; stop at the angle shown and hold still.',
      'Two passes along the travel.',
    ],
    joint: [
      'Strap the angle finder to the limb, or read it off film.',
      'Move slowly through the whole range that feels good, six times.',
      'Stop short of anything that hurts.',
    ],
  };
  let at = $state('');
  let value = $state('');
  let down = $state('');
  const units = $derived(coachUnits());
  const u = $derived(shownUnits(run.what));
</script>

<section class="border-line px-5 py-4 lg:min-h-0 lg:overflow-y-auto lg:border-r" aria-label="What to do">
  <h1 class="text-xl">Measure a {names[run.what]}</h1>
  <ol class="mt-2 list-decimal space-y-1.5 pl-5 text-sm">
    {#each how[run.what] as step (step)}<li>{step}</li>{/each}
  </ol>
  <fieldset class="mt-4">
    <legend class="section-title">Readings come from</legend>
    {#each [['stand-in', run.what === 'joint' ? 'the angle finder’s stand-in' : 'the scale’s stand-in'], ['file', 'a recorded file'], ['typed', 'numbers I type']] as const as [way, words] (way)}
      <label class="mt-1 flex items-center gap-2 text-sm"
        ><input
          type="radio"
          name="way"
          value={way}
          checked={run.way === way}
          onchange={() => (run.way = way as Way)}
        />{words}</label
      >
    {/each}
  </fieldset>
  {#if run.what === 'cam'}
    <div class="mt-3 grid grid-cols-2 gap-3 text-sm">
      <label class="text-small text-muted"
        >Pin, {units.mass}<input
          class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
          value={units.massText(run.stack)}
          onchange={(e) => (run.stack = units.asKg(e.currentTarget.value) || run.stack)}
        /></label
      >
      <label class="text-small text-muted"
        >Handle to axis, {units.length}<input
          class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
          value={units.lengthText(run.arm)}
          onchange={(e) => (run.arm = units.asCm(e.currentTarget.value) || run.arm)}
        /></label
      >
    </div>
  {/if}

  {#if run.what !== 'joint' && !run.item}
    <p class="mt-4 text-sm">
      There is no {names[run.what].replace('machine cam', 'machine')} at this place. Pick another place above.
    </p>
  {:else if run.way === 'stand-in' && run.what === 'joint'}
    <button
      class="mt-4 w-full rounded-lg bg-ink px-4 py-2.5 font-semibold text-paper"
      onclick={() => void run.film()}>Record six repetitions</button
    >
  {:else if run.way === 'stand-in'}
    {#if run.next !== null}
      <p class="mt-4 text-sm text-muted">Reading {run.rows.length + 1} of {run.plan.length}</p>
      <p class="font-head text-3xl font-bold">{u.text(run.next)} {u.at}</p>
      <button
        class="mt-2 w-full rounded-lg bg-ink px-4 py-2.5 font-semibold text-paper disabled:opacity-50"
        disabled={!!run.busy}
        onclick={() => void run.read(run.next!)}>Read the scale</button
      >
      <button
        class="mt-2 w-full rounded-lg border border-line bg-panel px-4 py-2 text-sm font-semibold disabled:opacity-50"
        disabled={!!run.busy}
        onclick={() => void run.readAll()}>Read all that is left</button
      >
    {:else}
      <p class="mt-4 text-sm font-semibold">All points are read.</p>
    {/if}
    {#if run.last}
      <svg
        viewBox="0 0 260 56"
        class="mt-3 w-full"
        role="img"
        aria-label="The scale over the last six seconds"
      >
        {#each run.last.shown as v, i (i)}
          {#if v !== null}<circle
              cx={4 + i * 4.2}
              cy={50 - (v / (Math.max(...run.last.shown.map((s) => s ?? 0)) || 1)) * 44}
              r="1.6"
              fill={i < 20 ? 'var(--muted)' : 'var(--prescribed)'}
            />{/if}
        {/each}
      </svg>
      <p class="text-small text-muted">
        {tenths(run.last.value)} ± {tenths(run.last.error)} N, {tenths(run.last.zero)} N unloaded;
        {run.last.used} readings count, the grey ones still settled
      </p>
    {/if}
  {:else if run.way === 'file'}
    <Choose
      label="Measurement file"
      accept=".csv,.xlsx,.json"
      look="mt-4 w-full rounded-lg bg-ink px-4 py-2.5 font-semibold text-paper"
      onfile={(file) => void run.file(file)}>Choose a file</Choose
    >
    <p class="mt-2 text-small text-muted">
      CSV, XLSX or JSON with the columns what, item, day, at, value, zero and, for a column, down.
    </p>
  {:else}
    <form
      class="mt-4 grid grid-cols-2 gap-2"
      onsubmit={(e) => {
        e.preventDefault();
        void run.type({
          at: u.meant(at),
          value: typed(value),
          zero: 0,
          down: down ? typed(down) : null,
        });
        value = down = '';
      }}
    >
      <label class="text-small text-muted"
        >{u.point}, {u.at}<input
          class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
          bind:value={at}
        /></label
      >
      <label class="text-small text-muted"
        >{run.what === 'column' ? 'rising' : 'shown'}, {u.value}<input
          class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
          bind:value
        /></label
      >
      {#if run.what === 'column'}
        <label class="text-small text-muted"
          >sinking, N<input
            class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
            bind:value={down}
          /></label
        >
      {/if}
      <button
        class="h-8 self-end rounded-md bg-ink font-semibold text-paper disabled:opacity-40"
        disabled={!Number.isFinite(typed(at || 'x')) ||
          !Number.isFinite(typed(value || 'x')) ||
          (run.what === 'column' && !down)}>Add</button
      >
    </form>
  {/if}
  {#if run.busy}<p class="mt-2 text-sm text-muted" role="status">{run.busy}</p>{/if}
</section>
