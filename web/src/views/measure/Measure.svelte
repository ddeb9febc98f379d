<!-- The measuring bench: a guided run from readings to figures that go into the kit or the client. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import Faults from '../../lib/ui/Faults.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, route } from '../../router';
  import Chart from './Chart.svelte';
  import { Run, UNITS, type Way, type What } from './measure.svelte';

  const run = new Run();
  const params = route.params as { place?: string; item?: string };
  void run.start(Number(params.place) || 0, params.item ?? '');
  const names: Record<What, string> = {
    band: 'band',
    column: 'pulley column',
    cam: 'machine cam',
    joint: 'joint range',
  };
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
  let files: HTMLInputElement | undefined = $state();
  const u = $derived(UNITS[run.what]);
  const figure = (name: string) =>
    ({
      slack_cm: 'slack length, cm',
      most_n: 'pull at the longest, N',
      ratio: 'ratio, handle over stack',
      friction: 'friction',
      handle_n: 'handle and carriage, N',
      radius_cm: 'mean cam radius, cm',
      low_deg: 'low end, °',
      high_deg: 'high end, °',
      repetitions: 'repetitions',
    })[name] ?? name;
  const number = (text: string) => Number(text.replace(',', '.'));
  const shortcuts: Shortcut[] = [
    {
      keys: [' '],
      shown: 'Space',
      does: 'Read the next point',
      run: () => void (run.next !== null && run.way === 'stand-in' && run.read(run.next)),
    },
    { keys: ['a'], shown: 'A', does: 'Read all that is left', run: () => void run.readAll() },
    {
      keys: ['Escape'],
      shown: 'Esc',
      does: 'To the place',
      run: () => void navigate('/places/:place', { params: { place: String(run.place) } }),
    },
  ];
  /** To a tenth; nothing is nothing, without a sign. */
  const tenths = (v: number) => v.toFixed(1).replace(/^-0\.0$/, '0.0');
</script>

