<!-- One lift: the drawing to scale, the steps in order with how wrong they may be, what to feel, what to watch, when to stop. -->
<script lang="ts">
  import Figure from '../../lib/draw/Figure.svelte';
  import { bestView, bounds, scaleOf } from '../../lib/draw/frame';
  import { setWords } from './words';
  import type { Card, Lift } from './card.svelte';

  let { card, lift, onfix }: { card: Card; lift: Lift; onfix: (id: string) => void } = $props();
  const way = $derived(card.way(lift));
  const done = $derived(card.sets(lift));
  const at = $derived(card.card?.lifts.indexOf(lift) ?? 0);
  const figure = $derived(way.figure);
  const view = $derived(figure ? bestView(figure) : 'side');
  let pose = $state(2);
  let width = $state(0);
  const HEIGHT = 230;
</script>

<div class="min-h-0 flex-1 overflow-y-auto">
  <div class="px-4 pt-3">
    <p class="text-small text-muted">
      lift {at + 1} of {card.card?.lifts.length}{lift.label ? ` · ${lift.label}` : ''} · {lift.name}
    </p>
    <h1 class="text-2xl">{way.title}</h1>
    <p class="text-base">
      {lift.target_name} · <strong>{way.scheme || `${lift.sets} × ${way.reps}`}</strong>{lift.each_side
        ? ' each side'
        : ''} · {lift.stop.toLowerCase()}
    </p>
    {#if lift.tempo}<p class="text-sm">{lift.tempo}</p>{/if}
    {#if (card.ways[lift.line] ?? 0) > 0}
      <p class="text-sm text-swap">
        In place of {lift.ways[0]?.title}, {lift.ways[0]?.kit}.
        <button class="min-h-11 font-semibold underline" onclick={() => (card.ways[lift.line] = 0)}
          >Back to it</button
        >
      </p>
    {/if}
    {#if way.why}<p class="mt-1 text-sm text-muted">
        {way.load}: {way.why}{#if way.expected}. {way.expected}{/if}.
      </p>{/if}
  </div>
  {#if figure}
    <div class="mt-2 border-y border-line bg-panel" bind:clientWidth={width}>
      {#if width}
        <Figure
          profile={figure}
          {pose}
          {view}
          colour="var(--swap)"
          plain
          {width}
          height={HEIGHT}
          scale={Math.min(scaleOf(bounds(figure, view), width, HEIGHT), 130)}
          label="{way.title}, {figure.reading[pose]}, seen from the {view}, to scale"
        />
      {/if}
      <div class="flex justify-center gap-2 pb-1">
        {#each ['begin', 'middle', 'end'] as name, i (name)}
          <button
            class="min-h-11 rounded-full px-4 text-sm font-semibold {pose === i
              ? 'bg-ink text-paper'
              : 'text-muted'}"
            aria-pressed={pose === i}
            onclick={() => (pose = i)}>{name}</button
          >
        {/each}
      </div>
    </div>
  {/if}
  <ol class="space-y-2 px-4 py-3 text-base">
    {#each way.steps as step, i (step.what + i)}
      <li class="grid grid-cols-[24px_1fr]">
        <span class="font-semibold text-swap">{i + 1}</span>
        <span
          ><strong>{step.value}</strong>{#if step.tolerance}<span class="text-muted">, {step.tolerance}</span
            >{/if}</span
        >
      </li>
    {/each}
  </ol>
  <ul class="space-y-1 px-4 text-base">
    {#each way.feel as line (line)}<li>{line}</li>{/each}
  </ul>
  {#each way.watch as line (line)}
    <p class="mx-4 mt-2 border-l-4 border-swap pl-3 text-sm">{line}</p>
  {/each}
  <p class="mx-4 mt-2 border-l-4 border-swap pl-3 text-sm">{card.card?.safety[0]}</p>
  {#if done.length}
    <h2 class="mt-4 px-4 section-title">Today</h2>
    <ul class="px-4 pb-2 text-base">
      {#each done as kept, i (kept.id)}
        <li class="flex items-center gap-3 border-b border-line">
          <span class="text-muted">set {i + 1}</span>
          <span class="flex-1 font-semibold">{setWords(kept.entry.set, way)}</span>
          <button class="min-h-11 px-2 underline" onclick={() => onfix(kept.id)}>Fix</button>
          <button class="min-h-11 px-2 underline" onclick={() => void card.takeBack(kept.id)}
            >Take back</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</div>
