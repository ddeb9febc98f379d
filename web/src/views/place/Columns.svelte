<!-- Heights of a place to scale against the client: pulleys with their holes, anchors, bars, ceiling. -->
<script lang="ts">
  import type { PlaceDoc } from '../../lib/api/client';
  import type { Units } from '../../lib/units/units.svelte';
  type Props = { place: PlaceDoc; units: Units; stature: number; client: string };
  let { place, units, stature, client }: Props = $props();
  type Item = { name: string; heights: number[]; rail: boolean };
  const items: Item[] = $derived(
    place.kit.flatMap((k): Item[] => {
      if (k.kind === 'cable_column') {
        const step = k.holes > 1 ? (k.highest_cm - k.lowest_cm) / (k.holes - 1) : 0;
        return [
          {
            name: k.name,
            heights: Array.from({ length: k.holes }, (_, i) => k.lowest_cm + i * step),
            rail: true,
          },
        ];
      }
      if (k.kind === 'anchor') return [{ name: k.name, heights: k.heights_cm, rail: false }];
      if (k.kind === 'station' && (k.height_cm ?? 0) > 60 && k.use.endsWith('bar'))
        return [{ name: k.name, heights: [k.height_cm ?? 0], rail: false }];
      return [];
    }),
  );
  const top = $derived(Math.min(place.room.ceiling_cm, 330));
  const y = (cm: number) => 150 - (cm / top) * 140;
  /** Round heights in the units of who looks: metres, or yards. */
  const ticks = $derived(units.length === 'cm' ? [0, 100, 200] : ['0', '36', '72'].map(units.asCm));
  const gap = 74;
  const wide = $derived(92 + Math.max(1, items.length) * gap);
</script>

<svg
  viewBox="0 0 {wide} 178"
  width={wide}
  class="h-[178px] shrink-0"
  role="img"
  aria-label="Heights at {place.name} beside {client}"
>
  {#each ticks as cm (cm)}
    <line x1="24" x2={wide} y1={y(cm)} y2={y(cm)} stroke="var(--line)" stroke-dasharray={cm ? '2 5' : ''} />
    <text x="0" y={y(cm) + 4} class="fill-muted text-mark">{units.lengthText(cm)}</text>
  {/each}
  <line x1="24" x2={wide} y1={y(top)} y2={y(top)} stroke="var(--kit)" stroke-width="2" />
  <g fill="var(--body)" transform="translate(48 150) scale({((stature / top) * 140) / 100})">
    <circle cx="0" cy="-93" r="7" />
    <path
      d="M-13 -81q13 -6 26 0l3 34q-3 2 -5 0l-3 -22l-1 22l-2 47h-6l-2 -40l-2 40h-6l-2 -47l-1 -22l-3 22q-2 2 -5 0z"
    />
  </g>
  {#each items as item, i (i)}
    {@const x = 92 + i * gap}
    {#if item.rail}<rect
        x={x - 3}
        y={y(Math.max(...item.heights) + 6)}
        width="6"
        height={150 - y(Math.max(...item.heights) + 6)}
        rx="2"
        fill="var(--kit)"
      />{/if}
    {#each item.heights as cm, h (h)}
      {#if item.rail}<circle cx={x} cy={y(cm)} r="1.3" fill="var(--paper)" />
      {:else}<circle cx={x} cy={y(cm)} r="3.4" fill="none" stroke="var(--kit)" stroke-width="2" />{/if}
    {/each}
    <text {x} y={i % 2 ? 176 : 164} text-anchor="middle" class="fill-ink text-mark">{item.name}</text>
  {/each}
</svg>
