import { api, ask, type Client } from '../../lib/api/client';
import { watch } from '../../lib/api/watch';

type Cell = { line: number; place: number };
/** A swap under this wants a look before it is sent. */
export const LOOK = 70;

export const cellName = (line: number, place: number) => `${line} ${place}`;

/** Finding a swap for every empty cell of a client's board, one after the other, with a way to stop and a way back. */
export class Fill {
  running = $state(false);
  done = $state(0);
  total = $state(0);
  told = $state('');
  /** Cells where nothing stands in for the line, and why. */
  nothing: Record<string, string> = $state({});
  /** What was accepted last, to take it all back. */
  filled: Cell[] = $state.raw([]);
  private work: AbortController | null = null;

  empty(client: Client): Cell[] {
    // Place by place: what is computed for one line there serves the next.
    return client.places.flatMap((place) =>
      client.programs
        .flatMap((p) => p.lines)
        .filter((line) => !line.accepted.some((a) => a.place === place.id))
        .map((line) => ({ line: line.id, place: place.id })),
    );
  }

  /** Accept the best swap for every empty cell; ``again`` is called as cells fill. */
  async run(client: Client, again: () => Promise<void>) {
    if (this.running) return;
    const cells = this.empty(client);
    const work = (this.work = new AbortController());
    this.running = true;
    this.total = cells.length;
    this.done = 0;
    this.told = '';
    this.filled = [];
    this.nothing = {};
    let weak = 0;
    for (const { line, place } of cells) {
      const found = await watch(
        'match',
        `/api/lines/${line}/match`,
        { place, rank: {} },
        () => {},
        work.signal,
      );
      if (work.signal.aborted || !found) break;
      const best = found.data?.swaps[0];
      if (!best)
        this.nothing[cellName(line, place)] =
          found.problem?.faults?.[0]?.limit ?? found.problem?.detail ?? '';
      else {
        const body = { place, rank: {}, key: best.key, note: '' };
        const answer = await ask(
          api.POST('/api/lines/{line}/accepted', { params: { path: { line } }, body: body as never }),
        );
        if (answer.data) {
          this.filled = [...this.filled, { line, place }];
          if (best.match < LOOK) weak += 1;
        }
      }
      this.done += 1;
      if (this.done % 4 === 0) await again();
    }
    await again();
    this.running = false;
    const none = Object.keys(this.nothing).length;
    this.told = [
      `${this.filled.length} filled`,
      weak ? `${weak} under ${LOOK} want a look` : '',
      none ? `${none} where nothing there can` : '',
      work.signal.aborted ? 'stopped before the end' : '',
    ]
      .filter(Boolean)
      .join(', ');
  }

  stop() {
    this.work?.abort();
  }

  /** Take back everything that was filled last. */
  async undo(again: () => Promise<void>) {
    for (const { line, place } of this.filled)
      await ask(api.DELETE('/api/lines/{line}/accepted', { params: { path: { line }, query: { place } } }));
    this.filled = [];
    this.told = 'Taken back.';
    await again();
  }
}
