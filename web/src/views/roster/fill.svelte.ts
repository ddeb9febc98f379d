import { api, ask, type Client, type Schemas } from '../../lib/api/client';
import { watch } from '../../lib/api/watch';

type Cell = { line: number; place: number };
type Line = Client['programs'][number]['lines'][number];
type Accepted = Line['accepted'][number];
/** A swap under this wants a look before it is sent. */
export const LOOK = 70;

/** Sessions whose swaps, or places whose first looks, are asked for at a time. */
const LANES = 2;
/** Empty cells up to which no first look is taken before they are filled. */
const FEW = 3;

export const cellName = (line: number, place: number) => `${line} ${place}`;

/** Finding a swap for every empty cell of a client's board, one after the other, with a way to stop and a way back. */
export class Fill {
  running = $state(false);
  done = $state(0);
  total = $state(0);
  told = $state('');
  /** Cells where nothing stands in for the line, and why. */
  nothing: Record<string, string> = $state({});
  /** What most likely comes into empty cells: taken within seconds, long before all are searched. */
  looks: Record<string, Schemas['LookDoc'] | null> = $state({});
  looking = $state(false);
  /** What was accepted last, to take it all back. */
  filled: Cell[] = $state.raw([]);
  private work: AbortController | null = null;
  private looked: AbortController | null = null;

  empty(client: Client): Cell[] {
    return this.cells(client, () => true);
  }

  /** Cells that are empty or whose swap is not locked. */
  unlocked(client: Client): Cell[] {
    return this.cells(client, (held) => held.locked);
  }

  /** Cells without a swap that stays; place by place, as what is computed for one line there serves the next. */
  private cells(client: Client, stays: (held: Accepted) => boolean): Cell[] {
    return client.places.flatMap((place) =>
      client.programs
        .flatMap((p) => p.lines)
        .filter((line) => !line.accepted.some((held) => held.place === place.id && stays(held)))
        .map((line) => ({ line: line.id, place: place.id })),
    );
  }

  /** Lock what is accepted for a line at a place, or unlock it; whether there was something. */
  async lock(line: Line, place: number): Promise<boolean> {
    const held = line.accepted.find((a) => a.place === place);
    if (!held) return false;
    const path = { params: { path: { line: line.id } } };
    const answer = await ask(
      api.PUT('/api/lines/{line}/accepted/locked', { ...path, body: { place, locked: !held.locked } }),
    );
    return Boolean(answer.data);
  }

  /** Cells by session and place: what a session is done with is chosen together. */
  private sessions(client: Client, cells: Cell[]) {
    const lines = client.programs.flatMap((p) => p.lines);
    const out: { session: number; place: number; lines: number[] }[] = [];
    for (const { line, place } of cells) {
      const own = lines.find((l) => l.id === line)?.session_id ?? 0;
      const held = out.find((g) => g.session === own && g.place === place);
      if (held) held.lines.push(line);
      else out.push({ session: own, place, lines: [line] });
    }
    return out;
  }

