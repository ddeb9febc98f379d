<!-- Both set-ups from the side, from the front and from above, moving together through their range. -->
<script lang="ts">
  import Figure from '../../lib/draw/Figure.svelte';
  import { bounds, scaleOf } from '../../lib/draw/frame';
  import { poseAt } from '../../lib/draw/shape';
  import type { Profile } from '../../lib/api/client';
  import type { View } from '../../lib/draw/geometry';
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench };
  let { bench }: Props = $props();
  const target = $derived(bench.match?.prescribed.target ?? '');
  const views: { view: View; name: string }[] = [
    { view: 'side', name: 'from the side' },
    { view: 'front', name: 'from the front' },
    { view: 'top', name: 'from above' },
  ];
  const [width, height] = [290, 250];
  const rows = $derived(
    [
      {
        name: bench.reference === null ? 'Prescribed' : 'Compared',
        profile: bench.above?.profile,
        colour: 'var(--prescribed)',
      },
      { name: 'Swap', profile: bench.swap?.profile, colour: 'var(--swap)' },
    ].flatMap((r) => (r.profile ? [{ ...r, profile: r.profile as Profile }] : [])),
  );
  const scales = $derived(
    views.map(({ view }) =>
      Math.min(150, ...rows.map((r) => scaleOf(bounds(r.profile, view), width, height))),
    ),
  );
</script>

<div class="grid grid-cols-3 gap-2">
  {#each rows as row (row.name)}
    {#each views as v, i (v.view)}
      <figure class="rounded-lg border border-line bg-paper">
        <Figure
          profile={row.profile}
          pose={poseAt(row.profile, target, bench.at)}
          view={v.view}
          colour={row.colour}
          {width}
          {height}
          scale={scales[i] ?? 100}
          label="{row.name} seen {v.name}"
        />
        <figcaption class="border-t border-line px-3 py-1 text-sm">
          <strong style:color={row.colour}>{row.name}</strong>
          {v.name}
        </figcaption>
      </figure>
    {/each}
  {/each}
</div>
<div class="mt-3 flex items-center gap-3 text-sm">
  <button
    class="rounded-md border border-line px-3 py-1 font-semibold hover:border-muted"
    onclick={() => bench.play()}>{bench.playing ? 'Pause' : 'Play'}</button
  >
  <span class="text-muted">lengthened end</span>
  <input
    type="range"
    class="flex-1"
    min="0"
    max="1"
    step="0.01"
    bind:value={bench.at}
    aria-label="Muscle length"
  />
  <span class="text-muted">shortened end</span>
</div>
