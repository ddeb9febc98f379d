<!-- A sum drawn: strokes of kit, limb, pull and lever, and a curve with the answer on it. -->
<script lang="ts">
  import type { CalculatorAnswer } from '../../lib/api/client';

  type Props = { answer: CalculatorAnswer; name: string };
  let { answer, name }: Props = $props();
  const id = $props.id();
  const [width, height, pad] = [440, 190, 42];

  const box = $derived.by(() => {
    const xs = answer.strokes.flatMap((s) => [s.start[0], s.end[0]]);
    const ys = answer.strokes.flatMap((s) => [s.start[1], s.end[1]]);
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    const scale = Math.min(
      (width - 2 * pad - 40) / Math.max(right - left, 1e-6),
      (height - 2 * pad + 24) / Math.max(high - low, 1e-6),
    );
    // Bars of a ladder stand side by side; their width is no length.
    const bars = answer.strokes.length > 1 && answer.strokes.every((s) => s.kind === 'plate');
    return { left, low, scale: Math.min(scale, 400), sx: bars ? 62 : Math.min(scale, 400), right, high };
  });
  const x = (v: number) => width / 2 + (v - (box.left + box.right) / 2) * box.sx;
  const y = (v: number) => height / 2 - (v - (box.low + box.high) / 2) * box.scale;
  const colours: Record<string, string> = {
    kit: 'var(--kit)',
    limb: 'var(--limb)',
    pull: 'var(--swap)',
    lever: 'var(--prescribed)',
    plate: 'var(--kit)',
  };
  const widths: Record<string, number> = { kit: 5, limb: 12, pull: 3.5, lever: 2, plate: 15 };

  /** Where a stroke's label stands: beside an arrow's tip or a mark, under a lever or a bar, over the rest. */
  function tag(s: CalculatorAnswer['strokes'][number]) {
    const [x1, y1, x2, y2] = [x(s.start[0]), y(s.start[1]), x(s.end[0]), y(s.end[1])];
    const flat = Math.abs(y1 - y2) < Math.abs(x1 - x2);
    if (s.kind === 'mark') return { x: x1 + 12, y: y1 + 4, anchor: 'start' } as const;
    if (s.kind === 'pull' && !flat) {
      const left = x2 < x1 - 2;
      return { x: x2 + (left ? -8 : 8), y: y2 + 2, anchor: left ? 'end' : 'start' } as const;
    }
    const below = s.kind === 'lever' || (s.kind === 'kit' && flat);
    const over = Math.min(y1, y2) - (s.kind === 'limb' ? 12 : 8);
    return { x: (x1 + x2) / 2, y: below ? Math.max(y1, y2) + 18 : over, anchor: 'middle' } as const;
  }

  const curve = $derived.by(() => {
    const c = answer.curve;
    if (!c) return null;
    const [w, h, l, b] = [440, 190, 46, 34];
    const xs = c.points.map((q) => q[0]);
    const ys = [...c.points.map((q) => q[1]), c.at[1], 0];
    const [x0, x1, y1] = [Math.min(...xs), Math.max(...xs), Math.max(...ys) * 1.08];
    const px = (v: number) => l + ((v - x0) / (x1 - x0)) * (w - l - 14);
    const py = (v: number) => h - b - (v / y1) * (h - b - 12);
    return {
      w,
      h,
      l,
      b,
      path: c.points.map((q) => `${px(q[0])},${py(q[1])}`).join(' '),
      at: [px(Math.min(x1, Math.max(x0, c.at[0]))), py(c.at[1])] as const,
      xt: [0, 0.25, 0.5, 0.75, 1].map((t) => ({ at: px(x0 + t * (x1 - x0)), v: x0 + t * (x1 - x0) })),
      yt: [0, 0.5, 1].map((t) => ({ at: py((t * y1) / 1.08), v: (t * y1) / 1.08 })),
    };
  });
  const short = (v: number) => String(Number(v.toPrecision(v >= 100 ? 3 : 2)));
</script>

{#if answer.strokes.length}
  <svg viewBox="0 0 {width} {height}" class="mt-4 w-full" role="img" aria-label="{name}, drawn">
    <defs>
      <marker
        id="{id}-tip"
        viewBox="0 0 10 10"
        refX="7"
        refY="5"
        markerWidth="4"
        markerHeight="4"
        orient="auto"
      >
        <path d="M0 0L10 5L0 10z" fill="var(--swap)" />
      </marker>
    </defs>
    {#each answer.strokes as s, i (i)}
      {@const [x1, y1, x2, y2] = [x(s.start[0]), y(s.start[1]), x(s.end[0]), y(s.end[1])]}
      <line
        {x1}
        {y1}
        {x2}
        {y2}
        stroke={colours[s.kind] ?? 'var(--ink)'}
        stroke-width={widths[s.kind] ?? 2}
        stroke-linecap={s.kind === 'limb' ? 'round' : 'butt'}
        stroke-dasharray={s.kind === 'lever' ? '6 4' : undefined}
        marker-end={s.kind === 'pull' ? `url(#${id}-tip)` : undefined}
      />
    {/each}
    {#each answer.strokes as s, i (i)}
      {@const at = tag(s)}
      {#if s.kind === 'mark'}
        <circle
          cx={x(s.start[0])}
          cy={y(s.start[1])}
          r="6"
          fill="var(--panel)"
          stroke="var(--kit)"
          stroke-width="3"
        />
      {/if}
      {#if s.label}
        <text
          x={at.x}
          y={at.y}
          text-anchor={at.anchor}
          class="fill-ink text-small font-semibold"
          stroke="var(--panel)"
          stroke-width="3"
          paint-order="stroke">{s.label}</text
        >
      {/if}
    {/each}
  </svg>
{/if}
{#if curve && answer.curve}
  <svg
    viewBox="0 0 {curve.w} {curve.h}"
    class="mt-3 w-full"
    role="img"
    aria-label="{answer.curve.y} over {answer.curve.x}"
  >
    {#each curve.yt as t (t.v)}
      <line x1={curve.l} x2={curve.w - 14} y1={t.at} y2={t.at} stroke="var(--line)" />
      <text x={curve.l - 6} y={t.at + 4} text-anchor="end" class="fill-muted text-mark">{short(t.v)}</text>
    {/each}
    {#each curve.xt as t (t.v)}
      <text x={t.at} y={curve.h - curve.b + 15} text-anchor="middle" class="fill-muted text-mark"
        >{short(t.v)}</text
      >
    {/each}
    <polyline points={curve.path} fill="none" stroke="var(--prescribed)" stroke-width="2.5" />
    <line
      x1={curve.at[0]}
      x2={curve.at[0]}
      y1={curve.at[1]}
      y2={curve.h - curve.b}
      stroke="var(--swap)"
      stroke-dasharray="3 3"
    />
    <circle
      cx={curve.at[0]}
      cy={curve.at[1]}
      r="6"
      fill="var(--panel)"
      stroke="var(--swap)"
      stroke-width="3"
    />
    <text x={(curve.l + curve.w) / 2} y={curve.h - 3} text-anchor="middle" class="fill-ink text-small"
      >{answer.curve.x}</text
    >
    <text x={curve.l + 4} y="11" class="fill-ink text-small">{answer.curve.y}</text>
  </svg>
{/if}
