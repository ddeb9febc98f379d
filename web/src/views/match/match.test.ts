// The bench's state against a stand-in for the server: what overtakes what, and what is never lost.
import { beforeEach, describe, expect, test, vi } from 'vitest';

type Asked = { verb: string; path: string; body: Record<string, unknown>; answer: (value: unknown) => void };
const asked: Asked[] = [];
const verb =
  (name: string) =>
  (path: string, options: { body?: Record<string, unknown> } = {}) =>
    new Promise((resolve) => asked.push({ verb: name, path, body: options.body ?? {}, answer: resolve }));

vi.mock('../../lib/api/client', async (original) => ({
  ...(await original<typeof import('../../lib/api/client')>()),
  api: { GET: verb('GET'), POST: verb('POST'), PUT: verb('PUT'), DELETE: verb('DELETE') },
}));
/** Long work is asked for elsewhere; what fails comes back as a problem, as `watch` promises. */
vi.mock('../../lib/api/watch', async () => {
  const { ask } = await import('../../lib/api/client');
  const post = verb('POST');
  return {
    watch: (_: string, path: string, body: Record<string, unknown>) => ask(post(path, { body }) as never),
  };
});
const { Bench } = await import('./match.svelte');

const swap = (key: string, match = 90) => ({
  key,
  match,
  title: key,
  kit: 'pulley',
  set_up: { movement: 'curl', sources: [key] },
  load: { words: '10 kg pin', reps: '8–10' },
  profile: null,
});
const line = (id: number, accepted: unknown[] = []) => ({ id, name: `line ${id}`, accepted });
const people = (accepted: unknown[] = []) => ({
  clients: [
    {
      id: 1,
      client: { name: 'A', pinned: [], banned: [] },
      places: [{ id: 2, name: 'Shed', items: 3 }],
      programs: [{ id: 1, name: 'p', lines: [line(7, accepted), line(8)] }],
    },
  ],
});
const shed = {
  place: {
    kit: [
      { id: 'twin', name: 'twin columns', kind: 'cable_column' },
      { id: 'bench', name: 'bench', kind: 'bench' },
    ],
    busy: [
      { item: 'twin', days: ['mon', 'tue'], start: '17:00', end: '19:00' },
      { item: 'bench', days: ['mon', 'tue'], start: '17:00', end: '19:00' },
      { item: 'twin', days: [], start: '06:00', end: '07:00' },
    ],
  },
};
const ranked = (...swaps: unknown[]) => ({
  data: { line: 'x', place: 'Shed', swaps, prescribed: { title: 'curl', target: 'biceps', profile: null } },
});
const settled = () => new Promise((resolve) => setTimeout(resolve));
/** Answers the oldest open question to a path; later ones wait. */
async function reply(path: string, value: unknown) {
  const i = asked.findIndex((a) => a.path.endsWith(path));
  expect(i, `a question to ${path}`).toBeGreaterThanOrEqual(0);
  asked.splice(i, 1)[0]!.answer(value);
  await settled();
}
async function loaded(swaps = [swap('first'), swap('second', 80)], accepted: unknown[] = []) {
  const bench = new Bench();
  const done = bench.load(7, 2);
  await reply('/api/clients', { data: people(accepted) });
  await reply('/api/lenses', { data: { lenses: [], parts: {}, coach: { lens: 'lengthened', weights: {} } } });
  await reply('/api/places/{place}', { data: shed });
  await reply('/match', ranked(...swaps));
  await done;
  return bench;
}
beforeEach(() => {
  asked.length = 0;
});

