import type { Profile } from '../api/client';
import { add, project, type Point, type Space, type View } from './geometry';

/** Extent on the page in metres. */
export type Box = { left: number; right: number; top: number; bottom: number };
export type Frame = { place: (p: Point) => Point; back: (p: Point) => Point };

const AIR = { side: 14, above: 32, below: 34 };

/** All that a profile's drawing may touch at any pose, so that it does not jump while it plays. */
export function bounds(profile: Profile, view: View): Box {
  const points: Space[] = Object.values(profile.positions_m).flat();
  // The pulley must show; the column above it may run off the page.
  for (const pull of profile.pulls) points.push(...pull.ends_m);
  for (const pull of profile.pulls)
    if (pull.prop['kind'] === 'bar')
      for (const at of pull.at_m) for (const end of [-0.85, 0.85]) points.push([at[0] ?? 0, end, at[2] ?? 0]);
  for (const slab of profile.slabs) points.push(add(slab.start_m, [0, 0, 0]), slab.end_m);
  if (view !== 'top') points.push([0, 0, 0]);
  const flat = points.map((p) => project(view, p));
  const xs = flat.map((p) => p[0]);
  const ys = flat.map((p) => p[1]);
  const pad = 0.1;
  return {
    left: Math.min(...xs) - pad,
    right: Math.max(...xs) + pad,
    top: Math.min(...ys) - pad,
    bottom: view === 'top' ? Math.max(...ys) + pad : 0,
  };
}

/** Largest scale, pixels a metre, at which a box fits. */
export function scaleOf(box: Box, width: number, height: number): number {
  return Math.min(
    (width - 2 * AIR.side) / (box.right - box.left),
    (height - AIR.above - AIR.below) / (box.bottom - box.top),
  );
}

/** Put a box on the page at a scale: middle across, floor at the bottom. */
export function fit(box: Box, width: number, height: number, scale: number): Frame {
  const x0 = width / 2 - (scale * (box.left + box.right)) / 2;
  const y0 = height - AIR.below - scale * box.bottom;
  return {
    place: ([x, y]) => [x0 + scale * x, y0 + scale * y],
    back: ([x, y]) => [(x - x0) / scale, (y - y0) / scale],
  };
}

/** The view in which the working joints travel farthest about the hips; from the side where that is close. */
export function bestView(profile: Profile): View {
  const hips = profile.positions_m['hips'] ?? [];
  const travel = (view: View) =>
    ['right grip', 'right elbow', 'right knee', 'right ankle', 'shoulders']
      .map((name) => {
        const path = (profile.positions_m[name] ?? []).map((p, i) =>
          project(view, add(p, hips[i] ?? [], -1)),
        );
        return path
          .slice(1)
          .reduce((sum, p, i) => sum + Math.hypot(p[0] - path[i]![0], p[1] - path[i]![1]), 0);
      })
      .reduce((sum, way) => sum + way, 0);
  const views: View[] = ['side', 'front', 'top'];
  return views.reduce((best, v) => (travel(v) > 1.15 * travel(best) ? v : best));
}
