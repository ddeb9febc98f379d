import { api, ask, type ClientDoc, type MovementDoc, type Problem, type Size } from '../../lib/api/client';
import { Undo } from '../../lib/ui/undo.svelte';

type Range = { name: string; low: number; high: number };

/** One client's details: every change is stored at once and can be accepted back. */
export class Details {
  id = $state(0);
  doc: ClientDoc | null = $state.raw(null);
  size: Size | null = $state.raw(null);
  ranges: Range[] = $state.raw([]);
  movements: MovementDoc[] = $state.raw([]);
  places: { id: number; name: string }[] = $state.raw([]);
  everywhere: { id: number; name: string }[] = $state.raw([]);
  problem: Problem | null = $state.raw(null);
  /** What is wrong with the last change, by field; what was typed stays in its field. */
  faults: Record<string, string> = $state.raw({});
  undo = new Undo<ClientDoc>();

  async load(id: number) {
    const [client, ranges, movements, everywhere] = await Promise.all([
      ask(api.GET('/api/clients/{client}', { params: { path: { client: id } } })),
      ask(api.GET('/api/ranges')),
      ask(api.GET('/api/movements')),
      ask(api.GET('/api/places')),
    ]);
    this.problem = client.problem ?? null;
    this.id = id;
    this.doc = client.data?.client ?? null;
    this.places = client.data?.places ?? [];
    this.ranges = ranges.data ?? [];
    this.movements = movements.data ?? [];
    this.everywhere = everywhere.data ?? [];
    await this.measure();
  }

  private async measure() {
    if (!this.doc) return;
    const answer = await ask(api.POST('/api/size', { body: this.doc }));
    if (answer.data) this.size = answer.data;
  }

  async change(part: Partial<ClientDoc>) {
    if (!this.doc) return;
    const before = this.doc;
    const next = { ...before, ...part };
    if (await this.store(next)) this.undo.keep(before);
  }

  private async store(next: ClientDoc): Promise<boolean> {
    const answer = await ask(
      api.PUT('/api/clients/{client}', { params: { path: { client: this.id } }, body: next }),
    );
    if (answer.problem) {
      const rows = answer.problem.faults ?? [];
      this.faults = Object.fromEntries(rows.map((f) => [fieldOf(f.field), `${f.limit}. ${f.way_out}.`]));
      this.problem = rows.length ? null : answer.problem;
      return false;
    }
    this.faults = {};
    this.doc = next;
    await this.measure();
    return true;
  }

  /** Whether the client trains somewhere; the order is that of choosing. */
  async trains(place: number, here: boolean) {
    const others = this.places.map((q) => q.id).filter((id) => id !== place);
    const places = here ? [...others, place] : others;
    const answer = await ask(
      api.PUT('/api/clients/{client}/places', { params: { path: { client: this.id } }, body: { places } }),
    );
    if (answer.data) this.places = answer.data.places;
    this.problem = answer.problem ?? null;
  }

  async back() {
    const before = this.doc && this.undo.back(this.doc);
    if (before) await this.store(before);
  }

  async forward() {
    const after = this.doc && this.undo.forward(this.doc);
    if (after) await this.store(after);
  }
}

/** The core names a body's stature and mass without their units. */
function fieldOf(field: string): string {
  return { stature: 'stature_cm', mass: 'mass_kg' }[field] ?? field;
}

/** A typed number with point or comma; not a number where it is none. */
export function typed(text: string): number {
  return text.trim() ? Number(text.trim().replace(',', '.')) : NaN;
}
