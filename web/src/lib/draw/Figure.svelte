<!--
  A set-up as seen from one side: body, bench, column or band, the pull on the hand and its lever about the joint.
  Everything drawn comes from the computed pose.
-->
<script lang="ts">
  import type { Profile } from '../api/client';
  import { pieces } from './body';
  import { bounds, fit, type Frame } from './frame';
  import {
    add,
    along,
    distance,
    outline,
    project,
    unproject,
    type Point,
    type Space,
    type View,
  } from './geometry';

  type Props = {
    profile: Profile;
    pose: number;
    view: View;
    colour: string;
    width: number;
    height: number;
    /** Pixels a metre; both figures of a pair share it. */
    scale: number;
    label: string;
    /** A length, cm, in the units of who looks. */
    length?: (cm: number) => string;
    /** Called with the point, m, that the far end of a pull was dragged to; the body dragged counts as the end dragged back. */
    /** Without the lever: for who sets up, not for who compares. */
    plain?: boolean;
    oncarry?: (source: number, point: [number, number, number]) => void;
  };
  let {
    profile,
    pose,
    view,
    colour,
    width,
    height,
    scale: wanted,
    label,
    length = (cm) => `${Math.round(cm)} cm`,
    oncarry,
    plain = false,
  }: Props = $props();
  const id = $props.id();

  /** What is being dragged: from where on the page, where the end was, and the frame, which keeps still meanwhile. */
  let drag = $state.raw<{
    source: number;
    body: boolean;
    from: Point;
    end: Space;
    frame: Frame;
    scale: number;
    view: View;
  } | null>(null);
  const scale = $derived(drag?.scale ?? wanted);
  const frame: Frame = $derived(drag?.frame ?? fit(bounds(profile, view), width, height, wanted));
  const carried = $derived(
    profile.pulls.findIndex((q) => ['column', 'anchor', 'lever'].includes(String(q.prop['kind']))),
  );
  function endOf(source: number): Space | null {
    const pull = profile.pulls[source];
    if (!pull) return null;
    return pull.prop['kind'] === 'lever' ? (pull.prop['pivot_m'] as number[]) : (pull.ends_m[0] ?? null);
  }
  function hold(event: PointerEvent, source: number, whole: boolean) {
    const end = endOf(source);
    if (!oncarry || !end || event.button) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    drag = { source, body: whole, from: [event.clientX, event.clientY], end, frame, scale, view };
    event.preventDefault();
  }
  function carry(event: PointerEvent) {
    if (!drag || !oncarry) return;
    const way: Point = [event.clientX - drag.from[0], event.clientY - drag.from[1]];
    // The body goes along the floor only; dragging it one way is the end going the other way.
    const sign = drag.body ? -1 : 1;
    const up = drag.body && drag.view !== 'top' ? 0 : sign;
    const at = drag.frame.place(project(drag.view, drag.end));
    const to = drag.frame.back([at[0] + sign * way[0], at[1] + up * way[1]]);
    oncarry(drag.source, unproject(drag.view, to, drag.end));
  }
  const release = () => (drag = null);
  const place = $derived(frame.place);
  const on = (p: Space) => place(project(view, p));
  const body = $derived(pieces(profile, pose, view));
  const pulls = $derived(
    profile.pulls.map((pull) => {
      const force = pull.force_n[pose] ?? [0, 0, 0];
      const most = Math.max(...pull.force_n.map((f) => Math.hypot(...f)), 1);
      const at = pull.at_m[pose] ?? [0, 0, 0];
      const other = [at[0] ?? 0, -(at[1] ?? 0), at[2] ?? 0];
      return { ...pull, force, at, sides: [at, other], tip: add(at, force, 0.42 / most) };
    }),
  );
  const lever = $derived({
    hinge: profile.moment_arm.hinge_m[pose] ?? [0, 0, 0],
    foot: profile.moment_arm.foot_m[pose] ?? [0, 0, 0],
    cm: profile.moment_arm.length_cm[pose] ?? 0,
  });
  const fills = { body: 'var(--body)', far: 'var(--body-far)', limb: 'var(--limb)' };

  const mirror = (p: Space, side: number): Space => (side ? [p[0] ?? 0, -(p[1] ?? 0), p[2] ?? 0] : p);

  function slab(s: Profile['slabs'][number]): string {
    const r = s.thickness_m / 2;
    const wide = [0, s.half_width_m - r, 0];
    const circles = [s.start_m, s.end_m].flatMap((p) => [
      { at: add(p, wide), r },
      { at: add(p, wide, -1), r },
    ]);
    return outline(view, circles, place, scale);
  }
  /** Radius of a dumbbell's heads, m. */
  const headSize = (p: Profile['pulls'][number]) => 0.032 + 0.0011 * Math.min(45, Number(p.prop['mass_kg']));
  const dumbbells = $derived(
    profile.pulls
      .filter((p) => p.prop['kind'] === 'dumbbell')
      .flatMap((p) =>
        (p.mirrored ? ['right', 'left'] : ['right']).flatMap((s) => {
          const thumb = profile.positions_m[`${s} thumb`]?.[pose];
          const hand = profile.positions_m[`${s} grip`]?.[pose];
          if (!thumb || !hand) return [];
          const axis = add(thumb, hand, -1).map((v) => v * 10);
          return [{ axis, hand, r: headSize(p) }];
        }),
      ),
  );
  /** One dumbbell in both hands hangs upright under them. */
  const between = $derived(
    profile.pulls
      .filter((p) => p.prop['kind'] === 'shared dumbbell')
      .flatMap((p) => {
        const [right, left] = ['right grip', 'left grip'].map((at) => profile.positions_m[at]?.[pose]);
        if (!right || !left) return [];
        const middle = [0, 1, 2].map((i) => ((right[i] ?? 0) + (left[i] ?? 0)) / 2) as Space;
        const r = headSize(p);
        return [{ axis: [0, 0, 1], hand: add(middle, [0, 0, -0.08]), r }];
      }),
  );
  /** What hangs from a belt: its strap from the hips, and a dumbbell across at its end. */
  const HUNG_M = 0.42;
  const hung = $derived(
    profile.pulls
      .filter((p) => p.prop['kind'] === 'hung')
      .map((p) => {
        const hips = p.at_m[pose] ?? [0, 0, 0];
        return { hips, weight: { axis: [0, 1, 0], hand: add(hips, [0.06, 0, -HUNG_M]), r: headSize(p) } };
      }),
  );
  const weights = $derived([...dumbbells, ...between, ...hung.map((h) => h.weight)]);
  function headOf(dumbbell: { axis: number[]; hand: Space; r: number }, sign: number): string {
    const middle = add(dumbbell.hand, dumbbell.axis, sign * (0.06 + dumbbell.r * 0.5));
    const circles = [-0.4, 0.4].map((k) => ({
      at: add(middle, dumbbell.axis, k * dumbbell.r),
      r: dumbbell.r * 0.82,
    }));
    return outline(view, circles, place, scale);
  }
  const ground = $derived(place([0, 0])[1]);
  const distanceMark = $derived.by(() => {
    const pull = profile.pulls.find((p) => p.prop['kind'] === 'column' || p.prop['kind'] === 'anchor');
    const end = pull?.ends_m[0];
    if (!end || view === 'front' || pull.prop['foot']) return null;
    const off = Math.hypot(end[0] ?? 0, end[1] ?? 0);
    const [a, b] = [on([0, 0, 0]), on([end[0] ?? 0, end[1] ?? 0, 0])];
    if (Math.abs(a[0] - b[0]) < 0.8 * off * scale || pull.ends_m.length > 1) return null;
    return { a, b, cm: Math.round(off * 100) };
  });
  /** Cushions and bars that stand on something, down to the floor. */
  const posts = $derived(
    profile.slabs
      .filter((s) => s.kind === 'bar' || s.kind === 'step' || (s.kind === 'rest' && !seated))
      .map((s) => [on(s.start_m), on(s.end_m)]),
  );
  const seated = $derived(profile.slabs.some((s) => s.kind === 'seat'));
  /** What both hands hold on one cable: a bar between them, or the two strands of a rope. */
  function handle(pull: (typeof pulls)[number], end: Space) {
    const [right, left] = [pull.sides[0] ?? pull.at, pull.sides[1] ?? pull.at];
    const middle = along(right, left, 0.5);
    const way = add(end, middle, -1);
    const knot = add(middle, way, Math.min(0.5, 0.24 / Math.hypot(...way)));
    return { right, left, middle, knot };
  }
  const leverShown = $derived(!plain && lever.cm >= 2);
  const arrow = (from: Space, to: Space) => {
    const [[x1, y1], [x2, y2]] = [on(from), on(to)];
    const size = Math.hypot(x2 - x1, y2 - y1);
    return size < 6 ? null : { x1, y1, x2, y2 };
  };
