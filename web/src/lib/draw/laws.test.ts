import { describe, expect, test } from 'vitest';
import { pieces } from './body';
import { bestView, bounds, fit, scaleOf } from './frame';
import { hull, nearness, project, unproject, type Point, type View } from './geometry';
import { sample } from './sample';
import { gridOver, heights, poseAt, shapeOf, spanOf, torqueAt, type Shape } from './shape';

const VIEWS: View[] = ['side', 'front', 'top'];

/** Numbers between 0 and 1 that are the same in every run. */
function chance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 4294967296;
    return state / 4294967296;
  };
}
function anyShape(next: () => number): Shape {
  const count = 2 + Math.floor(next() * 12);
  const from = next() * 0.5;
  const lengths = Array.from({ length: count }, (_, i) => from + ((0.95 - from) * i) / (count - 1));
  const torque = lengths.map(() => next() * 40);
  return { lengths, torque, peak: Math.max(...torque) };
}

describe('resistance profiles, whatever they are', () => {
  test.each(Array.from({ length: 40 }, (_, i) => i))(
    'shape %i is drawn within its window and its peak',
    (seed) => {
      const next = chance(seed + 1);
      const shapes = [anyShape(next), anyShape(next)];
      const span = spanOf(shapes);
      const grid = gridOver(span, shapes);
      expect(grid).toEqual([...grid].sort((a, b) => a - b));
      for (const one of shapes) {
        const drawn = heights(one, grid, one.peak);
        expect(Math.max(...drawn)).toBeLessThanOrEqual(1 + 1e-9);
        expect(Math.min(...drawn)).toBeGreaterThanOrEqual(0);
        expect(one.lengths[0]!).toBeGreaterThanOrEqual(span[0]);
        expect(one.lengths.at(-1)!).toBeLessThanOrEqual(span[1]);
        one.lengths.forEach((x, i) => expect(torqueAt(one, x)).toBeCloseTo(one.torque[i]!, 4));
        expect(torqueAt(one, one.lengths[0]! - 0.01)).toBeNull();
      }
      // To a common peak the stronger one stands higher.
      const common = Math.max(...shapes.map((s) => s.peak));
      const [a, b] = shapes.map((s) => Math.max(...s.lengths.map((x) => (torqueAt(s, x) ?? 0) / common)));
      expect(a! > b!).toBe(shapes[0]!.peak > shapes[1]!.peak);
    },
  );

  test('a profile gives its own bins, held to the very ends of the movement, and the pose at a length', () => {
    const profile = sample();
    const shape = shapeOf(profile, 'side_delt');
    expect(shape.lengths[0]).toBeCloseTo(0.3);
    expect(shape.lengths.at(-1)).toBeCloseTo(0.8);
    expect(torqueAt(shape, 0.55)).toBeCloseTo(16);
    expect(shape.peak).toBe(16);
    expect(poseAt(profile, 'side_delt', 0.79)).toBe(0);
    expect(poseAt(profile, 'side_delt', 0.31)).toBe(4);
    expect(shapeOf(profile, 'lats').lengths).toEqual([]);
  });
});

describe('geometry, wherever it is', () => {
  test.each(VIEWS)('seen from the %s, a point dragged nowhere stays where it is', (view) => {
    const next = chance(7);
    for (let i = 0; i < 50; i++) {
      const p = [next() * 4 - 2, next() * 4 - 2, next() * 2.5];
      const back = unproject(view, project(view, p), p);
      back.forEach((v, k) => expect(v).toBeCloseTo(p[k]!));
    }
  });

  test('a hull is convex and leaves nothing outside', () => {
    const next = chance(3);
    for (let i = 0; i < 30; i++) {
      const points: Point[] = Array.from({ length: 25 }, () => [next(), next()]);
      const rim = hull(points);
      const turns = (p: Point, a: Point, b: Point) =>
        (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
      rim.forEach((a, k) => {
        const b = rim[(k + 1) % rim.length]!;
        for (const p of points) expect(turns(p, a, b)).toBeGreaterThanOrEqual(-1e-9);
      });
    }
  });

  test.each(VIEWS)('a body fits its frame from the %s, and a place on the page leads back to it', (view) => {
    const profile = sample();
    const box = bounds(profile, view);
    const scale = scaleOf(box, 300, 400);
    const frame = fit(box, 300, 400, scale);
    for (const path of Object.values(profile.positions_m))
      for (const p of path) {
        const [x, y] = frame.place(project(view, p));
        expect(x).toBeGreaterThan(0);
        expect(x).toBeLessThan(300);
        expect(y).toBeGreaterThan(0);
        expect(y).toBeLessThan(400);
        const [u, v] = frame.back([x, y]);
        expect([u, v].map((n) => Number(n.toFixed(6)))).toEqual(
          project(view, p).map((n) => Number((n + 0).toFixed(6)) + 0),
        );
      }
  });

  test('an arm that goes out sideways is best seen from the front', () => {
    expect(bestView(sample())).toBe('front');
  });
});

describe('the figure', () => {
  test.each(VIEWS)('is whole from the %s, what is nearer drawn later', (view) => {
    const drawn = pieces(sample(), 2, view);
    const named = drawn.map((p) => p.id);
    expect(new Set(named).size).toBe(named.length);
    for (const s of ['left', 'right'])
      for (const part of ['upper arm', 'forearm', 'fist', 'thigh', 'shank', 'foot'])
        expect(named).toContain(`${s} ${part}`);
    const nears = drawn.filter((p) => p.tone !== 'limb' && p.id !== 'neck').map((p) => p.near);
    expect(nears).toEqual([...nears].sort((a, b) => a - b));
    for (const p of drawn)
      expect(p.near).toBeLessThanOrEqual(Math.max(...p.circles.map((c) => nearness(view, c.at))));
  });

  test('one arm works: it alone is marked, and from the side the other is quiet', () => {
    const tone = (view: View) => Object.fromEntries(pieces(sample(), 2, view).map((p) => [p.id, p.tone]));
    expect(tone('side')['right forearm']).toBe('limb');
    expect(tone('side')['left forearm']).toBe('far');
    expect(tone('front')['left forearm']).toBe('body');
    expect(tone('side')['right thigh']).not.toBe('limb');
  });

  test('a body twice as large has limbs twice as thick', () => {
    const small = sample();
    const large = {
      ...small,
      positions_m: Object.fromEntries(
        Object.entries(small.positions_m).map(([k, path]) => [k, path.map((p) => p.map((v) => 2 * v))]),
      ),
    } as typeof small;
    const radii = (p: typeof small) => pieces(p, 0, 'side').flatMap((q) => q.circles.map((c) => c.r));
    const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
    expect(sum(radii(large))).toBeCloseTo(2 * sum(radii(small)));
  });
});
