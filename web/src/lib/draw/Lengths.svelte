<!-- Muscles over their own length: for each, the stretch the movement uses and where it is loaded there. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import { area } from 'd3-shape';

  export type Row = { id: string; name: string; lengths: number[]; load: number[]; target: boolean };
  type Props = { rows: Row[]; width: number; pose: number };
  let { rows, width, pose }: Props = $props();

  /** Room for the muscles' names. */
  const left = $derived(width < 420 ? 140 : 176);
  const step = 34;
  const x = $derived(
    scaleLinear()
      .domain([0, 1])
      .range([left, width - 14]),
  );
  const height = $derived(22 + rows.length * step + 18);
  /** Half as many as there are poses, so that none stands empty between two that are full. */
  const BINS = 15;
  /** Mean load per stretch of length as a filled shape on the row's line, to its own peak. */
  function shape(row: Row, base: number): string {
    const [low, high] = [Math.min(...row.lengths), Math.max(...row.lengths)];
    if (high - low < 0.005) return '';
    const bins = Array.from({ length: BINS }, (_, b) => {
      const inside = row.load.filter(
        (_, i) => Math.min(BINS - 1, Math.floor((((row.lengths[i] ?? 0) - low) / (high - low)) * BINS)) === b,
      );
      return {
        l: low + ((b + 0.5) / BINS) * (high - low),
        v: inside.reduce((a, c) => a + c, 0) / inside.length,
      };
    }).filter((b) => !Number.isNaN(b.v));
    const peak = Math.max(1e-6, ...bins.map((b) => b.v));
    return (
      area<{ l: number; v: number }>()
        .x((p) => x(p.l))
        .y0(base)
        .y1((p) => base - (p.v / peak) * 20)(bins) ?? ''
    );
  }
</script>

<svg viewBox="0 0 {width} {height}" {width} {height} role="img" aria-label="Muscles over their own length">
  {#each [['lengthened', 1 / 6], ['mid', 1 / 2], ['shortened', 5 / 6]] as zone (zone[0])}
    <text
      x={x(Number(zone[1]))}
      y="12"
      text-anchor="middle"
      class="fill-muted text-mark font-semibold tracking-[0.14em] uppercase">{zone[0]}</text
    >
  {/each}
  {#each [0, 1 / 3, 2 / 3, 1] as border (border)}
    <line x1={x(border)} x2={x(border)} y1="18" y2={height - 16} stroke="var(--line)" />
  {/each}
  {#each rows as row, i (row.id)}
    {@const base = 22 + (i + 1) * step - 8}
    {@const colour = row.target ? 'var(--swap)' : 'var(--kit)'}
    <text
      x={left - 10}
      y={base}
      text-anchor="end"
      class="fill-ink text-small {row.target ? 'font-semibold' : ''}">{row.name}</text
    >
    <line x1={x(0)} x2={x(1)} y1={base} y2={base} stroke="var(--line)" />
    <path d={shape(row, base)} fill={colour} fill-opacity={row.target ? 0.9 : 0.6} />
    <line
      x1={x(Math.min(...row.lengths))}
      x2={x(Math.max(...row.lengths))}
      y1={base}
      y2={base}
      stroke="var(--ink)"
      stroke-width="2.5"
      stroke-linecap="round"
    />
    <circle
      cx={x(row.lengths[pose] ?? 0)}
      cy={base}
      r="4"
      fill="var(--paper)"
      stroke="var(--ink)"
      stroke-width="2"
    />
  {/each}
  <text x={x(0.5)} y={height - 2} text-anchor="middle" class="fill-muted text-mark"
    >{width < 420
      ? "the muscle's own length"
      : "each muscle's own length, longest to shortest its joints allow"}</text
  >
</svg>