describe('the match bench', () => {
  test('opens on the swap in force, with the coach’s lens and the crowded hours of the place', async () => {
    const accepted = [{ id: 1, place: 2, swap: swap('second', 80) }];
    const bench = await loaded(undefined, accepted);
    expect(bench.rank.lens).toBe('lengthened');
    expect(bench.swap?.key).toBe('second');
    expect(bench.items.map((i) => i.id)).toEqual(['twin']);
    expect(bench.crowds).toEqual([
      { when: 'Mon Tue, 17:00 to 19:00', items: ['twin', 'bench'] },
      { when: 'Daily, 06:00 to 07:00', items: ['twin'] },
    ]);
  });

  test('an answer that a newer question overtook is dropped', async () => {
    const bench = await loaded();
    asked.length = 0;
    const slow = bench.again({ one_side: true });
    const quick = bench.again({ one_side: false });
    const [older, newer] = asked.filter((a) => a.path.endsWith('/match'));
    newer!.answer(ranked(swap('newer')));
    await quick;
    older!.answer(ranked(swap('older')));
    await slow;
    expect(bench.swap?.key).toBe('newer');
    expect(bench.busy).toBe(false);
  });

  test('while a move is on its way only the newest one waits', async () => {
    const bench = await loaded();
    asked.length = 0;
    void bench.move([{ id: 'hole', value: 2 }]);
    void bench.move([{ id: 'hole', value: 3 }]);
    void bench.move([{ id: 'hole', value: 9 }]);
    expect(asked).toHaveLength(1);
    await reply('/try-out', { data: swap('first', 85) });
    expect(bench.swap?.match).toBe(85);
    expect(asked.map((a) => (a.body['moves'] as { value: number }[])[0]!.value)).toEqual([9]);
    await reply('/try-out', { data: swap('first', 70) });
    expect(bench.swap?.match).toBe(70);
    bench.snap();
    expect(bench.swap?.match).toBe(90);
  });

  test('converting the load anew waits its turn and is not forgotten', async () => {
    const bench = await loaded();
    asked.length = 0;
    void bench.move([{ id: 'hole', value: 2 }]);
    void bench.move([], true);
    await reply('/try-out', { data: swap('first', 85) });
    expect(asked.map((a) => a.body['solve'])).toEqual([true]);
    await reply('/try-out', { data: swap('first', 88) });
    expect(bench.swap?.match).toBe(88);
  });

  test('a move that cannot be says why and leaves what was there', async () => {
    const bench = await loaded();
    asked.length = 0;
    void bench.move([{ id: 'hole', value: 99 }]);
    const fault = {
      field: 'hole',
      value: '99',
      limit: 'the column has holes 1 to 9',
      way_out: 'Pick one of these',
    };
    await reply('/try-out', { error: { title: 'no', detail: 'no', faults: [fault] } });
    expect(bench.rejected).toBe('the column has holes 1 to 9. Pick one of these.');
    expect(bench.hand).toBeNull();
    expect(bench.swap?.key).toBe('first');
    bench.choose(1);
    expect(bench.rejected).toBe('');
  });

  test('an answer to a move on another swap than the one now shown is dropped', async () => {
    const bench = await loaded();
    asked.length = 0;
    void bench.move([{ id: 'hole', value: 2 }]);
    bench.choose(1);
    await reply('/try-out', { data: swap('first', 12) });
    expect(bench.swap?.key).toBe('second');
    expect(bench.hand).toBeNull();
  });

  test('what was set by hand is what is accepted; with nothing accepted there is nothing to undo', async () => {
    const bench = await loaded();
    await bench.undo();
    expect(bench.note).toContain('nothing to undo');
    void bench.move([{ id: 'hole', value: 2 }]);
    await reply('/try-out', {
      data: { ...swap('first', 85), set_up: { movement: 'curl', sources: ['moved'] } },
    });
    const done = bench.accept();
    const post = asked.find((a) => a.path.endsWith('/accepted'))!;
    expect(post.body['set_up']).toEqual({ movement: 'curl', sources: ['moved'] });
    const now = line(7, [{ id: 4, place: 2, swap: swap('first', 85) }]);
    await reply('/accepted', { data: now });
    await done;
    expect(bench.note).toBe('Accepted for Shed: first.');
    expect(bench.accepted?.id).toBe(4);
    expect(bench.lines[0]!.accepted).toHaveLength(1);
  });

  test('a server that does not answer is a problem in words, and nothing is busy for ever', async () => {
    const bench = await loaded();
    asked.length = 0;
    const done = bench.again({ one_side: true });
    await reply('/match', Promise.reject(new Error('gone')));
    await done;
    expect(bench.problem?.title).toBe('The app does not answer');
    expect(bench.busy).toBe(false);
    expect(bench.rank.one_side).toBe(true);
  });

  test('comparing is with what is shown now, and back to the prescription', async () => {
    const bench = await loaded();
    bench.choose(1);
    bench.compare();
    bench.choose(0);
    expect(bench.above?.title).toBe('second');
    bench.compare();
    expect(bench.above?.title).toBe('curl');
    bench.choose(99);
    expect(bench.chosen).toBe(1);
  });
});
