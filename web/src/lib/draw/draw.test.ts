import { describe, expect, test } from 'vitest';
import { scaleOf } from './frame';
import { hull, outline, project, type Point } from './geometry';
import { gridOver, heights, spanOf, torqueAt, type Shape } from './shape';

const shape: Shape = { lengths: [0.2, 0.4, 0.6], torque: [0, 10, 5], peak: 10 };

describe('resistance profiles', () => {
  test('torque is read between nodes and is none where the movement does not go', () => {
    expect(torqueAt(shape, 0.3)).toBeCloseTo(5);
    expect(torqueAt(shape, 0.6)).toBeCloseTo(5);
    expect(torqueAt(shape, 0.61)).toBeNull();
    expect(torqueAt(shape, 0.1)).toBeNull();
  });

  test('edges stay upright: just outside the movement the height is zero, at its end it is not', () => {
    const grid = gridOver(spanOf([shape]), [shape]);
    const drawn = heights(shape, grid, shape.peak);
    const end = grid.indexOf(0.6);
    expect(drawn[end]).toBeCloseTo(0.5);
    expect(drawn[end + 1]).toBe(0);
    expect(Math.max(...drawn)).toBeLessThanOrEqual(1);
  });

  test('the shown stretch holds all shapes and stays within the muscle', () => {
    const [low, high] = spanOf([shape, { lengths: [0.05, 0.97], torque: [1, 1], peak: 1 }]);
    expect(low).toBe(0);
    expect(high).toBe(1);
  });
});

describe('geometry', () => {
  test('each view keeps its two axes: ahead is right, up is up, left is up from above', () => {
    const p = [1, 2, 3];
    expect(project('side', p)).toEqual([1, -3]);
    expect(project('front', p)).toEqual([2, -3]);
    expect(project('top', p)).toEqual([1, -2]);
  });

  test('a hull holds every point and only corners', () => {
    const inside: Point[] = [
      [1, 1],
      [2, 1],
      [1.5, 1.2],
    ];
    const corners: Point[] = [
      [0, 0],
      [3, 0],
      [3, 2],
      [0, 2],
    ];
    expect(hull([...inside, ...corners])).toHaveLength(4);
  });

  test('a limb is as wide as its circles at scale', () => {
    const d = outline('side', [{ at: [0, 0, 0], r: 0.1 }], ([x, y]) => [x * 100, y * 100], 100);
    const xs = [...d.matchAll(/(-?[\d.]+) -?[\d.]+/g)].map((m) => Number(m[1]));
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(20, 0);
  });

  test('scale fits the longer way', () => {
    expect(scaleOf({ left: 0, right: 4, top: -1, bottom: 0 }, 228, 500)).toBeCloseTo(50);
  });
});
