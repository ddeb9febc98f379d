import { api, ask, type Problem, type Schemas } from '../../lib/api/client';
import {
  keepCard,
  keepEntry,
  keepPage,
  lastLink,
  markSent,
  readCard,
  readEntries,
  type Entry,
  type Kept,
} from '../../lib/offline/store';

import { isToday, stamp } from './words';

export type CardDoc = Schemas['CardDoc'];
export type Lift = Schemas['CardLiftDoc'];
export type Way = Schemas['CardWayDoc'];
export type SetDoc = Schemas['LoggedSetDoc'];

const RETRY_MS = 20_000;
/** Names this phone among others. */
const device = () => {
  const name = localStorage.getItem('odd-swap-device') ?? `phone ${crypto.randomUUID().slice(0, 4)}`;
  localStorage.setItem('odd-swap-device', name);
  return name;
};

/** A session on a phone: what the card says, what was noted, and whether it is sent. */
export class Card {
  link = $state('');
  card = $state.raw<CardDoc | null>(null);
  problem: Problem | null = $state.raw(null);
  kept: Kept[] = $state.raw([]);
  /** Where the phone stands: on which lift, and which way each is done. */
  at = $state(0);
  ways: Record<number, number> = $state({});
  /** That the phone has no room: what was noted is then only here until it is sent. */
  full = $state(false);
  sending = $state(false);
  offline = $state(false);
  /** What is new against what this phone had. */
  changed: string[] = $state.raw([]);
  rest: { until: number; of: number; next: string } | null = $state(null);

  private timer: ReturnType<typeof setInterval> | null = null;

  readonly unsent = $derived(this.kept.filter((k) => !k.sent && !k.refused).length);
  readonly refused = $derived(this.kept.filter((k) => k.refused));
  readonly lift = $derived(this.card?.lifts[this.at] ?? null);