</script>

<svg viewBox="0 0 {width} {height}" {width} {height} role="img" aria-label={label}>
  <defs>
    <marker
      id="{id}-tip"
      viewBox="0 0 10 10"
      refX="7"
      refY="5"
      markerWidth="4.2"
      markerHeight="4.2"
      orient="auto"
    >
      <path d="M0 0L10 5L0 10z" fill={colour} />
    </marker>
  </defs>

  {#if view !== 'top'}
    <line x1="6" x2={width - 6} y1={ground} y2={ground} stroke="var(--kit)" stroke-width="1.5" />
  {/if}

  {#each profile.pulls as pull, k (k)}
    {#each pull.ends_m as end, side (side)}
      {#if pull.prop['kind'] === 'column'}
        {@const holes = (pull.prop['holes'] as number[]) ?? []}
        {@const [x, y, z] = end as [number, number, number]}
        {@const out = 1 + Number(pull.prop['overhang_m'] ?? 0) / Math.max(Math.hypot(x, y), 0.01)}
        {@const foot = on([x * out, y * out, 0])}
        {@const head = on([x * out, y * out, (holes[holes.length - 1] ?? 2) + 0.08])}
        {#if out > 1}
          {@const [tip, beam] = [on(end), on([x * out, y * out, z])]}
          <line
            x1={beam[0]}
            y1={beam[1]}
            x2={tip[0]}
            y2={tip[1]}
            stroke="var(--kit)"
            stroke-width="7"
            stroke-linecap="round"
          />
        {/if}
        {#if view === 'top'}
          <rect x={foot[0] - 9} y={foot[1] - 9} width="18" height="18" rx="3" fill="var(--kit)" />
        {:else}
          <rect x={foot[0] - 15} y={ground - 5} width="30" height="6" rx="3" fill="var(--kit)" />
          <rect x={foot[0] - 5} y={head[1]} width="10" height={ground - head[1]} rx="3" fill="var(--kit)" />
          {#each holes as hole, h (h)}
            <circle
              cx={foot[0]}
              cy={on([x * out, y * out, hole])[1]}
              r={h + 1 === pull.prop['hole'] ? 0 : 1.5}
              fill="var(--paper)"
            />
          {/each}
        {/if}
      {:else if pull.prop['kind'] === 'anchor'}
        {@const at = on(end)}
        {#if view !== 'top' && !pull.prop['foot']}
          <line
            x1={at[0]}
            x2={at[0]}
            y1={at[1]}
            y2={ground}
            stroke="var(--kit)"
            stroke-width="3"
            stroke-dasharray="1 4"
          />
        {/if}
      {/if}
    {/each}
  {/each}

  {#each profile.slabs.filter((s) => s.kind === 'seat') as s (s.kind)}
    {#if view !== 'top'}
      {@const middle = on(along(s.start_m, s.end_m, 0.5))}
      <rect x={middle[0] - 4} y={middle[1]} width="8" height={ground - middle[1]} fill="var(--kit)" />
      <rect x={middle[0] - 42} y={ground - 6} width="84" height="6" rx="3" fill="var(--kit)" />
    {/if}
  {/each}
  {#if view !== 'top'}
    {#each posts as ends, i (i)}
      {#each ends as end, k (k)}
        <line
          x1={end[0]}
          x2={end[0]}
          y1={end[1]}
          y2={ground}
          stroke="var(--kit)"
          stroke-width="5"
          opacity="0.55"
        />
      {/each}
    {/each}
  {/if}
  {#each profile.slabs as s, i (i)}
    <path d={slab(s)} fill="var(--kit)" stroke="var(--panel)" stroke-width="1" />
  {/each}

  <!-- svelte-ignore a11y_no_static_element_interactions (the sliders beside do the same by keyboard) -->
  <g
    class:handle={oncarry && carried >= 0}
    onpointerdown={(e) => hold(e, carried, true)}
    onpointermove={carry}
    onpointerup={release}
    onpointercancel={release}
  >
    {#each body as piece (piece.id)}
      <path
        d={outline(view, piece.circles, place, scale)}
        fill={fills[piece.tone]}
        stroke="var(--paper)"
        stroke-width={piece.tone === 'limb' ? 1 : 0.7}
      />
    {/each}
  </g>

  {#each pulls as pull, k (k)}
    {#each pull.ends_m as end, side (side)}
      {@const use = pull.prop['use']}
      {@const held = handle(pull, end)}
      {@const a = on(
        use === 'bar' ? held.middle : use === 'rope' ? held.knot : (pull.sides[side] ?? pull.at),
      )}
      {@const b = on(end)}
      {#if use === 'bar' || use === 'rope'}
        {@const [r, l, k] = [on(held.right), on(held.left), on(held.knot)]}
        <polyline
          points={use === 'bar' ? `${r} ${l}` : `${r} ${k} ${l}`}
          fill="none"
          stroke="var(--ink)"
          stroke-width={use === 'bar' ? 4 : 2.5}
          stroke-linecap="round"
        />
      {/if}
      <line
        x1={a[0]}
        y1={a[1]}
        x2={b[0]}
        y2={b[1]}
        stroke={pull.prop['kind'] === 'anchor' ? colour : 'var(--ink)'}
        stroke-width={pull.prop['kind'] === 'anchor' ? 3 : 1.5}
        stroke-opacity={pull.prop['kind'] === 'anchor' ? 0.55 : 1}
      />
      <circle cx={b[0]} cy={b[1]} r="5.5" fill="var(--panel)" stroke="var(--ink)" stroke-width="2" />
      {#if pull.prop['kind'] === 'column' && side === 0 && view !== 'top'}
        {@const right = b[0] > width - 90}
        <text
          x={b[0] + (right ? -10 : 10)}
          y={b[1] - 9}
          text-anchor={right ? 'end' : 'start'}
          class="fill-ink text-small font-semibold"
          stroke="var(--paper)"
          stroke-width="3.5"
          paint-order="stroke">hole {pull.prop['hole']}</text
        >
      {/if}
    {/each}
  {/each}

  {#each pulls as pull, k (k)}
    {@const at = on(pull.at)}
    {#if pull.prop['kind'] === 'bar'}
      {#if view === 'side'}
        <circle
          cx={at[0]}
          cy={at[1]}
          r={0.215 * scale}
          fill="var(--kit)"
          fill-opacity="0.35"
          stroke="var(--kit)"
        />
        <circle cx={at[0]} cy={at[1]} r={0.03 * scale} fill="var(--kit)" />
      {:else}
        {@const [x, , z] = pull.at}
        {#each [[-0.66, -0.78], [0.66, 0.78]] as ends (ends[0])}
          {@const p = on([x ?? 0, ends[0] ?? 0, z ?? 0])}
          {@const q = on([x ?? 0, ends[1] ?? 0, z ?? 0])}
          <rect
            x={Math.min(p[0], q[0]) - (view === 'top' ? 0.2 * scale : 0)}
            y={Math.min(p[1], q[1]) - (view === 'top' ? 0 : 0.215 * scale)}
            width={view === 'top' ? 0.4 * scale : Math.abs(p[0] - q[0])}
            height={view === 'top' ? Math.abs(p[1] - q[1]) : 0.43 * scale}
            rx="2"
            fill="var(--kit)"
          />
        {/each}
        {@const l = on([x ?? 0, -0.9, z ?? 0])}
        {@const r = on([x ?? 0, 0.9, z ?? 0])}
        <line
          x1={l[0]}
          y1={l[1]}
          x2={r[0]}
          y2={r[1]}
          stroke="var(--kit)"
          stroke-width="4"
          stroke-linecap="round"
        />
      {/if}
    {:else if pull.prop['kind'] === 'machine' || pull.prop['kind'] === 'platform'}
      {#each pull.mirrored ? ['right', 'left'] : ['right'] as s, i (s)}
        {@const p = on(pull.sides[i] ?? pull.at)}
        {#if pull.contact === 'foot'}
          {@const heel = profile.positions_m[`${s} heel`]?.[pose] ?? pull.at}
          {@const toe = profile.positions_m[`${s} toe`]?.[pose] ?? pull.at}
          {@const [a, b] = [on(along(heel, toe, -0.25)), on(along(heel, toe, 1.3))]}
          <line
            x1={a[0]}
            y1={a[1]}
            x2={b[0]}
            y2={b[1]}
            stroke="var(--kit)"
            stroke-width="7"
            stroke-linecap="round"
          />
        {:else if pull.prop['guide'] === 'axis'}
          {@const h = on(mirror(lever.hinge, i))}
          <line
            x1={h[0]}
            y1={h[1]}
            x2={p[0]}
            y2={p[1]}
            stroke="var(--kit)"
            stroke-width="3"
            stroke-dasharray="7 3"
          />
        {/if}
        <circle cx={p[0]} cy={p[1]} r={0.05 * scale} fill="var(--kit)" stroke="var(--paper)" />
      {/each}
    {:else if pull.prop['kind'] === 'lever'}
      {@const p = on((pull.prop['pivot_m'] as number[]) ?? [0, 0, 0])}
      <line
        x1={p[0]}
        y1={p[1]}
        x2={at[0]}
        y2={at[1]}
        stroke="var(--kit)"
        stroke-width="5"
        stroke-linecap="round"
      />
      <circle cx={p[0]} cy={p[1]} r="6" fill="var(--panel)" stroke="var(--kit)" stroke-width="3" />
    {/if}
  {/each}

  {#each hung as { hips, weight }, k (k)}
    {@const a = on(hips)}
    {@const b = on(weight.hand)}
    <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke="var(--kit)" stroke-width="2" />
  {/each}
  {#each weights as dumbbell, k (k)}
    {@const a = on(add(dumbbell.hand, dumbbell.axis, -0.07))}
    {@const b = on(add(dumbbell.hand, dumbbell.axis, 0.07))}
    <line
      x1={a[0]}
      y1={a[1]}
      x2={b[0]}
      y2={b[1]}
      stroke="var(--kit)"
      stroke-width="4"
      stroke-linecap="round"
    />
    {#each [-1, 1] as sign (sign)}
      <path d={headOf(dumbbell, sign)} fill="var(--kit)" stroke="var(--paper)" stroke-width="1" />
    {/each}
  {/each}

  {#if leverShown}
    {@const a = on(lever.hinge)}
    {@const b = on(lever.foot)}
    {@const g = on(pulls[0]?.at ?? lever.foot)}
    {@const seen = Math.hypot(a[0] - b[0], a[1] - b[1])}
    {@const out = [(b[0] - a[0]) / (seen || 1), (b[1] - a[1]) / (seen || 1)]}
    {@const beyond = seen < 70}
    {@const tag = beyond
      ? [b[0] + (out[0] ?? 0) * 24, b[1] + (out[1] ?? 0) * 16 + 5]
      : [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2 - 8]}
    {#if pulls[0] && distance(lever.foot, pulls[0].at) > 0.03}
      <line x1={g[0]} y1={g[1]} x2={b[0]} y2={b[1]} stroke={colour} stroke-width="1" stroke-dasharray="1 3" />
    {/if}
    <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke={colour} stroke-width="2.5" stroke-dasharray="5 4" />
    {#if seen > 14}
      <text
        x={Math.min(width - 22, Math.max(22, tag[0] ?? 0))}
        y={tag[1]}
        text-anchor="middle"
        fill={colour}
        class="text-small font-semibold"
        stroke="var(--paper)"
        stroke-width="4"
        paint-order="stroke">{length(lever.cm)}</text
      >
    {/if}
  {/if}
  {#if leverShown}
    {@const h = on(lever.hinge)}
    <circle cx={h[0]} cy={h[1]} r="4.5" fill="var(--paper)" stroke={colour} stroke-width="2.5" />
  {/if}
  {#each pulls as pull, k (k)}
    {@const line = arrow(pull.at, pull.tip)}
    {#if line}
      <line {...line} stroke={colour} stroke-width="4" marker-end="url(#{id}-tip)" />
    {/if}
  {/each}

  {#if distanceMark}
    {@const y = view === 'top' ? height - 20 : ground + 14}
    {@const { a, b, cm } = distanceMark}
    <line x1={a[0]} x2={b[0]} y1={y} y2={y} stroke="var(--muted)" />
    {#each [a[0], b[0]] as x, i (i)}
      <line x1={x} x2={x} y1={y - 4} y2={y + 4} stroke="var(--muted)" />
    {/each}
    <text x={(a[0] + b[0]) / 2} y={y + 15} text-anchor="middle" class="fill-ink text-small font-semibold"
      >{length(cm)}</text
    >
  {/if}

  {#if oncarry}
    {#each profile.pulls as pull, k (k)}
      {@const end = endOf(k)}
      {#if end && ['column', 'anchor', 'lever'].includes(String(pull.prop['kind']))}
        {@const at = on(end)}
        <!-- svelte-ignore a11y_no_static_element_interactions (the sliders beside do the same by keyboard) -->
        <circle
          class="handle"
          data-handle={k}
          cx={at[0]}
          cy={at[1]}
          r="15"
          fill={colour}
          fill-opacity={drag?.source === k && !drag.body ? 0.35 : 0.14}
          stroke={colour}
          stroke-dasharray="3 3"
          onpointerdown={(e) => hold(e, k, false)}
          onpointermove={carry}
          onpointerup={release}
          onpointercancel={release}
        />
      {/if}
    {/each}
  {/if}
</svg>

<style>
  .handle {
    cursor: grab;
    touch-action: none;
  }
  .handle:active {
    cursor: grabbing;
  }
</style>
