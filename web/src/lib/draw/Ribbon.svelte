<!--
  The mirror ribbon: the prescribed resistance profile above the axis, the swap's below it, mirrored. The axis is the target
  muscle's own length, lengthened end left. What only one side has is hatched.
-->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import { area } from 'd3-shape';
  import { gridOver, heights, spanOf, torqueAt, type Shape } from './shape';

  type Props = {
    prescribed: Shape;
    swap: Shape | null;
    width: number;
    height: number;
    /** Small enough to stand without words. */
    mini?: boolean;
    /** Heights to one common scale in N·m instead of to each side's own peak. */
    absolute?: boolean;
    /** Where the plumb line hangs, in normalised length. */
    at?: number;
    onmove?: (x: number) => void;
    /** Whose length the axis is. */
    muscle?: string;
    label: string;
  };
  let {
    prescribed,
    swap,
    width,
    height,
    mini = false,
    absolute = false,
    at,
    onmove,
    muscle = '',
    label,
  }: Props = $props();
  const id = $props.id();

  const top = $derived(mini ? 1 : 40);
  const axis = $derived(height / 2);
  const reach = $derived(axis - top);
  const shapes = $derived(swap ? [prescribed, swap] : [prescribed]);
  const span = $derived(spanOf(shapes));
  const x = $derived(
    scaleLinear()
      .domain(span)
      .range([mini ? 0 : 8, width - (mini ? 0 : 8)]),
  );
  const common = $derived(Math.max(prescribed.peak, swap?.peak ?? 0));
  const grid = $derived(gridOver(span, shapes));
  const over = $derived(heights(prescribed, grid, absolute ? common : prescribed.peak));
  const under = $derived(swap ? heights(swap, grid, absolute ? common : swap.peak) : grid.map(() => 0));

  function path(values: number[], sign: 1 | -1): string {
    const draw = area<number>()
      .x((_, i) => x(grid[i]!))
      .y0(axis)
      .y1((v) => axis - sign * v * reach * 0.97);
    return draw(values) ?? '';
  }
  // Alone, all of it is its own.
  const shared = $derived(swap ? over.map((v, i) => Math.min(v, under[i]!)) : over);
  const zones = $derived(
    [
      { name: 'lengthened', from: 0, to: 1 / 3 },
      { name: 'mid', from: 1 / 3, to: 2 / 3 },
      { name: 'shortened', from: 2 / 3, to: 1 },
    ]
      .map((z) => ({ ...z, from: Math.max(z.from, span[0]), to: Math.min(z.to, span[1]) }))
      .filter((z) => z.to > z.from),
  );
  const borders = $derived([1 / 3, 2 / 3].filter((b) => b > span[0] && b < span[1]));
  const ticks = $derived(x.ticks(6));
  const readings = $derived(
    at === undefined
      ? null
      : { over: torqueAt(prescribed, at), under: swap ? torqueAt(swap, at) : null, x: x(at) },
  );

  let dragging = $state(false);
  let frame: SVGSVGElement | undefined = $state();
  function follow(event: PointerEvent) {
    if (!frame || !onmove) return;
    const box = frame.getBoundingClientRect();
    const inside = x.invert(((event.clientX - box.left) / box.width) * width);
    onmove(Math.min(span[1], Math.max(span[0], inside)));
  }
  const words = (v: number | null) => (v === null ? 'not reached' : `${v.toFixed(1)} N·m`);
</script>

<svg
  bind:this={frame}
  viewBox="0 0 {width} {height}"
  {width}
  {height}
  role="img"
  aria-label={label}
  class={mini ? '' : 'touch-none select-none'}
  onpointerdown={(e) => {
    if (!onmove) return;
    dragging = true;
    frame?.setPointerCapture(e.pointerId);
    follow(e);
  }}
  onpointermove={(e) => dragging && follow(e)}
  onpointerup={() => (dragging = false)}
>
  <defs>
    {#each [['over', 'var(--prescribed)', 45], ['under', 'var(--swap)', -45]] as [name, colour, angle] (name)}
      <pattern
        id="{id}-{name}"
        width={mini ? 4 : 7}
        height={mini ? 4 : 7}
        patternUnits="userSpaceOnUse"
        patternTransform="rotate({angle})"
      >
        <rect width={mini ? 1.8 : 2.6} height={mini ? 4 : 7} fill={String(colour)} />
      </pattern>
    {/each}
  </defs>

  {#if !mini}
    {#each zones as zone (zone.name)}
      <text
        x={x((zone.from + zone.to) / 2)}
        y="14"
        text-anchor="middle"
        class="fill-muted text-small font-semibold tracking-[0.14em] uppercase"
      >
        {x(zone.to) - x(zone.from) > 70 ? zone.name : ''}
      </text>
    {/each}
    {#each borders as border (border)}
      <line x1={x(border)} x2={x(border)} y1="24" y2={height - 38} stroke="var(--line)" />
    {/each}
  {/if}

  <path d={path(over, 1)} fill="url(#{id}-over)" stroke="var(--prescribed)" stroke-width={mini ? 0.6 : 1.2} />
  <path d={path(shared, 1)} fill="var(--prescribed)" />
  {#if swap}
    <path d={path(under, -1)} fill="url(#{id}-under)" stroke="var(--swap)" stroke-width={mini ? 0.6 : 1.2} />
    <path d={path(shared, -1)} fill="var(--swap)" />
  {/if}
  <line x1="0" x2={width} y1={axis} y2={axis} stroke="var(--ink)" stroke-width={mini ? 1.2 : 2} />

  {#if !mini}
    {#each ticks as tick (tick)}
      <line x1={x(tick)} x2={x(tick)} y1={height - 36} y2={height - 31} stroke="var(--muted)" />
      <text x={x(tick)} y={height - 19} text-anchor="middle" class="fill-muted text-mark">
        {Math.round(tick * 100)} %
      </text>
    {/each}
    <text x={width / 2} y={height - 4} text-anchor="middle" class="fill-muted text-mark">
      {muscle} from its longest (0 %) to its shortest (100 %)
    </text>
    {#if readings}
      {@const edge = Math.min(width - 52, Math.max(52, readings.x))}
      <line
        x1={readings.x}
        x2={readings.x}
        y1="22"
        y2={height - 38}
        stroke="var(--ink)"
        stroke-width="1.6"
        stroke-dasharray="2 4"
      />
      <g class="cursor-ew-resize">
        <path
          d="M{readings.x} {axis - 13}l9 6v14l-9 6l-9 -6v-14z"
          fill="var(--panel)"
          stroke="var(--ink)"
          stroke-width="2"
        />
      </g>
      {#each [{ y: 24, text: words(readings.over), colour: 'var(--prescribed)' }, { y: height - 62, text: swap ? words(readings.under) : '', colour: 'var(--swap)' }] as tag (tag.y)}
        {#if tag.text}
          <rect
            x={edge - 46}
            y={tag.y}
            width="92"
            height="23"
            rx="4"
            fill="var(--panel)"
            stroke={tag.colour}
          />
          <text
            x={edge}
            y={tag.y + 16}
            text-anchor="middle"
            fill={tag.colour}
            class="text-small font-semibold"
          >
            {tag.text}
          </text>
        {/if}
      {/each}
    {/if}
  {/if}
</svg>
