<!-- Calculators: inputs and drawing, the answer, its formula and an example worked by hand. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { navigate, p, route } from '../../router';
  import Fault from '../../lib/ui/Fault.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Sketch from './Sketch.svelte';
  import { Calculators } from './calculators.svelte';

  const calculators = new Calculators();
  $effect(() => {
    const wanted = route.params.calculator ?? '';
    const given = Object.fromEntries(new URLSearchParams(location.search));
    // What loading reads and writes must not load again.
    untrack(() => void calculators.load(wanted, given));
  });
  const index = $derived(calculators.all.findIndex((s) => s.id === calculators.chosen));
  function step(by: number) {
    const next = calculators.all[index + by];
    if (next) void navigate('/calculators/:calculator', { params: { calculator: next.id } });
  }
  const shortcuts: Shortcut[] = [
    { keys: ['ArrowUp'], shown: '↑', does: 'Calculator before', run: () => step(-1) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Calculator after', run: () => step(1) },
    { keys: ['e'], shown: 'E', does: 'Put in the worked example', run: () => void calculators.example() },
    { keys: ['Escape'], shown: 'Esc', does: 'Back to the roster', run: () => void navigate('/') },
  ];
</script>

<Shell title={calculators.current?.name ?? 'Calculators'} {shortcuts}>
  {#snippet crumbs()}<span class="font-semibold text-ink">Calculators</span>{/snippet}
  {#if calculators.problem}
    <Fault problem={calculators.problem} retry={() => void calculators.load('', {})} />
  {:else if calculators.current}
    {@const sum = calculators.current}
    <div
      class="grid h-full grid-cols-[220px_minmax(320px,1fr)_minmax(340px,1.1fr)] overflow-hidden max-md:block max-md:overflow-y-auto"
    >
      <nav class="overflow-y-auto border-r border-line bg-soft p-3 max-md:border-b" aria-label="Calculators">
        {#each calculators.all as one (one.id)}
          <a
            href={p('/calculators/:calculator', { params: { calculator: one.id } })}
            aria-current={one.id === sum.id ? 'page' : undefined}
            class="block rounded-md px-3 py-1.5 {one.id === sum.id
              ? 'bg-panel font-semibold'
              : 'text-muted hover:text-ink'}">{one.name}</a
          >
        {/each}
      </nav>
      <section class="overflow-y-auto p-6" aria-label="Values">
        <h1 class="text-2xl">{sum.name}</h1>
        <p class="mt-1 text-muted">{sum.question}</p>
        <div class="mt-5 space-y-4">
          {#each sum.inputs as input (input.id)}
            <div>
              <div class="flex items-baseline justify-between gap-3 text-sm">
                <label for="in-{input.id}">{input.name}</label>
                {#if !input.text}
                  <span class="whitespace-nowrap">
                    <input
                      type="number"
                      class="w-20 rounded border border-line bg-panel px-2 py-0.5 text-right font-semibold"
                      value={calculators.values[input.id]}
                      min={input.low}
                      max={input.high}
                      step="any"
                      aria-label="{input.name}, number"
                      aria-invalid={calculators.faults[input.id] ? 'true' : undefined}
                      oninput={(e) => void calculators.set(input.id, e.currentTarget.valueAsNumber)}
                    />
                    {input.unit}
                  </span>
                {/if}
              </div>
              {#if input.text}
                <input
                  id="in-{input.id}"
                  type="text"
                  class="mt-1 w-full rounded border border-line bg-panel px-2 py-1"
                  value={calculators.values[input.id]}
                  aria-invalid={calculators.faults[input.id] ? 'true' : undefined}
                  oninput={(e) => void calculators.set(input.id, e.currentTarget.value)}
                />
                <p class="text-small text-muted">{input.unit}</p>
              {:else}
                <input
                  id="in-{input.id}"
                  type="range"
                  class="mt-1 w-full"
                  min={input.low}
                  max={input.high}
                  step={input.step}
                  value={calculators.values[input.id]}
                  oninput={(e) => void calculators.set(input.id, e.currentTarget.valueAsNumber)}
                />
              {/if}
              {#if calculators.faults[input.id]}
                <p class="text-small text-swap" role="alert">{calculators.faults[input.id]}</p>
              {/if}
            </div>
          {/each}
        </div>
      </section>
      <section
        class="overflow-y-auto border-l border-line bg-panel p-6 max-md:border-l-0"
        aria-label="Answer"
      >
        {#if calculators.answer}
          <p class="font-head text-xl font-semibold" aria-live="polite">{calculators.answer.says}</p>
          {#if calculators.answer.caution}
            <p class="mt-2 border-l-4 border-swap bg-soft px-3 py-1.5 text-sm">
              {calculators.answer.caution}
            </p>
          {/if}
          <Sketch answer={calculators.answer} name={sum.name} />
          <dl class="mt-3 grid grid-cols-[1fr_auto] gap-x-6 gap-y-1 text-sm">
            {#each calculators.answer.rows as [what, value] (what)}
              <dt class="text-muted">{what}</dt>
              <dd class="text-right font-semibold">{value}</dd>
            {/each}
          </dl>
        {/if}
        <h2 class="mt-6 text-base">Formula</h2>
        <p class="font-semibold">{sum.formula}</p>
        <p class="text-small text-muted">{sum.source}</p>
        <h2 class="mt-4 text-base">By hand</h2>
        <p>{sum.worked}</p>
        <button
          class="mt-2 rounded-md border border-line px-3 py-1 text-sm font-semibold hover:border-muted"
          onclick={() => void calculators.example()}>Put in these values</button
        >
      </section>
    </div>
  {:else}
    <p class="p-8 text-muted" role="status">Reading the calculators …</p>
  {/if}
</Shell>
