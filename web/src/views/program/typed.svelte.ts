import { api, ask, type LineDoc, type Schemas } from '../../lib/api/client';

export type TypedLine = Schemas['TypedLineView'];
/** Parts of a line as they are shown again: what was not understood stands out. */
export type Part = { text: string; odd: boolean };

/** A line while it is typed: read at every pause, with its doubts; many pasted ones wait their turn. */
export class Typing {
  text = $state('');
  read: TypedLine | null = $state.raw(null);
  /** The lifts of a circuit that was typed in one line; empty where it is one lift. */
  circuit: TypedLine[] = $state.raw([]);
  private seen = '';
  busy = $state(false);
  /** Pasted lines that were not clear by themselves. */
  waiting: string[] = $state.raw([]);
  /** What became of the last lines. */
  told = $state('');
  private asked = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly client: () => number,
    private readonly taken: () => string[],
  ) {}

  /** Whether every lift of the circuit can be put in as it stands. */
  clear = $derived(this.circuit.length > 0 && this.circuit.every((r) => r.line && !r.unknown.length));

  parts(read: TypedLine): Part[] {
    const out: Part[] = [];
    let at = 0;
    for (const span of [...read.unknown].sort((a, b) => a.start - b.start)) {
      if (span.start > at) out.push({ text: read.text.slice(at, span.start), odd: false });
      out.push({ text: read.text.slice(span.start, span.end), odd: true });
      at = span.end;
    }
    return [...out, { text: read.text.slice(at), odd: false }];
  }

  /** What is typed, read once the typing pauses. */
  type(text: string) {
    this.text = text;
    this.told = '';
    clearTimeout(this.timer);
    if (!text.trim()) {
      this.asked += 1;
      this.read = null;
      this.circuit = [];
      return;
    }
    this.timer = setTimeout(() => void this.look(), 200);
  }

  async look(reading = 0): Promise<TypedLine | null> {
    clearTimeout(this.timer);
    const text = this.text.trim();
    if (!text) return null;
    const mine = ++this.asked;
    this.busy = true;
    const body = { client: this.client(), lines: [text], reading, example: true, taken: this.taken() };
    const answer = await ask(api.POST('/api/typed-lines', { body }));
    if (mine !== this.asked) return null;
    this.busy = false;
    const read = answer.data ?? [];
    this.seen = text;
    this.circuit = read.length > 1 ? read : [];
    this.read = read.length > 1 ? null : (read[0] ?? null);
    if (answer.problem) this.told = answer.problem.detail ?? answer.problem.title;
    return this.read;
  }

  /** The next of several readings. */
  other() {
    const read = this.read;
    if (read && read.readings.length > 1) void this.look((read.reading + 1) % read.readings.length);
  }

  /** A name that is not known stands for one that is, from now on. */
  async means(name: string, known: string) {
    const answer = await ask(api.POST('/api/own-names', { body: { name, means: known } }));
    if (answer.problem) this.told = answer.problem.detail ?? answer.problem.title;
    await this.look();
  }

  /** The line as it stands now, or the circuit's, where they can be prescribed; the next that waits comes up. */
  async finish(): Promise<LineDoc[]> {
    if (this.seen !== this.text.trim()) await this.look();
    // What was typed meanwhile is not what was read.
    if (this.seen !== this.text.trim()) return [];
    const reads = this.circuit.length ? this.circuit : this.read ? [this.read] : [];
    const lines = reads.flatMap((r) => (r.line && !r.unknown.length ? [r.line] : []));
    if (!lines.length || lines.length < reads.length) return [];
    this.next();
    return lines;
  }

  next() {
    this.type(this.waiting[0] ?? '');
    this.waiting = this.waiting.slice(1);
  }

  /** Many lines at once: the clear ones are answered, the others wait to be looked at. */
  async paste(text: string): Promise<LineDoc[]> {
    const lines = text
      .split(/\r?\n/)
      .map((l) => l.trim())
      .filter(Boolean)
      .slice(0, 60);
    this.busy = true;
    const body = { client: this.client(), lines, reading: 0, example: false, taken: this.taken() };
    const answer = await ask(api.POST('/api/typed-lines', { body }));
    this.busy = false;
    const read = answer.data ?? [];
    if (answer.problem) this.told = answer.problem.detail ?? answer.problem.title;
    this.waiting = [...this.waiting, ...read.filter((r) => !r.sure || !r.line).map((r) => r.text)];
    this.next();
    const clear = read.flatMap((r) => (r.sure && r.line ? [r.line] : []));
    this.told = `${clear.length} of ${read.length} lines put in${this.waiting.length || this.text ? '; the others want a look' : ''}.`;
    return clear;
  }
}
