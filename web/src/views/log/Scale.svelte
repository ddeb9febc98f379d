<!--
  A written lift over time on one scale, whatever it was done on: the load that would ask as much in the written lift. Shape by
  set-up, dashed lines where it changes, a band for what is known.
-->
<script lang="ts">
  import { scaleLinear, scaleTime } from 'd3-scale';
  import type { LiftLog } from './log.svelte';

  let { lift, width, height, unit }: { lift: LiftLog; width: number; height: number; unit: string } =
    $props();
  const PAD = { left: 58, right: 14, top: 40, bottom: 26 };
  const ways = $derived([...new Set(lift.points.map((q) => `${q.place}, ${q.title}, ${q.kit}`))]);
  const SHAPES = ['circle', 'square', 'triangle', 'cross', 'diamond', 'ring'] as const;
  const way = (q: LiftLog['points'][number]) => ways.indexOf(`${q.place}, ${q.title}, ${q.kit}`);
  const times = $derived(lift.points.map((q) => new Date(q.at as string)));
  const first = $derived(new Date(Math.min(...times.map(Number)) - 2 * 864e5));
  const last = $derived(new Date(Math.max(...times.map(Number)) + 4 * 864e5));
  const x = $derived(
    scaleTime()
      .domain([first, last])
      .range([PAD.left, width - PAD.right]),
  );
  const values = $derived([
    ...lift.points.map((q) => q.value),
    ...lift.trend.flatMap((t) => [t.low, t.high]),
    lift.written,
  ]);
  const y = $derived(
    scaleLinear()
      .domain([Math.min(...values) * 0.97, Math.max(...values) * 1.03])
      .nice(5)
      .range([height - PAD.bottom, PAD.top]),
  );
  const trend = $derived(lift.trend.map((t) => ({ ...t, x: x(new Date(`${t.at as string}T12:00:00`)) })));
  const line = $derived(trend.map((t) => `${t.x},${y(t.value)}`).join(' '));
  const band = $derived(
    [
      ...trend.map((t) => `${t.x},${y(t.high)}`),
      ...[...trend].reverse().map((t) => `${t.x},${y(t.low)}`),
    ].join(' '),
  );
  /** Where another set-up begins; names stand in two rows, so that neighbours do not run into each other. */
  const changes = $derived(
    lift.points
      .map((q, i) => ({ q, i, from: way(q) }))
      .filter(({ i, from }) => i === 0 || way(lift.points[i - 1]!) !== from)
      .map(({ q, i, from }, k) => ({ x: x(times[i]!) - 10, name: q.place, from, k })),
  );
  const labels = $derived.by(() => {
    const ends = [-1, -1];
    return changes.map((c) => {
      const end = c.x + c.name.length * 7 + 4;
      // One that would run out of the picture is left to the legend.
      const at = end > width ? -1 : ends.findIndex((before) => before < c.x);
      if (at >= 0) ends[at] = end + 8;
      return { ...c, row: at };
    });
  });
  const day = (d: Date) => d.toLocaleDateString(undefined, { day: 'numeric', month: 'short' });
</script>

<svg
  {width}
  {height}
  role="img"
  aria-label="{lift.name} over time: {lift.points.length} sets, by what is known now {trend
    .at(-1)
    ?.value.toFixed(1)} {unit}"
>
  {#each y.ticks(6) as v (v)}
    <line x1={PAD.left} x2={width - PAD.right} y1={y(v)} y2={y(v)} stroke="var(--line)" />
    <text x={PAD.left - 8} y={y(v) + 4} text-anchor="end" class="text-small" fill="var(--muted)"
      >{v} {unit}</text
    >
  {/each}
  {#each x.ticks(Math.max(3, width / 130)) as t (t)}
    <text
      x={x(t)}
      y={height - 6}
      text-anchor={x(t) > width - PAD.right - 24 ? 'end' : 'middle'}
      class="text-small"
      fill="var(--muted)">{day(t)}</text
    >
  {/each}
  <line
    x1={PAD.left}
    x2={width - PAD.right}
    y1={y(lift.written)}
    y2={y(lift.written)}
    stroke="var(--prescribed)"
    stroke-dasharray="1 4"
  />
  <text
    x={width - PAD.right}
    y={y(lift.written) - 4}
    text-anchor="end"
    class="text-small"
    fill="var(--prescribed)">as written</text
  >
  {#each labels as c (c.k)}
    {#if c.k}<line
        x1={c.x}
        x2={c.x}
        y1={PAD.top - 4}
        y2={height - PAD.bottom}
        stroke="var(--muted)"
        stroke-dasharray="3 4"
      />{/if}
    {#if c.row >= 0}<text x={c.x + 4} y={12 + c.row * 16} class="text-small" fill="var(--ink)">{c.name}</text
      >{/if}
  {/each}
  {#if trend.length > 1}
    <polygon points={band} fill="var(--prescribed)" opacity="0.13" />
    <polyline points={line} fill="none" stroke="var(--prescribed)" stroke-width="2.5" />
  {/if}
  {#each lift.points as q, i (q.id)}
    {@const shape = SHAPES[way(q) % SHAPES.length]}
    {@const px = x(times[i]!) + q.order * 6}
    {@const py = y(q.value)}
    <g fill="var(--swap)" stroke="var(--swap)">
      <title>{day(times[i]!)}: {q.amount} {q.unit} × {q.reps}, as {q.value.toFixed(1)} {unit}</title>
      {#if shape === 'circle'}<circle cx={px} cy={py} r="4.5" />
      {:else if shape === 'square'}<rect x={px - 4} y={py - 4} width="8" height="8" />
      {:else if shape === 'triangle'}<path d="M{px} {py - 5.5}l5.5 9.5h-11z" />
      {:else if shape === 'cross'}<path d="M{px - 4} {py - 4}l8 8m0 -8l-8 8" stroke-width="2.5" />
      {:else if shape === 'diamond'}<path d="M{px} {py - 6}l5 6l-5 6l-5 -6z" />
      {:else}<circle cx={px} cy={py} r="4" fill="none" stroke-width="2.2" />{/if}
    </g>
  {/each}
</svg>
<ul class="flex flex-wrap gap-x-5 gap-y-1 pl-2 text-small">
  {#each ways as name, i (name)}
    <li class="flex items-center gap-1.5">
      <svg
        width="14"
        height="14"
        viewBox="-7 -7 14 14"
        aria-hidden="true"
        fill="var(--swap)"
        stroke="var(--swap)"
      >
        {#if SHAPES[i % 6] === 'circle'}<circle r="4.5" />
        {:else if SHAPES[i % 6] === 'square'}<rect x="-4" y="-4" width="8" height="8" />
        {:else if SHAPES[i % 6] === 'triangle'}<path d="M0 -5.5l5.5 9.5h-11z" />
        {:else if SHAPES[i % 6] === 'cross'}<path d="M-4 -4l8 8m0 -8l-8 8" stroke-width="2.5" />
        {:else if SHAPES[i % 6] === 'diamond'}<path d="M0 -6l5 6l-5 6l-5 -6z" />
        {:else}<circle r="4" fill="none" stroke-width="2.2" />{/if}
      </svg>{name}
    </li>
  {/each}
</ul>