  /**
   * Accept a swap for every empty cell, or `anew` for every one that is not locked, a session's together; `again` is called
   * as cells fill.
   */
  async run(client: Client, again: () => Promise<void>, anew = false) {
    if (this.running) return;
    const cells = anew ? this.unlocked(client) : this.empty(client);
    const held = client.programs
      .flatMap((p) => p.lines)
      .flatMap((l) => l.accepted.map((a) => [l.id, a] as const));
    const work = (this.work = new AbortController());
    this.running = true;
    this.total = cells.length;
    this.done = 0;
    this.told = '';
    this.filled = [];
    this.nothing = {};
    if (cells.length > FEW) await this.look(client);
    let weak = 0;
    let together = 0;
    const waiting = this.sessions(client, cells);
    const parts: Record<number, number> = {};
    let finished = 0;
    const tell = () => (this.done = Math.floor(finished + Object.values(parts).reduce((a, b) => a + b, 0)));
    const lane = async (own: number) => {
      for (let group = waiting.shift(); group; group = waiting.shift()) {
        const { session, place, lines } = group;
        const found = await watch(
          'choice',
          `/api/sessions/${session}/choice`,
          { place, rank: {}, anew },
          (part) => {
            parts[own] = (part ?? 0) * lines.length;
            tell();
          },
          work.signal,
        );
        if (work.signal.aborted || !found) return;
        for (const [line, why] of Object.entries(found.data?.nothing ?? {}))
          this.nothing[cellName(Number(line), place)] = why;
        if (found.problem)
          for (const line of lines)
            this.nothing[cellName(line, place)] =
              found.problem.faults?.[0]?.limit ?? found.problem.detail ?? '';
        for (const one of found.data?.cells ?? []) {
          const now = held.find(([l, a]) => l === one.line && a.place === place)?.[1].swap;
          // What came out as it stands is not accepted once more.
          if (now && JSON.stringify(now.set_up) === JSON.stringify(one.set_up)) continue;
          const body = { place, rank: {}, key: one.key, note: '' };
          const path = { params: { path: { line: one.line } } };
          const answer = await ask(api.POST('/api/lines/{line}/accepted', { ...path, body: body as never }));
          if (!answer.data) continue;
          this.filled = [...this.filled, { line: one.line, place }];
          if (one.match < LOOK) weak += 1;
          if (one.best) together += 1;
        }
        finished += lines.length;
        parts[own] = 0;
        tell();
        await again();
      }
    };
    // As many at a time as are computed side by side.
    await Promise.all(Array.from({ length: LANES }, (_, own) => lane(own)));
    await again();
    this.running = false;
    const none = Object.keys(this.nothing).length;
    this.told = [
      anew ? `${this.filled.length} changed` : `${this.filled.length} filled`,
      together ? `${together} of them not the first of their list, for the session's sake` : '',
      weak ? `${weak} under ${LOOK} want a look` : '',
      none ? `${none} where nothing there can` : '',
      work.signal.aborted ? 'stopped before the end' : '',
    ]
      .filter(Boolean)
      .join(', ');
  }

  stop() {
    this.work?.abort();
    this.looked?.abort();
  }

  /** First looks at a client's empty cells, two places at a time; given up where somebody stops them or asks for others. */
  async look(client: Client, places = client.places) {
    this.looked?.abort();
    const own = (this.looked = new AbortController());
    this.looking = true;
    this.told = '';
    const waiting = [...places];
    const lane = async () => {
      for (let place = waiting.shift(); place && !own.signal.aborted; place = waiting.shift())
        await this.takeLooks(client, place.id, false, own.signal);
    };
    await Promise.all(Array.from({ length: LANES }, lane));
    if (this.looked === own) this.looking = false;
  }

  /** What was looked at before, told at once; and where a place changed since, its cells looked at anew. */
  async recall(client: Client) {
    for (const place of client.places) await this.takeLooks(client, place.id, true);
    const changed = client.places.filter((place) => {
      const looks = this.empty(client)
        .filter((c) => c.place === place.id)
        .map((c) => this.looks[cellName(c.line, c.place)]);
      const some = looks.some((look) => look && !look.settled);
      return looks.some((look) => look?.passing) || (some && looks.includes(undefined));
    });
    if (changed.length) await this.look(client, changed);
  }

  private async takeLooks(client: Client, place: number, known: boolean, signal?: AbortSignal) {
    const path = { params: { path: { client: client.id } } };
    const body = { place, rank: {} as never, known };
    const answer = await ask(api.POST('/api/clients/{client}/first-looks', { ...path, body, signal }));
    for (const { line, look } of answer.data ?? []) this.looks[cellName(line, place)] = look;
    if (answer.problem && !known && !signal?.aborted)
      this.told = answer.problem.detail ?? answer.problem.title ?? '';
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