<Shell title="Measuring bench" {shortcuts}>
  {#snippet crumbs()}<span class="font-semibold text-ink">Measuring bench</span>{/snippet}
  {#snippet tools()}
    <Pick
      name="measure"
      value={run.what}
      items={Object.entries(names).map(([v, label]) => ({ value: v, label }))}
      onpick={(v) => run.choose(v as What)}
    />
    {#if run.what === 'joint'}
      <Pick
        name="of"
        value={String(run.client)}
        items={run.clients.map((c) => ({ value: String(c.id), label: c.client.name }))}
        onpick={(v) => (run.client = Number(v))}
      />
      <Pick
        name="joint"
        value={run.joint}
        items={run.ranges.map((r) => ({ value: r.name, label: r.name.replaceAll('_', ' ') }))}
        onpick={(v) => {
          run.joint = v;
          run.clear();
        }}
      />
    {:else}
      <Pick
        name="at"
        value={String(run.place)}
        items={run.places.map((q) => ({ value: String(q.id), label: q.name }))}
        onpick={(v) => void run.at(Number(v))}
      />
      {#if run.item}
        <Pick
          name="item"
          value={run.item.id}
          items={run.items.map((k) => ({ value: k.id, label: k.name }))}
          onpick={(v) => {
            run.itemId = v;
            run.clear();
          }}
        />
      {/if}
    {/if}
  {/snippet}

  <div class="grid h-full grid-cols-[300px_minmax(420px,1fr)_330px]">
    <section class="min-h-0 overflow-y-auto border-r border-line px-5 py-4" aria-label="What to do">
      <h1 class="text-xl">Measure a {names[run.what]}</h1>
      <ol class="mt-2 list-decimal space-y-1.5 pl-5 text-sm">
        {#each how[run.what] as step (step)}<li>{step}</li>{/each}
      </ol>
      <fieldset class="mt-4">
        <legend class="font-sans text-xs font-bold tracking-[0.1em] uppercase">Readings come from</legend>
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
          <label class="text-[13px] text-muted"
            >Pin, kg<input
              type="number"
              class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
              bind:value={run.stack}
            /></label
          >
          <label class="text-[13px] text-muted"
            >Handle to axis, cm<input
              type="number"
              class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
              bind:value={run.arm}
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
          <p class="font-head text-3xl font-bold">{run.next} {u.at}</p>
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
          <p class="text-[13px] text-muted">
            {tenths(run.last.value)} ± {tenths(run.last.error)} N, {tenths(run.last.zero)} N unloaded;
            {run.last.used} readings count, the grey ones still settled
          </p>
        {/if}
      {:else if run.way === 'file'}
        <input
          bind:this={files}
          type="file"
          accept=".csv,.xlsx,.json"
          class="hidden"
          aria-label="Measurement file"
          onchange={(e) => {
            const f = e.currentTarget.files?.[0];
            if (f) void run.file(f);
            e.currentTarget.value = '';
          }}
        />
        <button
          class="mt-4 w-full rounded-lg bg-ink px-4 py-2.5 font-semibold text-paper"
          onclick={() => files?.click()}>Choose a file</button
        >
        <p class="mt-2 text-[13px] text-muted">
          CSV, XLSX or JSON with the columns what, item, day, at, value, zero and, for a column, down.
        </p>
      {:else}
        <form
          class="mt-4 grid grid-cols-2 gap-2"
          onsubmit={(e) => {
            e.preventDefault();
            void run.type({
              at: number(at),
              value: number(value),
              zero: 0,
              down: down ? number(down) : null,
            });
            value = down = '';
          }}
        >
          <label class="text-[13px] text-muted"
            >{u.point}, {u.at}<input
              class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
              bind:value={at}
            /></label
          >
          <label class="text-[13px] text-muted"
            >{run.what === 'column' ? 'rising' : 'shown'}, {u.value}<input
              class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
              bind:value
            /></label
          >
          {#if run.what === 'column'}
            <label class="text-[13px] text-muted"
              >sinking, N<input
                class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2 text-ink"
                bind:value={down}
              /></label
            >
          {/if}
          <button
            class="h-8 self-end rounded-md bg-ink font-semibold text-paper disabled:opacity-40"
            disabled={!Number.isFinite(number(at || 'x')) ||
              !Number.isFinite(number(value || 'x')) ||
              (run.what === 'column' && !down)}>Add</button
          >
        </form>
      {/if}
      {#if run.busy}<p class="mt-2 text-sm text-muted" role="status">{run.busy}</p>{/if}
    </section>

    <section class="min-h-0 overflow-y-auto border-r border-line px-5 py-4" aria-label="Result">
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
            <dd class="font-semibold">{name === 'friction' ? `${(v * 100).toFixed(1)} %` : v}</dd>
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
                  {s.client}, {s.line}: {s.title}, match {Math.round(s.was)} is now {Math.round(s.now)}. Find
                  it again.
                </li>{/each}
            </ul>
          </div>
        {:else if run.done && run.what !== 'joint'}
          <p class="mt-2 text-sm text-muted">No accepted swap moves by more than 5 points.</p>
        {/if}
      {/if}
    </section>

    <section class="min-h-0 overflow-y-auto px-5 py-4" aria-label="Readings">
      <div class="flex items-baseline">
        <h2 class="font-sans text-xs font-bold tracking-[0.1em] uppercase">Readings</h2>
        {#if run.rows.length}<button class="ml-auto text-sm text-muted underline" onclick={() => run.clear()}
            >Begin again</button
          >{/if}
      </div>
      {#if run.what === 'joint'}
        <p class="mt-1 text-sm text-muted">
          {run.rows.length} angles over {Math.round(run.rows.at(-1)?.at ?? 0)} s
        </p>
      {:else}
        <table class="mt-1 w-full text-sm">
          <thead class="text-left text-[13px] text-muted"
            ><tr
              ><th class="font-normal">{u.at}</th><th class="text-right font-normal">N</th
              >{#if run.what === 'column'}<th class="text-right font-normal">N, sinking</th>{/if}<th
                class="text-right font-normal">off</th
              ><th class="sr-only">remove</th></tr
            ></thead
          >
          <tbody>
            {#each run.rows as r, i (i)}
              <tr class="border-t border-line {run.fit?.outliers[i] ? 'text-muted line-through' : ''}">
                <td>{r.at}</td>
                <td class="text-right">{tenths(r.value - r.zero)}</td>
                {#if run.what === 'column'}<td class="text-right">{tenths((r.down ?? 0) - r.zero)}</td>{/if}
                <td class="text-right"
                  >{run.fit?.residuals[i] === undefined ? '' : tenths(run.fit.residuals[i]!)}</td
                >
                <td class="text-right"
                  ><button
                    class="text-muted hover:text-ink"
                    aria-label="Remove reading {i + 1}"
                    onclick={() => void run.drop(i)}><Trash size={13} /></button
                  ></td
                >
              </tr>
            {/each}
          </tbody>
        </table>
      {/if}
    </section>
  </div>
</Shell>
