import {
  api,
  ask,
  type Client,
  type Line,
  type MatchDoc,
  type Problem,
  type Swap,
} from '../../lib/api/client';
import { bestView } from '../../lib/draw/frame';
import { shapeOf, spanOf } from '../../lib/draw/shape';
import type { View } from '../../lib/draw/geometry';

/** State of the match bench: one line at one place. */
export class Bench {
  client: Client | null = $state.raw(null);
  line: Line | null = $state.raw(null);
  match: MatchDoc | null = $state.raw(null);
  problem: Problem | null = $state.raw(null);
  note = $state('');
  busy = $state(false);
  place = $state(0);
  chosen = $state(0);
  at = $state(0.5);
  absolute = $state(false);
  fixedView: View | null = $state(null);

  swap: Swap | null = $derived(this.match?.swaps[this.chosen] ?? null);
  lines: Line[] = $derived(this.client?.programs.flatMap((p) => p.lines) ?? []);
  index = $derived(this.lines.findIndex((l) => l.id === this.line?.id));
  taken = $derived(this.line?.taken.find((t) => t.place === this.place) ?? null);
  view: View = $derived(this.fixedView ?? (this.swap?.profile ? bestView(this.swap.profile) : 'side'));
  placeName = $derived(this.client?.places.find((q) => q.id === this.place)?.name ?? '');

  private asked = 0;

  /** Read a line and rank its swaps; an answer that was overtaken by a newer question is dropped. */
  async load(line: number, place: number) {
    const mine = ++this.asked;
    this.busy = true;
    this.problem = null;
    this.place = place;
    const clients = await ask(api.GET('/api/clients'));
    if (mine !== this.asked) return;
    if (clients.problem) return this.fail(clients.problem);
    const owner = clients.data.clients.find((c) =>
      c.programs.some((q) => q.lines.some((l) => l.id === line)),
    );
    this.client = owner ?? null;
    this.line = this.lines.find((l) => l.id === line) ?? null;
    const query = { params: { path: { line }, query: { place } } };
    const match = await ask(api.GET('/api/lines/{line}/match', query));
    if (mine !== this.asked) return;
    if (match.problem) return this.fail(match.problem);
    this.match = match.data;
    const inForce = this.taken;
    this.choose(Math.max(0, inForce ? match.data.swaps.findIndex((s) => s.key === inForce.swap.key) : 0));
    this.restAtPeak();
    this.busy = false;
  }

  private fail(problem: Problem) {
    this.match = null;
    this.problem = problem;
    this.busy = false;
  }

  choose(i: number) {
    const count = this.match?.swaps.length ?? 0;
    if (count) this.chosen = Math.min(count - 1, Math.max(0, i));
  }

  /** Hang the plumb line where the prescription is hardest: the first thing to compare. */
  private restAtPeak() {
    const curve = this.match?.prescribed.profile?.targets[this.match.prescribed.target];
    if (!curve) return;
    this.at = curve.length[curve.effective_nm.indexOf(Math.max(...curve.effective_nm))] ?? 0.5;
  }

  /** Move the plumb line by a part of what is shown. */
  nudge(part: number) {
    if (!this.match?.prescribed.profile) return;
    const target = this.match.prescribed.target;
    const shapes = [this.match.prescribed.profile, this.swap?.profile].flatMap((q) =>
      q ? [shapeOf(q, target)] : [],
    );
    const [low, high] = spanOf(shapes);
    this.at = Math.min(high, Math.max(low, this.at + part * (high - low)));
  }

  turnView() {
    const views: View[] = ['side', 'front', 'top'];
    this.fixedView = views[(views.indexOf(this.view) + 1) % views.length] ?? 'side';
  }

  /** Accept the chosen swap; it is stored before this returns. */
  async accept() {
    if (!this.line || !this.swap || this.busy) return;
    const path = { line: this.line.id };
    const answer = await ask(
      api.POST('/api/lines/{line}/taken', {
        params: { path },
        body: { place: this.place, key: this.swap.key, lens: 'same_shape' },
      }),
    );
    this.settle(answer.data, answer.problem, `Taken for ${this.placeName}: ${this.swap.title}.`);
  }

  /** Undo the newest accepted swap here. */
  async undo() {
    if (!this.line || !this.taken) {
      this.note = 'Nothing taken here yet, so nothing to undo.';
      return;
    }
    const answer = await ask(
      api.DELETE('/api/lines/{line}/taken', {
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
