import {
  api,
  ask,
  type Answer,
  type KeptProgram,
  type LineDoc,
  type ProgramRecord,
  type Schemas,
} from '../../lib/api/client';
import { unitsOf } from '../../lib/units/units.svelte';
import { Kept, type Read } from '../../lib/records/kept.svelte';

export type KeptSession = KeptProgram['sessions'][number];
export type KeptLine = KeptSession['lines'][number];
/** A line's place in a program, or the place before which one is dropped. */
export type Spot = { session: number; line: number };
export type Week = Schemas['BlockWeekDoc'];
export type PlannedSet = Schemas['PlannedSetDoc'];
type Words = Schemas['LineWordsView'];

/** A client's program while it is written: sessions and lines, moved, copied and changed where they stand. */
export class Desk extends Kept<KeptProgram> {
  readonly kind = 'programs' as const;
  client = $state(0);
  clientName = $state('');
  units = $state.raw(unitsOf(null));
  words: Record<string, Words> = $state.raw({});

  protected async read(program: number) {
    return this.seen(await ask(api.GET('/api/programs/{program}', { params: { path: { program } } })));
  }

  protected async write(program: number, doc: KeptProgram) {
    const path = { params: { path: { program } } };
    return this.seen(await ask(api.PUT('/api/programs/{program}', { ...path, body: doc })));
  }

  private seen(answer: Answer<ProgramRecord>): Answer<Read<KeptProgram>> {
    if (answer.problem) return answer;
    const { client, client_name, client_units, program, words, can_undo, can_redo } = answer.data;
    this.client = client;
    this.clientName = client_name;
    this.units = unitsOf(client_units);
    this.words = words;
    return { data: { doc: program, canUndo: can_undo, canRedo: can_redo } };
  }

  private sessions(make: (sessions: KeptSession[]) => KeptSession[]) {
    return this.change((doc) => ({ ...doc, sessions: make(doc.sessions) }));
  }

  private lines(session: number, make: (lines: KeptLine[]) => KeptLine[]) {
    return this.sessions((all) => all.map((s, i) => (i === session ? { ...s, lines: make(s.lines) } : s)));
  }

  rename = (name: string) => this.change((doc) => ({ ...doc, name }));
  remark = (note: string) => this.change((doc) => ({ ...doc, note }));
  addSession = (name: string) => this.sessions((all) => [...all, { name, lines: [] }]);
  renameSession = (at: number, name: string) =>
    this.sessions((all) => all.map((s, i) => (i === at ? { ...s, name } : s)));
  removeSession = (at: number) => this.sessions((all) => all.filter((_, i) => i !== at));
  moveSession = (at: number, by: number) => this.sessions((all) => moved(all, at, by));
  addLine = (at: number, line: LineDoc) => this.addLines(at, [line]);
  addLines = (at: number, lines: LineDoc[]) =>
    this.lines(at, (all) => [...all, ...lines.map((line) => ({ line }))]);
  removeLine = (at: number, i: number) => this.lines(at, (all) => all.filter((_, k) => k !== i));
  copyLine = (at: number, i: number) =>
    this.lines(at, (all) => [...all.slice(0, i + 1), { line: all[i]!.line }, ...all.slice(i + 1)]);

  /** Sessions of a sheet with the lines that were clear; into one of the same name where there is one. */
  addSessions(read: { name: string; lines: LineDoc[] }[]) {
    return this.sessions((all) => {
      const out = all.map((s) => ({ ...s, lines: [...s.lines] }));
      for (const { name, lines } of read) {
        const there = out.find((s) => s.name === name);
        const kept = lines.map((line) => ({ line }));
        if (there) there.lines.push(...kept);
        else out.push({ name, lines: kept });
      }
      return out;
    });
  }

  editLine(at: number, i: number, part: Partial<LineDoc>) {
    return this.lines(at, (all) => all.map((x, k) => (k === i ? { ...x, line: { ...x.line, ...part } } : x)));
  }

  /** How many sets; where they differ, one like the last is added, or the last left out. */
  setSets(at: number, i: number, sets: number) {
    const each = this.doc?.sessions[at]?.lines[i]?.line.sets_as ?? [];
    const last = each.at(-1);
    if (!last) return this.editLine(at, i, { sets });
    const sets_as = Array.from({ length: sets }, (_, k) => each[k] ?? last);
    return this.editLine(at, i, { sets, sets_as });
  }

  setWeeks = (weeks: Week[]) => this.change((doc) => ({ ...doc, weeks }));
  setStart = (starts: string) => this.change((doc) => ({ ...doc, starts }));

  /** A line dropped before another place, in its own session or in another. */
  dropLine(from: Spot, to: Spot) {
    return this.sessions((all) => {
      const line = all[from.session]?.lines[from.line];
      if (!line) return all;
      const out = all.map((s) => ({ ...s, lines: [...s.lines] }));
      out[from.session]!.lines.splice(from.line, 1);
      const past = from.session === to.session && from.line < to.line ? 1 : 0;
      out[to.session]!.lines.splice(to.line - past, 0, line);
      return out;
    });
  }

  /** Up or down; from the end of one session into the next. */
  moveLine(at: number, i: number, by: number) {
    return this.sessions((all) => {
      const [here, there] = [all[at]!, all[at + by]];
      if (i + by >= 0 && i + by < here.lines.length)
        return all.map((s, k) => (k === at ? { ...s, lines: moved(s.lines, i, by) } : s));
      if (!there) return all;
      const line = here.lines[i]!;
      return all.map((s, k) => {
        if (k === at) return { ...s, lines: s.lines.filter((_, n) => n !== i) };
        if (k !== at + by) return s;
        return { ...s, lines: by > 0 ? [line, ...s.lines] : [...s.lines, line] };
      });
    });
  }

  /** A line's load; what the kit does not have is told at the field. */
  async setLoad(at: number, i: number, amount: number): Promise<string> {
    const line = this.doc?.sessions[at]?.lines[i]?.line;
    if (!line) return '';
    const answer = await ask(api.POST('/api/line-loads', { body: { line, amount, client: this.client } }));
    if (answer.problem)
      return answer.problem.faults?.map((f) => `${f.limit}. ${f.way_out}.`)[0] ?? answer.problem.detail;
    await this.editLine(at, i, answer.data.line);
    return '';
  }
}

function moved<T>(all: T[], at: number, by: number): T[] {
  const to = at + by;
  if (to < 0 || to >= all.length) return all;
  const out = [...all];
  const [one] = out.splice(at, 1);
  out.splice(to, 0, one!);
  return out;
}
