import { api, ask, type Client, type Line, type Problem, type Rank, type Swap } from '../../lib/api/client';
import { Plumb } from './plumb.svelte';
import { PLAIN } from './preferences';

/** Whose line at which place, and the swap that is accepted for it. */
export abstract class Accepting extends Plumb {
  client: Client | null = $state.raw(null);
  line: Line | null = $state.raw(null);
  place = $state(0);
  rank: Rank = $state({ ...PLAIN });
  /** The chosen set-up as it was changed by hand; null while it is as solved. */
  hand: Swap | null = $state.raw(null);
  note = $state('');
  busy = $state(false);
  accepted = $derived(this.line?.accepted.find((t) => t.place === this.place) ?? null);
  private accepting = false;

  /** A place need not be one of the client's own. */
  get placeName(): string {
    return this.client?.places.find((q) => q.id === this.place)?.name ?? this.match?.place ?? '';
  }

  /** Accept the shown set-up; it is stored before this returns. */
  async accept(note = '') {
    if (!this.line || !this.swap || this.busy || this.accepting) return;
    this.accepting = true;
    const path = { line: this.line.id };
    const set_up = this.hand?.set_up ?? null;
    const body = { place: this.place, rank: this.rank, key: this.swap.key, set_up, note };
    const answer = await ask(api.POST('/api/lines/{line}/accepted', { params: { path }, body }));
    this.accepting = false;
    this.settle(answer.data, answer.problem, `Accepted for ${this.placeName}: ${this.swap.title}.`);
  }

  /** Undo the newest accepted swap here. */
  async undo() {
    if (!this.line || !this.accepted) {
      this.note = 'Nothing accepted here yet, so nothing to undo.';
      return;
    }
    const answer = await ask(
      api.DELETE('/api/lines/{line}/accepted', {
        params: { path: { line: this.line.id }, query: { place: this.place } },
      }),
    );
    this.settle(answer.data, answer.problem, 'Undone.');
  }

  private settle(line: Line | undefined, problem: Problem | undefined, done: string) {
    if (problem) {
      this.note = `${problem.title}: ${problem.detail}`;
      return;
    }
    if (line) this.line = line;
    if (this.client && line) {
      const programs = this.client.programs.map((q) => ({
        ...q,
        lines: q.lines.map((l) => (l.id === line.id ? line : l)),
      }));
      this.client = { ...this.client, programs };
    }
    this.note = done;
  }
}
