import { api, ask, type Answer, type Kinds, type Problem } from '../api/client';

/** A record as the server keeps it. */
export type Read<T> = { doc: T; canUndo: boolean; canRedo: boolean };

/** What was typed here, and what somebody else stored meanwhile. */
export type Conflict<T> = { mine: T; theirs: T };

/**
 * One record that is edited: every change is stored at once, one after the other and each on the newest state, and can be
 * undone, also after a reload. What somebody else changed meanwhile is never overwritten unasked.
 */
export abstract class Kept<T> {
  abstract readonly kind: Kinds;
  id = $state(0);
  doc: T | null = $state.raw(null);
  canUndo = $state(false);
  canRedo = $state(false);
  problem: Problem | null = $state.raw(null);
  /** Why the last change was not stored. */
  rejected: Problem | null = $state.raw(null);
  /** The same by field; what was typed stays in its field. */
  faults: Record<string, string> = $state.raw({});
  conflict: Conflict<T> | null = $state.raw(null);
  /** Changes on their way to the store. */
  pending = $state(0);
  private queue: Promise<unknown> = Promise.resolve();
  private opened = 0;

  /** While a change is on its way the browser asks before it leaves the page. */
  readonly guard = (event: BeforeUnloadEvent) => {
    if (this.pending) event.preventDefault();
  };

  protected abstract read(id: number): Promise<Answer<Read<T>>>;
  protected abstract write(id: number, doc: T): Promise<Answer<Read<T>>>;
  /** What follows from a new state. */
  protected shown(): void | Promise<void> {}

  /** Open a record; the answer of one that was left meanwhile is dropped. */
  async load(id: number): Promise<void> {
    const mine = ++this.opened;
    this.id = id;
    const answer = await this.read(id);
    if (mine !== this.opened) return;
    this.problem = answer.problem ?? null;
    this.rejected = null;
    this.faults = {};
    this.conflict = null;
    if (answer.data) await this.take(answer.data);
    else this.doc = null;
  }

  private async take(read: Read<T>) {
    this.doc = read.doc;
    this.canUndo = read.canUndo;
    this.canRedo = read.canRedo;
    await this.shown();
  }

  /** Change the newest state; false where it could not be stored. */
  change(make: (doc: T) => T): Promise<boolean> {
    const id = this.id;
    return this.next(async () => {
      if (!this.doc || this.id !== id) return false;
      return this.store(make(this.doc));
    });
  }

  private async store(next: T): Promise<boolean> {
    const id = this.id;
    const answer = await this.write(id, next);
    if (this.id !== id) return !answer.problem;
    if (answer.problem?.status === 412) {
      const theirs = await this.read(id);
      if (theirs.data) this.conflict = { mine: next, theirs: theirs.data.doc };
      return false;
    }
    this.rejected = answer.problem ?? null;
    const rows = answer.problem?.faults ?? [];
    this.faults = Object.fromEntries(rows.map((f) => [f.field, `${f.limit}. ${f.way_out}.`]));
    if (answer.data) await this.take(answer.data);
    return !answer.problem;
  }

  /** Keep one of the two states of a conflict. */
  settle(which: 'mine' | 'theirs'): Promise<boolean> {
    const conflict = this.conflict;
    this.conflict = null;
    if (!conflict) return Promise.resolve(false);
    if (which === 'mine') return this.next(() => this.store(conflict.mine));
    return this.load(this.id).then(() => true);
  }

  back = () => this.turn('/api/undo');
  forward = () => this.turn('/api/redo');

  private turn(path: '/api/undo' | '/api/redo'): Promise<boolean> {
    return this.next(async () => {
      if (path === '/api/undo' ? !this.canUndo : !this.canRedo) return false;
      const answer = await ask(api.POST(path, { body: { kind: this.kind, id: this.id } }));
      this.rejected = answer.problem ?? null;
      const now = await this.read(this.id);
      if (now.data) await this.take(now.data);
      return !answer.problem;
    });
  }

  /** One change after the other. */
  protected next<R>(work: () => Promise<R>): Promise<R> {
    this.pending += 1;
    const run = this.queue.then(work, work).finally(() => (this.pending -= 1));
    this.queue = run.catch(() => undefined);
    return run;
  }
}
