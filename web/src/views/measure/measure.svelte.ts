import { api, ask, type Client, type Fit, type PlaceDoc, type Steady } from '../../lib/api/client';
import { readFile } from '../../lib/ui/file';
import { KeptRuns } from './kept.svelte';
import { KIND, rowsOf, type Item, type Row, type Way, type What } from './readings';

/** One guided run: what is measured, readings so far, and what they come to. */
export class Run extends KeptRuns {
  places: { id: number; name: string }[] = $state.raw([]);
  clients: Client[] = $state.raw([]);
  ranges: { name: string; low: number; high: number }[] = $state.raw([]);
  way: Way = $state('stand-in');
  doc: PlaceDoc | null = $state.raw(null);
  itemId = $state('');
  last: Steady | null = $state.raw(null);
  fit: Fit | null = $state.raw(null);
  busy = $state('');
  done = $state('');
  stale: { client: string; line: string; title: string; was: number; now: number }[] = $state.raw([]);
  private seed = 1;

  items: Item[] = $derived((this.doc?.kit ?? []).filter((k) => k.kind === KIND[this.what]));
  item: Item | null = $derived(this.items.find((k) => k.id === this.itemId) ?? this.items[0] ?? null);
  /** Where to read next: points spread over what the item allows, each three times, in passes. */
  plan: number[] = $state.raw([]);
  next: number | null = $derived(this.plan[this.rows.length] ?? null);

  async start(place: number, item: string) {
    const [places, clients, ranges] = await Promise.all([
      ask(api.GET('/api/places')),
      ask(api.GET('/api/clients')),
      ask(api.GET('/api/ranges')),
    ]);
    this.rejected = places.problem ?? null;
    this.places = places.data ?? [];
    this.clients = clients.data?.clients ?? [];
    this.client = this.clients[0]?.id ?? 0;
    this.ranges = ranges.data ?? [];
    await this.at(place || (this.places[0]?.id ?? 0));
    const found = this.doc?.kit.find((k) => k.id === item);
    if (found)
      this.choose((Object.entries(KIND).find(([, k]) => k === found.kind)?.[0] ?? 'band') as What, item);
    else if (!this.items.length) {
      for (const one of this.places) {
        await this.at(one.id);
        if (this.items.length) break;
      }
    }
  }

  async at(place: number) {
    this.place = place;
    const answer = await ask(api.GET('/api/places/{place}', { params: { path: { place } } }));
    this.doc = answer.data?.place ?? null;
    this.itemId = '';
    this.clear();
  }

  choose(what: What, item = '') {
    this.what = what;
    this.itemId = item;
    this.clear();
  }

  /** Read where this run goes; a joint is recorded as it moves and has no points. */
  private async readPlan() {
    const { what, item } = this;
    this.plan = [];
    if (!item || what === 'joint') return;
    const answer = await ask(api.POST('/api/measuring/plan', { body: { what, item } }));
    if (what === this.what && item === this.item) this.plan = answer.data ?? [];
  }

  clear() {
    void this.readPlan();
    void this.readRuns();
    this.id = 0;
    this.rows = [];
    this.last = null;
    this.fit = null;
    this.rejected = null;
    this.done = '';
    this.stale = [];
  }

  /** Read the stand-in at the next point; a column is read both ways. */
  async read(at: number) {
    if (!this.item) return;
    const ask1 = (direction: 'up' | 'down') =>
      ask(
        api.POST('/api/measuring/read', {
          body: {
            what: this.what as 'band',
            item: this.item!,
            at,
            direction,
            stack_kg: this.stack,
            arm_cm: this.arm,
            seed: this.seed++,
          },
        }),
      );
    const up = await ask1('up');
    const down = this.what === 'column' ? await ask1('down') : null;
    this.rejected = up.problem ?? down?.problem ?? null;
    if (!up.data) return;
    this.last = up.data;
    const row: Row = { at, value: up.data.value, zero: up.data.zero };
    if (down?.data) row.down = down.data.value - down.data.zero + up.data.zero;
    this.rows = [...this.rows, row];
    await this.compute();
  }

  /** All points of the plan that are left, with progress. */
  async readAll() {
    while (this.next !== null && !this.rejected) {
      this.busy = `Reading ${this.rows.length + 1} of ${this.plan.length} …`;
      await this.read(this.next);
    }
    this.busy = '';
  }

  async film() {
    const own = this.ranges.find((r) => r.name === this.joint);
    if (!own) return;
    this.busy = 'Recording six repetitions …';
    const answer = await ask(
      api.POST('/api/measuring/joint', { body: { low: own.low, high: own.high, seed: this.seed++ } }),
    );
    this.busy = '';
    this.rows = (answer.data ?? []).map(([at, value]) => ({ at: at ?? 0, value: value ?? 0, zero: 0 }));
    await this.compute();
  }

  async type(row: Row) {
    this.rows = [...this.rows, row];
    await this.compute();
  }

  async drop(index: number) {
    this.rows = this.rows.filter((_, i) => i !== index);
    await this.compute();
  }

  async file(chosen: File) {
    const answer = await readFile('measurement', chosen);
    this.rejected = answer.problem ?? null;
    const m = answer.data?.measurement;
    if (!m) return;
    this.choose(m.what, m.item);
    this.rows = rowsOf(m);
    await this.compute();
  }

  protected async compute(changed = true) {
    this.done = '';
    if (changed) this.store();
    const few = this.what === 'column' ? 3 : this.what === 'joint' ? 10 : 5;
    if (this.rows.length < few) {
      this.fit = null;
      return;
    }
    const measurement = this.measurement();
    const item = this.what === 'joint' ? null : this.item;
    const body = { measurement, item, stack_kg: this.stack, arm_cm: this.arm };
    const answer = await ask(api.POST('/api/measuring/fit', { body }));
    this.fit = answer.data ?? null;
    const early = answer.problem && this.rows.length < this.plan.length && this.what !== 'joint';
    this.rejected = early ? null : (answer.problem ?? null);
  }

  /** Put the result into the kit, or into the client's ranges. */
  async keep() {
    if (!this.fit) return;
    if (this.what === 'joint') {
      const path = { params: { path: { client: this.client } } };
      const now = await ask(api.GET('/api/clients/{client}', path));
      this.rejected = now.problem ?? null;
      if (!now.data) return;
      const { low_deg: low = 0, high_deg: high = 0 } = this.fit.figures;
      const doc = {
        ...now.data.client,
        ranges_deg: { ...now.data.client.ranges_deg, [this.joint]: { low, high } },
      };
      const answer = await ask(api.PUT('/api/clients/{client}', { ...path, body: doc }));
      this.rejected = answer.problem ?? null;
      if (answer.data) this.store(true);
      if (answer.data) this.done = `Kept as the ${this.joint.replaceAll('_', ' ')} range of ${doc.name}.`;
      return;
    }
    if (!this.fit.item) return;
    const answer = await ask(
      api.PUT('/api/places/{place}/kit/{item}', {
        params: { path: { place: this.place, item: this.fit.item.id } },
        body: { item: this.fit.item },
      }),
    );
    this.rejected = answer.problem ?? null;
    if (!answer.data) return;
    this.doc = answer.data.place;
    this.stale = answer.data.stale;
    this.store(true);
    this.done = `Put into the kit of ${this.doc.name}.`;
  }
}
