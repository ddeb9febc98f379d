<!-- Where a set was felt: parts of a body, seen from the front or from behind, each as wide as a thumb. -->
<script lang="ts">
  type Props = { meant: string; felt: string[]; onturn: (place: string) => void };
  let { meant, felt, onturn }: Props = $props();

  /** A limb's part from one place to another, as thick as the last figure; `middle` ones have no other side. */
  type Part = { name: string; from: [number, number]; to: [number, number]; wide: number; middle?: boolean };
  const WIDE = 160;
  const FRONT: Part[] = [
    { name: 'neck', from: [80, 50], to: [80, 58], wide: 22, middle: true },
    { name: 'abs', from: [80, 128], to: [80, 158], wide: 42, middle: true },
    { name: 'chest', from: [66, 88], to: [69, 98], wide: 32 },
    { name: 'shoulder', from: [45, 82], to: [44, 88], wide: 28 },
    { name: 'biceps', from: [39, 112], to: [36, 134], wide: 22 },
    { name: 'forearm', from: [32, 168], to: [27, 192], wide: 19 },
    { name: 'elbow', from: [34, 152], to: [34, 153], wide: 19 },
    { name: 'wrist', from: [24, 214], to: [23, 220], wide: 16 },
    { name: 'hip', from: [66, 184], to: [65, 190], wide: 31 },
    { name: 'quads', from: [62, 220], to: [65, 258], wide: 31 },
    { name: 'shin', from: [66, 316], to: [66, 352], wide: 20 },
    { name: 'knee', from: [66, 288], to: [66, 289], wide: 25 },
    { name: 'ankle', from: [66, 374], to: [62, 384], wide: 17 },
  ];
  const BEHIND: Part[] = [
    { name: 'lower back', from: [80, 148], to: [80, 162], wide: 38, middle: true },
    { name: 'upper back', from: [72, 84], to: [73, 104], wide: 26 },
    { name: 'lats', from: [60, 112], to: [66, 136], wide: 20 },
    { name: 'rear shoulder', from: [46, 82], to: [45, 88], wide: 27 },
    { name: 'triceps', from: [39, 112], to: [36, 136], wide: 23 },
    { name: 'glutes', from: [66, 188], to: [65, 196], wide: 34 },
    { name: 'hamstrings', from: [62, 226], to: [65, 266], wide: 29 },
    { name: 'calves', from: [66, 306], to: [66, 338], wide: 25 },
  ];
  /** What is not asked for, so that a whole body stands there. */
  const REST: Part[] = [
    { name: '', from: [80, 20], to: [80, 28], wide: 30, middle: true },
    { name: '', from: [80, 50], to: [80, 58], wide: 20, middle: true },
    { name: '', from: [33, 152], to: [26, 196], wide: 17 },
    { name: '', from: [24, 212], to: [23, 222], wide: 14 },
    { name: '', from: [66, 282], to: [66, 366], wide: 18 },
    { name: '', from: [66, 372], to: [64, 384], wide: 15 },
  ];
  const SEEN: [string, Part[]][] = [
    ['front', FRONT],
    ['back', BEHIND],
  ];
  let view = $state('front');
  const parts = $derived(SEEN.find(([name]) => name === view)![1]);
  const sides = (p: Part) => (p.middle ? [1] : [1, -1]);
  const x = (at: number, side: number) => (side > 0 ? at : WIDE - at);
</script>

{#snippet stroke(p: Part, colour: string, wide: number)}
  {#each sides(p) as side (side)}
    <line
      x1={x(p.from[0], side)}
      y1={p.from[1]}
      x2={x(p.to[0], side)}
      y2={p.to[1]}
      stroke={colour}
      stroke-width={wide}
      stroke-linecap="round"
    />
  {/each}
{/snippet}

<div class="mb-2 grid grid-cols-2 gap-2" role="group" aria-label="which side of the body">
  {#each SEEN as [name] (name)}
    <button
      class="h-11 rounded-xl border text-base font-semibold {view === name
        ? 'border-ink bg-ink text-paper'
        : 'border-line bg-panel'}"
      aria-pressed={view === name}
      onclick={() => (view = name)}>{name}</button
    >
  {/each}
</div>
<div class="rounded-xl border border-line bg-panel py-2">
  <svg viewBox="0 0 {WIDE} 396" class="mx-auto w-full max-w-72" role="group" aria-label="felt where, {view}">
    {#each REST as p, i (i)}{@render stroke(p, 'var(--line)', p.wide)}{/each}
    {#each parts as p (p.name)}
      <g
        class="cursor-pointer outline-offset-2"
        role="button"
        tabindex="0"
        aria-label={p.name}
        aria-pressed={felt.includes(p.name)}
        onpointerdown={(e) => e.preventDefault()}
        onclick={() => onturn(p.name)}
        onkeydown={(e) => {
          if (e.key === 'Enter' || e.key === ' ') {
            e.preventDefault();
            onturn(p.name);
          }
        }}
      >
        {@render stroke(p, 'transparent', p.wide + 12)}
        {@render stroke(p, felt.includes(p.name) ? 'var(--swap)' : 'var(--body)', p.wide)}
      </g>
    {/each}
  </svg>
</div>
<p class="mt-1 text-sm" aria-live="polite">
  {#if felt.length}felt in the <strong>{felt.join(', ')}</strong>{:else}meant for the <strong>{meant}</strong
    >: tap where it was felt{/if}
</p>
