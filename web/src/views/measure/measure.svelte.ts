import {
  api,
  ask,
  once,
  type Client,
  type Fit,
  type PlaceDoc,
  type Problem,
  type Schemas,
  type Steady,
} from '../../lib/api/client';
import { coachUnits } from '../../lib/units/units.svelte';
import { readFile } from '../../lib/ui/file';

export type What = 'band' | 'column' | 'cam' | 'joint';
export type Way = 'stand-in' | 'file' | 'typed';
type Kept = Schemas['MeasurementView'];
type Item = PlaceDoc['kit'][number];
export type Row = { at: number; value: number; zero: number; down?: number | null };
const KIND: Record<What, string> = { band: 'band', column: 'cable_column', cam: 'machine', joint: '' };
const UNITS: Record<What, { at: string; value: string; point: string }> = {
  band: { at: 'cm', value: 'N', point: 'length' },
  column: { at: 'kg', value: 'N', point: 'pin' },
  cam: { at: '°', value: 'N', point: 'angle of the arm' },
  joint: { at: 's', value: '°', point: 'time' },
};

/** What a point and a reading are in, for who measures: lengths and pins in the coach's units. */
export function shownUnits(what: What) {
  const units = coachUnits();
  return {
    ...UNITS[what],
    at: units.unit(UNITS[what].at),
    /** A point as it is read. */
    point: UNITS[what].point,
    text: (at: number) => String(units.value(at, UNITS[what].at)),
    meant: (text: string) => units.meant(text, UNITS[what].at),
  };
}

/** One guided run: what is measured, readings so far, and what they come to. */
export class Run {
  places: { id: number; name: string }[] = $state.raw([]);
  clients: Client[] = $state.raw([]);
  ranges: { name: string; low: number; high: number }[] = $state.raw([]);
  what: What = $state('band');
  way: Way = $state('stand-in');
  place = $state(0);
  doc: PlaceDoc | null = $state.raw(null);
  itemId = $state('');
  client = $state(0);
  joint = $state('knee');
  stack = $state(20);
  arm = $state(35);
  rows: Row[] = $state.raw([]);
  last: Steady | null = $state.raw(null);
  fit: Fit | null = $state.raw(null);
  rejected: Problem | null = $state.raw(null);
  busy = $state('');
  done = $state('');
  stale: { client: string; line: string; title: string; was: number; now: number }[] = $state.raw([]);
  /** Runs of this item that are kept with their raw readings, newest first. */
  runs: Kept[] = $state.raw([]);
  /** Number of the run that is being read; 0 before its first reading is kept. */
  id = $state(0);
  canUndo = $derived(!!this.runs.find((r) => r.id === this.id)?.can_undo);
  private looked = 0;
  private seed = 1;
  private storing: Promise<unknown> = Promise.resolve();

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

  private async readRuns() {
    const joint = this.what === 'joint';
    if (joint ? !this.client : !this.place) return;
    const query = joint ? { client: this.client } : { place: this.place };
    const mine = ++this.looked;
    const answer = await ask(api.GET('/api/measurements', { params: { query } }));
    if (mine !== this.looked) return;
    const name = joint ? this.joint : this.item?.id;
    this.runs = (answer.data ?? []).filter(
      ({ run: { measurement: m } }) => m.what === this.what && m.item === name,
    );
  }

  private measurement() {
    return {
      format: 'odd-swap/measurement/2' as const,
      what: this.what,
      item: this.what === 'joint' ? this.joint : (this.item?.id ?? ''),
      readings: this.rows.map((r) => ({ at: r.at, value: r.value, zero: r.zero, down: r.down ?? null })),
    };
  }

  /** Keep the raw readings as they are, one change after the other. */
  private store(kept = false) {
    const run = { measurement: this.measurement(), stack_kg: this.stack, arm_cm: this.arm, kept };
    if (!run.measurement.readings.length) return;
    const whose = this.what === 'joint' ? { client: this.client } : { place: this.place };
    this.storing = this.storing.then(async () => {
      if (!this.id) {
        const made = await ask(
          api.POST('/api/measurements', { body: { ...run, ...whose }, headers: once() }),
        );
        this.id = made.data?.id ?? 0;
        this.rejected = made.problem ?? this.rejected;
        // Its revision is read with it.
        if (this.id) await this.fetch(this.id);
      } else {
        const path = { params: { path: { measurement: this.id } } };
        const answer = await ask(api.PUT('/api/measurements/{measurement}', { ...path, body: run }));
        this.rejected = answer.problem ?? this.rejected;
      }
      await this.readRuns();
    });
  }

  private fetch(measurement: number) {
    return ask(api.GET('/api/measurements/{measurement}', { params: { path: { measurement } } }));
  }

  /** Undo this run's newest change, also after a reload. */
  async back() {
    await this.storing;
    if (!this.canUndo) return;
    const answer = await ask(api.POST('/api/undo', { body: { kind: 'measurements', id: this.id } }));
    this.rejected = answer.problem ?? null;
    await this.readRuns();
    if (answer.data) await this.resume(this.id);
  }

  /** Go on with a run that was kept. */
  async resume(id: number) {
    const answer = await this.fetch(id);
    this.rejected = answer.problem ?? null;
    if (!answer.data) return;
    const { run } = answer.data;
    this.id = id;
    this.stack = run.stack_kg ?? this.stack;
    this.arm = run.arm_cm ?? this.arm;
    this.rows = run.measurement.readings.map((r) => ({
      at: r.at,
      value: r.value,
      zero: r.zero ?? 0,
      down: r.down ?? null,
    }));
    await this.compute(false);
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
    this.rows = m.readings.map((r) => ({
      at: r.at,
      value: r.value,
      zero: r.zero ?? 0,
      down: r.down ?? null,
    }));
    await this.compute();
  }

  private async compute(changed = true) {
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

/** To a tenth; nothing is nothing, without a sign. */
export const tenths = (v: number) => v.toFixed(1).replace(/^-0\.0$/, '0.0');
