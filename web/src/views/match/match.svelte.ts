import {
  api,
  ask,
  type Detail,
  type Lenses,
  type Line,
  type MatchDoc,
  type Move,
  type Problem,
  type Rank,
  type Swap,
} from '../../lib/api/client';
import { watch } from '../../lib/api/watch';
import { unitsOf } from '../../lib/units/units.svelte';
import { crowdsOf, itemsOf, type Crowd, type Item } from './inuse';
import { Accepting } from './accepting.svelte';
import type { Above } from './plumb.svelte';
import { storeMark, storeWeights } from './preferences';

/** State of the match bench: one line at one place. */
export class Bench extends Accepting {
  match: MatchDoc | null = $state.raw(null);
  lenses: Lenses | null = $state.raw(null);
  items: Item[] = $state.raw([]);
  crowds: Crowd[] = $state.raw([]);
  problem: Problem | null = $state.raw(null);
  part: number | null = $state(null);
  chosen = $state(0);
  absolute = $state(false);
  /** Why the last move by hand cannot be; empty when it can. */
  rejected = $state('');
  detail: Detail | null = $state.raw(null);
  /** Place in the list of the set-up that is compared with; null for the prescription. */
  reference: number | null = $state(null);

  solved: Swap | null = $derived(this.match?.swaps[this.chosen] ?? null);
  swap: Swap | null = $derived(this.hand ?? this.solved);
  above: Above | null = $derived.by(() => {
    if (!this.match) return null;
    const other = this.reference === null ? null : this.match.swaps[this.reference];
    if (!other) return { ...this.match.prescribed, key: '' };
    return { ...other, load: other.load.words, reps: other.load.reps };
  });
  /** The client's units of mass and length. */
  units = $derived(unitsOf(this.client?.client));
  lines: Line[] = $derived(this.client?.programs.flatMap((p) => p.lines) ?? []);
  index = $derived(this.lines.findIndex((l) => l.id === this.line?.id));
  filters = $derived(
    (this.rank.without?.length ?? 0) +
      Number(this.rank.one_side) +
      Number(this.rank.known_only) +
      Number(this.rank.unlike) +
      Number(this.rank.equivalence !== 'hardest'),
  );

  private asked = 0;
  /** The search under way: given up when the bench is left or asks for another. */
  private search: AbortController | null = null;
  private moving = false;
  private waiting: { changes: Partial<Move>[]; solve: boolean } | null = null;
  private looked = 0;
  /** How often the bench went back to a solved set-up: a move that was under way then is dropped. */
  private snaps = 0;

  /** Read a line and rank its swaps; an answer that was overtaken by a newer question is dropped. */
  async load(line: number, place: number) {
    const mine = ++this.asked;
    this.busy = true;
    this.problem = null;
    if (place !== this.place) this.rank = { ...this.rank, without: [], unlike: false };
    this.place = place;
    const [clients, lenses, at] = await Promise.all([
      ask(api.GET('/api/clients')),
      this.lenses ? null : ask(api.GET('/api/lenses')),
      ask(api.GET('/api/places/{place}', { params: { path: { place } } })),
    ]);
    if (mine !== this.asked) return;
    if (clients.problem) return this.fail(clients.problem);
    if (lenses?.data) {
      this.lenses = lenses.data;
      this.rank = { ...this.rank, lens: lenses.data.coach.lens ?? 'same_profile' };
    }
    this.items = itemsOf(at.data?.place);
    this.crowds = crowdsOf(at.data?.place);
    const owner = clients.data.clients.find((c) =>
      c.programs.some((q) => q.lines.some((l) => l.id === line)),
    );
    this.client = owner ?? null;
    this.line = this.lines.find((l) => l.id === line) ?? null;
    await this.ranked(mine, line);
  }

  /** The bench is left: nothing goes on playing, and what is still answered is dropped. */
  leave() {
    this.playing = false;
    this.asked += 1;
    this.search?.abort();
  }

  /** Rank anew with other filters. */
  async again(filters: Partial<Rank> = {}) {
    this.rank = { ...this.rank, ...filters };
    this.busy = true;
    if (this.line) await this.ranked(++this.asked, this.line.id);
  }

