import { describe, expect, test } from 'vitest';
import { keyOf } from './keys';
import { Undo } from './undo.svelte';

describe('undo', () => {
  test('there and back gives every state again, in order', () => {
    const undo = new Undo<number>();
    let now = 0;
    for (const next of [1, 2, 3]) {
      undo.keep(now);
      now = next;
    }
    const seen = [];
    for (let before = undo.back(now); before !== undefined; before = undo.back(now)) {
      seen.push(before);
      now = before;
    }
    expect(seen).toEqual([2, 1, 0]);
    while (undo.future.length) now = undo.forward(now)!;
    expect(now).toBe(3);
  });

  test('a new change forgets what was left by going back, and a hundred states are kept', () => {
    const undo = new Undo<number>();
    undo.keep(1);
    expect(undo.back(2)).toBe(1);
    undo.keep(1);
    expect(undo.forward(5)).toBeUndefined();
    for (let i = 0; i < 300; i++) undo.keep(i);
    expect(undo.past).toHaveLength(100);
  });
});

test('keys are written as shortcuts name them', () => {
  const key = (key: string, held = {}) =>
    keyOf({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held } as KeyboardEvent);
  expect(key('a')).toBe('a');
  expect(key('?', { shiftKey: true })).toBe('?');
  expect(key('ArrowLeft', { shiftKey: true })).toBe('Shift+ArrowLeft');
  expect(key('z', { metaKey: true })).toBe('Control+z');
});
