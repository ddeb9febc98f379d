<!-- Curves over a movement, lengthened end left: each named at its own line, with one plumb line through all. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import { line } from 'd3-shape';

  type Curve = { name: string; values: number[]; strong?: boolean };
  type Props = {
    title: string;
    unit: string;
    curves: Curve[];
    width: number;
    height: number;
    pose: number;
    colour: string;
    /** Poses at which the curve is not to be believed. */
    doubtful?: boolean[];
    /** Highest value shown; the curves' own peak unless given. */
    most?: number;
    digits?: number;
    onmove?: (pose: number) => void;
  };
  let {
    title,
    unit,
    curves,
    width,
    height,
    pose,
    colour,
    doubtful = [],
    most,
    digits = 0,
    onmove,
  }: Props = $props();

  const box = { left: 40, right: 12, top: 30, bottom: 26 };
  const count = $derived(curves[0]?.values.length ?? 1);
  const peak = $derived(most ?? Math.max(1e-6, ...curves.flatMap((c) => c.values)) * 1.08);
  const x = $derived(
    scaleLinear()
      .domain([0, count - 1])
      .range([box.left, width - box.right]),
  );
  const y = $derived(
    scaleLinear()
      .domain([0, peak])
      .range([height - box.bottom, box.top]),
  );
  const draw = $derived(
    line<number>()
      .x((_, i) => x(i))
      .y((v) => y(Math.min(v, peak))),
  );
  const dashes = ['', '7 4', '2 3'];
  /** Places of the names at the left end of each curve's peak, kept apart. */
  const names = $derived.by(() => {
    const placed: number[] = [];
    return curves.map((c) => {
      const i = c.values.indexOf(Math.max(...c.values));
      let at = y(c.values[i] ?? 0) - 6;
      while (placed.some((p) => Math.abs(p - at) < 14)) at += 14;
      placed.push(at);
      const anchor = i < count * 0.25 ? 'start' : i > count * 0.75 ? 'end' : 'middle';
      return { name: c.name, x: x(i), y: Math.max(at, box.top - 4), anchor };
    });
  });
  let frame: SVGSVGElement | undefined = $state();
  let dragging = $state(false);
  function follow(event: PointerEvent) {
    if (!frame || !onmove) return;
    const rect = frame.getBoundingClientRect();
    const at = Math.round(x.invert(((event.clientX - rect.left) / rect.width) * width));
    onmove(Math.min(count - 1, Math.max(0, at)));
  }
  const said = $derived(
    curves
      .map((c) => `${curves.length > 1 ? c.name + ' ' : ''}${(c.values[pose] ?? 0).toFixed(digits)}`)
      .join(' · '),
  );
</script>

<svg
  bind:this={frame}
  viewBox="0 0 {width} {height}"
  {width}
  {height}
  role="img"
  aria-label="{title} over the movement, {unit}"
  class="touch-none select-none"
  onpointerdown={(e) => {
    dragging = true;
    frame?.setPointerCapture(e.pointerId);
    follow(e);
  }}
  onpointermove={(e) => dragging && follow(e)}
  onpointerup={() => (dragging = false)}
>
  <text x="2" y="13" class="fill-ink text-small font-semibold">{title}</text>
  <text x={width - box.right} y="13" text-anchor="end" class="fill-muted text-small">here {said} {unit}</text>
  {#each doubtful as bad, i (i)}
    {#if bad}
      <rect
        x={x(i) - (x(1) - x(0)) / 2}
        y={box.top}
        width={x(1) - x(0)}
        height={height - box.top - box.bottom}
        fill="var(--soft)"
      />
    {/if}
  {/each}
  {#each y.ticks(3) as tick (tick)}
    <line x1={box.left} x2={width - box.right} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
    <text x={box.left - 6} y={y(tick) + 4} text-anchor="end" class="fill-muted text-mark">{tick}</text>
  {/each}
  <text x={box.left} y={height - 8} class="fill-muted text-mark">lengthened end</text>
  <text x={width - box.right} y={height - 8} text-anchor="end" class="fill-muted text-mark"
    >shortened end</text
  >
  {#each curves as curve, i (curve.name)}
    <path
      d={draw(curve.values) ?? ''}
      fill="none"
      stroke={curve.strong === false ? 'var(--muted)' : colour}
      stroke-width={curve.strong === false ? 1.6 : 2.6}
      stroke-dasharray={dashes[i % dashes.length]}
    />
  {/each}
  {#if curves.length > 1}
    {#each names as name (name.name)}
      <text
        x={name.x}
        y={name.y}
        text-anchor={name.anchor as 'start'}
        class="fill-ink text-small"
        stroke="var(--panel)"
        stroke-width="4"
        paint-order="stroke">{name.name}</text
      >
    {/each}
  {/if}
  <line
    x1={x(pose)}
    x2={x(pose)}
    y1={box.top - 8}
    y2={height - box.bottom}
    stroke="var(--ink)"
    stroke-width="1.6"
    stroke-dasharray="1.6 4"
  />
</svg>