  private async ranked(mine: number, line: number) {
    const body = { place: this.place, rank: this.rank };
    this.search?.abort();
    const search = (this.search = new AbortController());
    const told = (part: number | null) => (this.part = part);
    const match = await watch('match', `/api/lines/${line}/match`, body, told, search.signal);
    if (mine !== this.asked || !match) return;
    this.part = this.problem = null;
    if (match.problem) return this.fail(match.problem);
    const before = this.solved?.key;
    const stays = this.match?.line === match.data.line && this.match.place === match.data.place;
    this.match = match.data;
    this.reference = null;
    const key = stays ? before : this.accepted?.swap.key;
    this.choose(Math.max(0, key ? match.data.swaps.findIndex((s) => s.key === key) : 0));
    if (!stays) this.restAtPeak();
    this.busy = false;
  }

  private fail(problem: Problem) {
    this.match = null;
    this.problem = problem;
    this.busy = false;
  }

  choose(i: number) {
    const count = this.match?.swaps.length ?? 0;
    if (!count) return;
    this.chosen = Math.min(count - 1, Math.max(0, i));
    this.snap();
    void this.look();
  }

  /** Read the tolerances, muscles and remedies of what is shown. */
  private async look() {
    const mine = ++this.looked;
    // Under hands what was read stays until it is read anew: controls that vanished would lose the keys.
    if (!this.hand) this.detail = null;
    if (!this.line || !this.swap) return;
    const body = { place: this.place, rank: this.rank, set_up: this.swap.set_up, moves: [], solve: false };
    const answer = await ask(
      api.POST('/api/lines/{line}/detail', { params: { path: { line: this.line.id } }, body }),
    );
    if (mine === this.looked) this.detail = answer.data ?? null;
  }

  /** Change the shown set-up by hand; while an answer is on its way only the newest change waits. */
  async move(changes: Partial<Move>[], solve = false) {
    if (!this.line || !this.swap) return;
    const moves = changes.map((m) => ({ source: 0, id: 'point', value: 0, ...m }));
    if (this.moving) {
      // A newer value of the same thing takes the older one's place; another control's change waits beside it.
      const same = (m: Partial<Move>) =>
        changes.some((n) => n.id === m.id && (n.source ?? 0) === (m.source ?? 0));
      const others = this.waiting?.changes.filter((m) => !same(m)) ?? [];
      this.waiting = { changes: [...others, ...changes], solve: solve || !!this.waiting?.solve };
      return;
    }
    this.moving = true;
    const snaps = this.snaps;
    const body = { place: this.place, rank: this.rank, set_up: this.swap.set_up, moves, solve };
    const answer = await ask(
      api.POST('/api/lines/{line}/try-out', { params: { path: { line: this.line.id } }, body }),
    );
    this.moving = false;
    if (snaps === this.snaps && answer.data) {
      this.hand = answer.data;
      this.rejected = '';
    } else if (snaps === this.snaps && answer.problem) {
      const fault = answer.problem.faults[0];
      this.rejected = fault ? `${fault.limit}. ${fault.way_out}.` : answer.problem.detail;
    }
    const next = this.waiting;
    this.waiting = null;
    if (next) await this.move(next.changes, next.solve);
    else if (this.hand) void this.look();
  }

  /** Back to the set-up as it was solved. */
  snap() {
    this.snaps += 1;
    this.hand = null;
    this.rejected = '';
    this.waiting = null;
  }

  /** Compare with what is shown now, or with the prescription again. */
  compare() {
    this.reference = this.reference === this.chosen || this.reference !== null ? null : this.chosen;
  }

  /** Keep weights for a lens, for all clients; empty ones are the lens's own. */
  async weigh(lens: string, weights: Record<string, number>) {
    if (!this.lenses) return;
    const answer = await storeWeights(lens, weights);
    if (answer.data) this.lenses = { ...this.lenses, coach: answer.data };
    await this.ranksAnew(answer.problem, { lens });
  }

  /** Put a movement first for this client, or never give it, or neither. */
  async mark(list: 'pinned' | 'banned', movement: string) {
    if (!this.client) return;
    const answer = await storeMark(this.client.id, list, movement);
    if (answer.data) this.client = answer.data;
    await this.ranksAnew(answer.problem);
  }

  private async ranksAnew(problem: Problem | undefined, filters: Partial<Rank> = {}) {
    if (problem) this.note = `${problem.title}: ${problem.detail}`;
    else await this.again(filters);
  }
}
