<!-- The floor from above, to scale: items are dragged to where they stand, or moved with the arrow keys. -->
<script lang="ts">
  import { api, ask, type PlaceDoc, type Schemas } from '../../lib/api/client';
  import { coachUnits } from '../../lib/units/units.svelte';
  import type { Places } from './place.svelte';

  let { places, doc }: { places: Places; doc: PlaceDoc } = $props();
  type Item = Schemas['FloorItemDoc'];
  const units = $derived(coachUnits());
  let floor: Item[] = $state.raw([]);
  let lifted = $state.raw<{ item: string; x: number; y: number; from: [number, number] } | null>(null);
  let chosen = $state('');
  let plan: SVGSVGElement | undefined = $state();

  $effect(() => {
    const asked = doc;
    void ask(api.POST('/api/floor-plan', { body: asked })).then((answer) => {
      if (asked === doc) floor = answer.data?.items ?? [];
      lifted = null;
    });
  });
  const [long, wide] = $derived([doc.room.length_cm, doc.room.width_cm]);
  const items = $derived(
    floor.map((f) => (lifted?.item === f.item ? { ...f, x_cm: lifted.x, y_cm: lifted.y } : f)),
  );
  const shown = $derived(items.find((f) => f.item === chosen) ?? null);
  const inside = (v: number, half: number, most: number) =>
    Math.round(Math.min(Math.max(v, Math.min(half, most / 2)), Math.max(most - half, most / 2)) / 5) * 5;

  function put(item: Item, x: number, y: number) {
    const spot = {
      item: item.item,
      x_cm: inside(x, item.wide_cm / 2, long),
      y_cm: inside(y, item.deep_cm / 2, wide),
    };
    void places.change((d) => ({
      ...d,
      plan: [...(d.plan ?? []).filter((s) => s.item !== item.item), spot],
    }));
  }
  /** Centimetres a pixel: the drawing is as wide as its column. */
  const scale = () => long / (plan?.getBoundingClientRect().width || long);

  function grab(event: PointerEvent, item: Item) {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    chosen = item.item;
    lifted = { item: item.item, x: item.x_cm, y: item.y_cm, from: [event.clientX, event.clientY] };
  }
  function drag(event: PointerEvent, item: Item) {
    if (lifted?.item !== item.item) return;
    const [dx, dy] = [event.clientX - lifted.from[0], event.clientY - lifted.from[1]];
    const found = floor.find((f) => f.item === item.item)!;
    lifted = { ...lifted, x: found.x_cm + dx * scale(), y: found.y_cm - dy * scale() };
  }
  function drop(item: Item) {
    if (lifted?.item !== item.item) return;
    const found = floor.find((f) => f.item === item.item)!;
    if (Math.hypot(lifted.x - found.x_cm, lifted.y - found.y_cm) > 3) put(found, lifted.x, lifted.y);
    else lifted = null;
  }
  const STEPS: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, 1],
    ArrowDown: [0, -1],
  };
  function nudge(event: KeyboardEvent, item: Item) {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 50 : 10;
    chosen = item.item;
    put(item, item.x_cm + step[0] * by, item.y_cm + step[1] * by);
  }
  const label = (f: Item) =>
    `${f.name}: ${units.show(f.x_cm)} from the left, ${units.show(f.y_cm)} from the near wall${f.chosen ? '' : ', not put anywhere yet'}${f.overlaps.length ? `, stands in ${f.overlaps.join(', ')}` : ''}`;
  let width = $state(0);
  /** Letters as large on every floor, cm. */
  const letters = $derived((11.5 * long) / Math.max(width, 1));
  const metres = $derived({
    x: Array.from({ length: Math.max(0, Math.ceil(long / 100) - 1) }, (_, i) => 100 * (i + 1)),
    y: Array.from({ length: Math.max(0, Math.ceil(wide / 100) - 1) }, (_, i) => 100 * (i + 1)),
  });
  /** Many items have numbers, which the list below tells. */
  const numbered = $derived(items.length > 14);
  const number = $derived(new Map(items.map((f, i) => [f.item, String(i + 1)])));
  /** A name in lines of its words, none much longer than a box is wide. */
  function lines(f: Item): string[] {
    if (numbered) return [number.get(f.item) ?? ''];
    const most = Math.max(7, Math.floor(f.wide_cm / (0.55 * letters)));
    const out: string[] = [];
    for (const word of f.name.split(' ')) {
      const last = out.at(-1);
      if (last !== undefined && last.length + word.length < most) out[out.length - 1] = `${last} ${word}`;
      else out.push(word);
    }
    return out.slice(0, 3);
  }
  /** Inside the box where there is room for the lines, else beside it, toward the middle of the room. */
  function labelAt(f: Item): number {
    if (numbered) return 0;
    const height = lines(f).length * letters;
    if (height < f.deep_cm * 0.95) return 0;
    return (f.y_cm > wide / 2 ? 1 : -1) * (f.deep_cm / 2 + height / 2 + letters * 0.2);
  }
