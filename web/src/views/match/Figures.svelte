<!-- Both set-ups on the client, one above the axis, one below; the lower can be dragged. -->
<script lang="ts">
  import Expand from '@lucide/svelte/icons/expand';
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';
  import type { Swap } from '../../lib/api/client';
  import Figure from '../../lib/draw/Figure.svelte';
  import { bounds, scaleOf } from '../../lib/draw/frame';
  import type { Bench } from './match.svelte';

  let {
    bench,
    above,
    swap,
    poses,
    half,
    beside = $bindable(0),
    onhands,
    onsides,
  }: {
    bench: Bench;
    above: NonNullable<Swap['profile']>;
    swap: NonNullable<Swap['profile']>;
    poses: { over: number; under: number };
    half: number;
    beside: number;
    onhands: () => void;
    onsides: () => void;
  } = $props();

  const scale = $derived(
    Math.min(...[above, swap].map((q) => scaleOf(bounds(q, bench.view), beside, half)), 230),
  );
</script>

<section class="relative max-lg:h-[360px]" aria-label="Figures" bind:clientWidth={beside}>
  <div class="absolute inset-x-0 top-1/2 border-t border-line"></div>
  {#if beside}
    <div class="absolute inset-x-0 top-0 overflow-hidden" style:height="{half}px">
      <Figure
        profile={above}
        pose={poses.over}
        view={bench.view}
        colour="var(--prescribed)"
        width={beside}
        height={half}
        {scale}
        length={bench.units.show}
        label="{bench.reference === null ? 'Prescribed' : 'Compared'}: {bench.above?.title}, {above.reading[
          poses.over
        ]}, seen from the {bench.view}"
      />
    </div>
    <div class="absolute inset-x-0 bottom-0 overflow-hidden" style:height="{half}px">
      <Figure
        profile={swap}
        pose={poses.under}
        view={bench.view}
        colour="var(--swap)"
        width={beside}
        height={half}
        {scale}
        length={bench.units.show}
        label="Swap: {bench.swap?.title}, {swap.reading[poses.under]}, seen from the {bench.view}"
        oncarry={(source, point_m) => {
          onhands();
          void bench.move([{ source, id: 'point', point_m }]);
        }}
      />
    </div>
  {/if}
  <p class="absolute top-1.5 left-3 rounded bg-paper/85 px-1.5 text-small font-semibold text-prescribed">
    {above.reading[poses.over]}
  </p>
  <div class="absolute top-1 right-1 flex items-center gap-0.5">
    <button
      class="rounded bg-soft px-2 py-0.5 text-small font-semibold hover:text-muted"
      onclick={() => bench.turnView()}
      aria-label="Seen from the {bench.view}: turn">{bench.view}</button
    >
    <button
      class="rounded bg-paper/85 p-1.5 text-muted hover:text-ink"
      onclick={() => bench.play()}
      aria-label={bench.playing ? 'Stop playing' : 'Play through the range'}
    >
      {#if bench.playing}<Pause size={16} />{:else}<Play size={16} />{/if}
    </button>
    <button
      class="rounded bg-paper/85 p-1.5 text-muted hover:text-ink"
      onclick={onsides}
      aria-label="Figures from three sides"><Expand size={16} /></button
    >
  </div>
  <p class="absolute top-1/2 left-3 mt-1.5 rounded bg-paper/85 px-1.5 text-small font-semibold text-swap">
    {swap.reading[poses.under]}
  </p>
</section>
