/** Pure drawing geometry: three dimensions to the page, and outlines of rounded bodies. */

export type Point = [number, number];
export type Space = readonly number[];
export type View = 'side' | 'front' | 'top';
export type Circle = { at: Space; r: number };

/** Metres in the world (x forward, y left, z up) to metres on the page (x right, y down). */
export function project(view: View, p: Space): Point {
  const [x = 0, y = 0, z = 0] = p;
  if (view === 'side') return [x, -z];
  if (view === 'front') return [y, -z];
  return [x, -y];
}

/** Back into the world from a place on the page, m; what the page does not show is kept from `depth`. */
export function unproject(view: View, [x, y]: Point, depth: Space): [number, number, number] {
  const [a = 0, b = 0, c = 0] = depth;
  if (view === 'side') return [x, b, -y];
  if (view === 'front') return [a, x, -y];
  return [x, -y, c];
}

/** Depth toward the viewer: what has more is drawn later. */
export function nearness(view: View, p: Space): number {
  const [x = 0, y = 0, z = 0] = p;
  if (view === 'side') return -y;
  if (view === 'front') return x;
  return z;
}

const RIM = 20;

/** Outline around circles in space, as a closed path: limbs are two circles, trunks a few. */
export function outline(view: View, circles: Circle[], place: (p: Point) => Point, scale: number): string {
  const points: Point[] = [];
  for (const { at, r } of circles) {
    const [cx, cy] = place(project(view, at));
    for (let i = 0; i < RIM; i++) {
      const a = (2 * Math.PI * i) / RIM;
      points.push([cx + r * scale * Math.cos(a), cy + r * scale * Math.sin(a)]);
    }
  }
  return `M${hull(points)
    .map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`)
    .join('L')}Z`;
}

/** Convex hull by the monotone chain. */
export function hull(points: Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: Point[]) => {
    const out: Point[] = [];
    for (const p of list) {
      while (out.length > 1 && turn(out[out.length - 2]!, out[out.length - 1]!, p) <= 0) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

function turn(a: Point, b: Point, c: Point): number {
  return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
}

export function along(a: Space, b: Space, t: number): number[] {
  return a.map((v, i) => v + t * ((b[i] ?? 0) - v));
}

export function add(a: Space, b: Space, k = 1): number[] {
  return a.map((v, i) => v + k * (b[i] ?? 0));
}

export function distance(a: Space, b: Space): number {
  return Math.hypot(...a.map((v, i) => v - (b[i] ?? 0)));
}
