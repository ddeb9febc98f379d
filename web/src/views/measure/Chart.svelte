<!-- Readings and the fitted curve; outliers are crossed out. Below, what each reading is off the fit. -->
<script lang="ts">
  import type { Fit } from '../../lib/api/client';
  import { shownUnits, type Row, type What } from './readings';
  type Props = { what: What; rows: Row[]; fit: Fit | null };
  let { what, rows: read, fit }: Props = $props();
  const u = $derived(shownUnits(what));
  /** Along the axis in the units of who looks. */
  const rows = $derived(read.map((r) => ({ ...r, at: Number(u.text(r.at)) })));
  const W = 560;
  const H = 276;
  const points = $derived(
    rows.flatMap((r, i) => [
      { x: r.at, y: r.value - r.zero, i },
      ...(r.down != null ? [{ x: r.at, y: r.down - r.zero, i: i + rows.length }] : []),
    ]),
  );
  const curve = $derived(
    what === 'band' || what === 'column'
      ? (fit?.curve ?? []).map((q) => ({ ...q, at: Number(u.text(q.at)) }))
      : [],
  );
  const xs = $derived([...points.map((q) => q.x), ...curve.map((q) => q.at)]);
  const ys = $derived([...points.map((q) => q.y), ...curve.map((q) => q.value), what === 'joint' ? 0 : 0]);
  const [x0, x1] = $derived([Math.min(...xs, what === 'band' ? 9999 : 0), Math.max(...xs, 1)]);
  const [y0, y1] = $derived([Math.min(...ys, 0), Math.max(...ys, 1) * 1.05]);
  const px = (x: number) => 52 + ((x - x0) / (x1 - x0 || 1)) * (W - 70);
  const py = (y: number) => H - 40 - ((y - y0) / (y1 - y0 || 1)) * (H - 58);
  const ticks = (low: number, high: number) => {
    const rough = (high - low) / 4;
    const base = 10 ** Math.floor(Math.log10(rough || 1));
    const step = [1, 2, 5, 10].map((k) => k * base).find((s) => s >= rough) ?? rough;
    return Array.from({ length: 7 }, (_, i) => Math.ceil(low / step) * step + i * step).filter(
      (v) => v <= high,
    );
  };
  const worst = $derived(Math.max(...(fit?.residuals ?? [0]).map(Math.abs), 1e-6));
</script>

<svg
  viewBox="0 0 {W} {H}"
  class="w-full"
  role="img"
  aria-label="Readings in {u.value} over {u.point} in {u.at}"
>
  {#each ticks(y0, y1) as v (v)}
    <line x1="52" x2={W - 10} y1={py(v)} y2={py(v)} stroke="var(--line)" stroke-dasharray={v ? '2 5' : ''} />
    <text x="46" y={py(v) + 4} text-anchor="end" class="fill-muted text-mark">{v}</text>
  {/each}
  {#each ticks(x0, x1) as v (v)}
    <text x={px(v)} y={H - 22} text-anchor="middle" class="fill-muted text-mark">{v}</text>
  {/each}
  <text x="4" y="12" class="fill-ink text-mark font-semibold">{u.value}</text>
  <text x={W - 8} y={H - 4} text-anchor="end" class="fill-ink text-mark font-semibold">{u.point}, {u.at}</text
  >
  {#if what === 'band' && curve.length}
    <polyline
      points={curve.map((q) => `${px(q.at)},${py(q.value)}`).join(' ')}
      fill="none"
      stroke="var(--swap)"
      stroke-width="2.5"
    />
  {:else if what === 'column' && curve.length === 4}
    {#each [0, 2] as k (k)}
      <line
        x1={px(curve[k]!.at)}
        y1={py(curve[k]!.value)}
        x2={px(curve[k + 1]!.at)}
        y2={py(curve[k + 1]!.value)}
        stroke="var(--swap)"
        stroke-width="2.5"
        stroke-dasharray={k ? '6 4' : ''}
      />
    {/each}
  {:else if what === 'joint' && fit}
    {#each ['low_deg', 'high_deg'] as end (end)}
      <line
        x1="52"
        x2={W - 10}
        y1={py(fit.figures[end]!)}
        y2={py(fit.figures[end]!)}
        stroke="var(--swap)"
        stroke-width="2"
        stroke-dasharray="7 4"
      />
    {/each}
  {/if}
  {#each points as q, i (i)}
    {#if fit?.outliers[q.i] && what !== 'joint'}
      <path d="M{px(q.x) - 5} {py(q.y) - 5}l10 10m0 -10l-10 10" stroke="var(--ink)" stroke-width="2" />
    {:else}
      <circle
        cx={px(q.x)}
        cy={py(q.y)}
        r={what === 'joint' ? 1.4 : 4}
        fill={q.i >= rows.length ? 'var(--panel)' : 'var(--prescribed)'}
        stroke="var(--prescribed)"
        stroke-width={what === 'joint' ? 0 : 1.5}
      />
    {/if}
  {/each}
</svg>
{#if fit && what !== 'joint'}
  <svg
    viewBox="0 0 {W} 64"
    class="w-full"
    role="img"
    aria-label="What each reading is off the fit, {u.value}"
  >
    <line x1="52" x2={W - 10} y1="32" y2="32" stroke="var(--line)" />
    <text x="46" y="12" text-anchor="end" class="fill-muted text-mark">+{worst.toFixed(1)}</text>
    <text x="46" y="62" text-anchor="end" class="fill-muted text-mark">−{worst.toFixed(1)}</text>
    <text x={W - 8} y="12" text-anchor="end" class="fill-ink text-mark font-semibold"
      >off the fit, {u.value}</text
    >
    {#each points as q, i (i)}
      {@const r = fit.residuals[q.i] ?? 0}
      <line
        x1={px(q.x)}
        x2={px(q.x)}
        y1="32"
        y2={32 - (r / worst) * 26}
        stroke="var(--prescribed)"
        stroke-width="1"
      />
      <circle
        cx={px(q.x)}
        cy={32 - (r / worst) * 26}
        r="2.6"
        fill={fit.outliers[q.i] ? 'var(--panel)' : 'var(--prescribed)'}
        stroke={fit.outliers[q.i] ? 'var(--ink)' : 'var(--prescribed)'}
      />
    {/each}
  </svg>
{/if}
