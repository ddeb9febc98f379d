// Progress as it comes, the answer at the end, and that leaving is no fault.
import { afterEach, expect, test, vi } from 'vitest';
import { watch } from './watch';

afterEach(() => vi.unstubAllGlobals());

/** A server that sends these chunks, however they are cut. */
function serve(chunks: string[], status = 200) {
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      for (const chunk of chunks) controller.enqueue(new TextEncoder().encode(chunk));
      controller.close();
    },
  });
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => new Response(body, { status })),
  );
}
const ask = (told: (part: number | null) => void = () => {}) =>
  watch('match', '/api/lines/7/match', { place: 2 }, told, new AbortController().signal);

test('progress is told as it comes, in pieces cut anywhere, and then the answer', async () => {
  serve([
    'event: progress\n\nevent: pro',
    'gress\ndata: 0.5\n',
    '\nevent: answer\ndata: {"line":',
    ' "x"}\n\n',
  ]);
  const parts: (number | null)[] = [];
  expect(await ask((part) => parts.push(part))).toEqual({ data: { line: 'x' } });
  expect(parts).toEqual([0.5]);
  expect(vi.mocked(fetch).mock.calls[0]![0]).toBe('/api/lines/7/match/events');
});

test('a problem at the end or instead of a stream is a problem, and so is a stream that breaks off', async () => {
  serve(['event: problem\ndata: {"title": "Nothing here", "status": 422}\n\n']);
  expect((await ask())?.problem?.title).toBe('Nothing here');
  serve(['{"title": "Too much is being computed", "detail": "later"}'], 503);
  expect((await ask())?.problem).toMatchObject({ status: 503, title: 'Too much is being computed' });
  serve(['event: progress\ndata: 0.2\n\n']);
  expect((await ask())?.problem?.title).toBe('The app does not answer');
});

test('who leaves is told nothing', async () => {
  const leaving = new AbortController();
  vi.stubGlobal(
    'fetch',
    vi.fn(
      (_: string, { signal }: RequestInit) =>
        new Promise((_resolve, reject) => signal!.addEventListener('abort', () => reject(signal!.reason))),
    ),
  );
  const asked = watch('reach', '/api/clients/1/reach', undefined, () => {}, leaving.signal, { place: 3 });
  leaving.abort();
  expect(await asked).toBeNull();
  expect(vi.mocked(fetch).mock.calls[0]![0]).toBe('/api/clients/1/reach/events?place=3');
});
