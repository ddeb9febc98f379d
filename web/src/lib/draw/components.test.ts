// Drawings as the browser gets them, rendered without one: what a person compares must be there to compare.
import { render } from 'svelte/server';
import { describe, expect, test } from 'vitest';
import Curves from './Curves.svelte';
import Figure from './Figure.svelte';
import Ribbon from './Ribbon.svelte';
import { sample } from './sample';
import type { Shape } from './shape';

const even: Shape = { lengths: [0.2, 0.5, 0.8], torque: [10, 10, 10], peak: 10 };
const late: Shape = { lengths: [0.2, 0.5, 0.8], torque: [0, 10, 20], peak: 20 };

/** Filled areas of a ribbon: what only the upper side has, both, what only the lower side has, both mirrored. */
function areas(swap: Shape | null, more = {}) {
  const props = { prescribed: even, swap, width: 400, height: 200, label: 'shapes', ...more };
  const svg = render(Ribbon, { props }).body;
  return [...svg.matchAll(/<path d="(M[^"]*)" fill="([^"]*)"/g)].map(([, d, fill]) => ({
    ys: [...d!.matchAll(/[-\d.]+,([-\d.]+)/g)].map((m) => Number(m[1])),
    fill: fill!,
  }));
}
const high = (ys: number[]) => Math.max(...ys.map((y) => Math.abs(y - 100)));

describe('the mirror ribbon', () => {
  test('a perfect swap is symmetrical about the axis, and nothing is hatched that is not covered', () => {
    const [over, both, under, mirrored] = areas(even);
    expect(over!.fill).toContain('-over');
    expect(under!.fill).toContain('-under');
    expect(over!.ys).toEqual(both!.ys);
    expect(under!.ys).toEqual(mirrored!.ys);
    over!.ys.forEach((y, i) => expect(200 - y).toBeCloseTo(under!.ys[i]!, 1));
  });

  test('where two shapes differ the hatch of the stronger one stays in sight', () => {
    const [over, both, under, mirrored] = areas(late);
    expect(high(both!.ys)).toBeLessThanOrEqual(high(over!.ys) + 1e-6);
    const left = over!.ys.filter((y, i) => Math.abs(y - 100) > Math.abs(both!.ys[i]! - 100) + 5);
    expect(left.length).toBeGreaterThan(10);
    under!.ys.forEach((y, i) =>
      expect(Math.abs(y - 100)).toBeGreaterThanOrEqual(Math.abs(mirrored!.ys[i]! - 100) - 1e-6),
    );
  });

  test('to one scale in N·m the weaker side is the lower one; to its own peak both are as high', () => {
    const own = areas(late);
    expect(high(own[0]!.ys)).toBeCloseTo(high(own[2]!.ys), 1);
    const common = areas(late, { absolute: true });
    expect(high(common[0]!.ys)).toBeCloseTo(high(common[2]!.ys) / 2, 1);
  });

  test('alone, small, and with a plumb line: no words where there is no room, units where there is', () => {
    expect(areas(null)).toHaveLength(2);
    const mini = render(Ribbon, {
      props: { prescribed: even, swap: late, width: 90, height: 30, mini: true, label: 'm' },
    });
    expect(mini.body).not.toContain('<text');
    const full = render(Ribbon, {
      props: { prescribed: even, swap: late, width: 400, height: 200, at: 0.5, muscle: 'biceps', label: 'f' },
    });
    expect(full.body.match(/10\.0 N·m/g)).toHaveLength(2);
    expect(full.body).toContain('biceps from its longest (0 %) to its shortest (100 %)');
  });
});

describe('figures and curves', () => {
  test.each(['side', 'front', 'top'] as const)(
    'a figure from the %s has no broken line and says its lever',
    (view) => {
      const profile = sample();
      for (let pose = 0; pose < 5; pose++) {
        const props = {
          profile,
          pose,
          view,
          colour: 'red',
          width: 300,
          height: 400,
          scale: 150,
          label: 'a raise',
        };
        const { body } = render(Figure, { props });
        expect(body).not.toMatch(/NaN|undefined|Infinity/);
        expect(body).toContain('aria-label="a raise"');
      }
    },
  );

  test('curves carry their names, their unit and the value at the plumb line', () => {
    const props = {
      title: 'Effort',
      unit: '%',
      curves: [
        { name: 'shoulder', values: [10, 40, 20], strong: true },
        { name: 'elbow', values: [5, 5, 30] },
      ],
      width: 320,
      height: 160,
      pose: 1,
      colour: 'blue',
    };
    const { body } = render(Curves, { props });
    for (const words of ['Effort', '%', 'shoulder', 'elbow']) expect(body).toContain(words);
    expect(body).not.toMatch(/NaN|undefined/);
  });
});