</script>

<h2 class="mt-5 section-title">Floor plan</h2>
<p class="text-small text-muted">
  Drag what stands where, or focus it and use the arrow keys. Dashed: along a wall until you put it somewhere.
  A square is a metre.
</p>
<svg
  bind:this={plan}
  bind:clientWidth={width}
  viewBox="0 0 {long} {wide}"
  class="mt-2 max-h-[420px] w-full touch-none rounded-sm border-2 border-ink bg-panel"
  style:aspect-ratio="{long} / {wide}"
  role="group"
  aria-label="Floor plan, {units.show(long)} by {units.show(wide)}"
>
  {#each metres.x as x (x)}<line
      x1={x}
      x2={x}
      y1="0"
      y2={wide}
      stroke="var(--line)"
      stroke-width={long / 600}
    />{/each}
  {#each metres.y as y (y)}<line
      x1="0"
      x2={long}
      y1={y}
      y2={y}
      stroke="var(--line)"
      stroke-width={long / 600}
    />{/each}
  {#each items as f (f.item)}
    {@const on = f.item === chosen}
    <g
      transform="translate({f.x_cm} {wide - f.y_cm})"
      tabindex="0"
      role="button"
      aria-label={label(f)}
      class="cursor-grab outline-none"
      onfocus={() => (chosen = f.item)}
      onpointerdown={(e) => grab(e, f)}
      onpointermove={(e) => drag(e, f)}
      onpointerup={() => drop(f)}
      onpointercancel={() => (lifted = null)}
      onkeydown={(e) => nudge(e, f)}
    >
      <rect
        x={-f.wide_cm / 2}
        y={-f.deep_cm / 2}
        width={f.wide_cm}
        height={f.deep_cm}
        rx={long / 120}
        fill={f.overlaps.length ? 'var(--swap)' : 'var(--soft)'}
        fill-opacity={f.overlaps.length ? 0.3 : 1}
        stroke={on ? 'var(--ink)' : f.overlaps.length ? 'var(--swap)' : 'var(--kit)'}
        stroke-width={on ? long / 140 : long / 280}
        stroke-dasharray={f.chosen ? '' : `${long / 60} ${long / 90}`}
      />
      {#each lines(f) as part, k (k)}
        <text
          text-anchor="middle"
          dominant-baseline="central"
          font-size={letters}
          aria-hidden="true"
          y={labelAt(f) + (k - (lines(f).length - 1) / 2) * letters}
          class="pointer-events-none fill-ink {on ? 'font-semibold' : ''}">{`${part} `}</text
        >
      {/each}
    </g>
  {/each}
</svg>
{#if numbered}
  <ol class="mt-2 columns-2 gap-5 text-small sm:columns-3">
    {#each items as f, i (f.item)}
      <li class="truncate {f.item === chosen ? 'font-semibold' : 'text-muted'}">{i + 1} {f.name}</li>
    {/each}
  </ol>
{/if}
<p class="mt-1 text-small" role="status">
  {#if shown}<strong>{shown.name}</strong>{label(shown).slice(shown.name.length)}{:else}<span
      class="text-muted"
      >{items.filter((f) => f.chosen).length} of {items.length} items put where they stand.</span
    >{/if}
</p>