  async open(hash: string) {
    this.link = decodeURIComponent(hash.replace(/^#/, '')) || (await lastLink().catch(() => ''));
    if (!this.link) return;
    this.card = await readCard(this.link).catch(() => null);
    this.kept = await readEntries(this.link).catch(() => []);
    this.timer ??= setInterval(() => void this.send(), RETRY_MS);
    await this.fetch();
    await this.send();
    await keepPage().catch(() => undefined);
  }

  close() {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
  }

  private headers = () => ({ 'Card-Link': this.link });

  async fetch() {
    const answer = await ask(api.GET('/api/card', { params: { header: this.headers() } }));
    this.offline = answer.problem?.status === 0;
    if (answer.problem && !this.offline) this.problem = answer.problem;
    if (!answer.data) return;
    this.problem = null;
    if (this.card && answer.data.revision > this.card.revision) this.changed = answer.data.changed ?? [];
    this.card = answer.data;
    await this.room(() => keepCard(this.link, answer.data));
  }

  /** Do something that needs room on the phone; where there is none, say so and go on. */
  private async room(work: () => Promise<unknown>) {
    try {
      await work();
    } catch {
      this.full = true;
    }
  }

  private async note(entry: Omit<Entry, 'id' | 'at' | 'device'>) {
    const made: Kept = {
      id: crypto.randomUUID(),
      link: this.link,
      sent: false,
      entry: { ...entry, id: '', at: stamp(), device: device() } as Entry,
    };
    made.entry.id = made.id;
    this.kept = [...this.kept, made];
    await this.room(() => keepEntry(JSON.parse(JSON.stringify(made)) as Kept));
    void this.send();
    return made.id;
  }

  async send(alone = false): Promise<void> {
    const waiting = this.kept.filter((k) => !k.sent && !k.refused).slice(0, alone ? 1 : 200);
    if (this.sending || !waiting.length || !this.link) return;
    this.sending = true;
    const entries = waiting.map((k) => k.entry);
    const answer = await ask(
      api.POST('/api/card/entries', {
        params: { header: this.headers() },
        body: { sent_at: stamp(), entries },
      }),
    );
    this.sending = false;
    this.offline = answer.problem?.status === 0;
    if (answer.problem?.status === 422) {
      // One that cannot be must not keep the others back: they go one by one, and it stays here with its reason.
      const [only] = waiting;
      if (!only || entries.length > 1) return this.send(true);
      const told = { ...only, refused: answer.problem.detail ?? answer.problem.title };
      this.kept = this.kept.map((k) => (k.id === only.id ? told : k));
      await this.room(() => keepEntry(JSON.parse(JSON.stringify(told)) as Kept));
      return this.send(true);
    }
    if (!answer.data) {
      if (!this.offline && answer.problem) this.problem = answer.problem;
      return;
    }
    const sent = answer.data.kept;
    this.kept = this.kept.map((k) => (sent.includes(k.id) ? { ...k, sent: true } : k));
    await markSent(sent).catch(() => undefined);
    this.full = this.full && this.unsent > 0;
    if (this.unsent) await this.send(alone);
  }

  way(lift: Lift): Way {
    return lift.ways[this.ways[lift.line] ?? 0] ?? lift.ways[0]!;
  }

  /** Sets of a lift that were noted today, less those that were taken back; fixes in place of what they fix. */
  sets(lift: Lift): Kept[] {
    const gone = this.kept.map((k) => k.entry.replaces);
    return this.kept.filter(
      (k) =>
        k.entry.kind === 'set' &&
        k.entry.line === lift.line &&
        !gone.includes(k.id) &&
        isToday(k.entry.at as string),
    );
  }

  async logSet(lift: Lift, set: SetDoc, note = '', replaces: string | null = null) {
    const order = this.sets(lift).length;
    await this.note({
      kind: 'set',
      line: lift.line,
      way: this.ways[lift.line] ?? 0,
      revision: this.card?.revision ?? 0,
      order,
      set,
      note,
      replaces,
    });
    if (replaces) return;
    const next = this.after(lift);
    this.rest = { until: Date.now() + lift.rest_s * 1000, of: lift.rest_s, next: this.toMove(lift, next) };
  }

  async takeBack(id: string) {
    await this.note({ kind: 'withdrawn', replaces: id, way: 0, revision: 0, order: 0, note: '' });
  }

  async hurts(lift: Lift, where: string, when: Schemas['PainDoc']['when'], note: string) {
    await this.note({
      kind: 'pain',
      line: lift.line,
      way: this.ways[lift.line] ?? 0,
      revision: this.card?.revision ?? 0,
      order: 0,
      pain: { where, when, stopped: true },
      note,
    });
    this.rest = null;
  }

  async weigh(mass_kg: number) {
    await this.note({ kind: 'weight', mass_kg, way: 0, revision: 0, order: 0, note: '' });
  }

  /** What comes after a set: the other of a pair, the same again, or the next lift. */
  after(lift: Lift): Lift | null {
    const lifts = this.card?.lifts ?? [];
    const letter = lift.label.slice(0, 1);
    const group = lift.label.length > 1 ? lifts.filter((x) => x.label.startsWith(letter)) : [lift];
    const open = (x: Lift) => this.sets(x).length < x.sets;
    const at = group.indexOf(lift);
    const turn = [...group.slice(at + 1), ...group.slice(0, at + 1)].find(open);
    return turn ?? lifts.slice(lifts.indexOf(lift) + 1).find(open) ?? lifts.find(open) ?? null;
  }

  /** What to move while resting: the steps of what comes next that are not as they stand now. */
  private toMove(now: Lift, next: Lift | null): string {
    if (!next) return 'That was the last set.';
    if (next === now) return `The same again: set ${this.sets(now).length + 1} of ${now.sets}.`;
    const stands = this.way(now).steps.map((s) => `${s.what} ${s.value}`);
    const way = this.way(next);
    const moved = way.steps.filter((s) => !stands.includes(`${s.what} ${s.value}`)).map((s) => s.value);
    return `Next: ${way.title}, ${way.load}. ${moved.length ? `Set: ${moved.join('; ')}.` : 'Nothing to set anew.'}`;
  }

  go(line: number) {
    const to = this.card?.lifts.findIndex((x) => x.line === line) ?? -1;
    if (to >= 0) this.at = to;
  }

  /** Ways that spare a joint: at most the card's part of what the present way asks of it. */
  sparing(lift: Lift, joint: string): { at: number; way: Way; part: number }[] {
    const now = this.way(lift).joints[joint] ?? 0;
    return lift.ways
      .map((way, at) => ({ at, way, part: now ? (way.joints[joint] ?? 0) / now : 1 }))
      .filter((x) => x.part <= (this.card?.spare_part ?? 0))
      .sort((a, b) => a.part - b.part);
  }
}
