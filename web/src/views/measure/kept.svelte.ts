import { api, ask, once, type Problem } from '../../lib/api/client';
import { rowsOf, type Item, type Kept, type Row, type What } from './readings';

/** Runs with their raw readings: kept as they come, undone, and gone on with after a reload. */
export abstract class KeptRuns {
  what: What = $state('band');
  place = $state(0);
  client = $state(0);
  joint = $state('knee');
  stack = $state(20);
  arm = $state(35);
  rows: Row[] = $state.raw([]);
  rejected: Problem | null = $state.raw(null);
  /** Runs of this item that are kept with their raw readings, newest first. */
  runs: Kept[] = $state.raw([]);
  /** Number of the run that is being read; 0 before its first reading is kept. */
  id = $state(0);
  canUndo = $derived(!!this.runs.find((r) => r.id === this.id)?.can_undo);
  private looked = 0;
  private storing: Promise<unknown> = Promise.resolve();

  abstract item: Item | null;
  protected abstract compute(changed?: boolean): Promise<void>;

  protected async readRuns() {
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

  protected measurement() {
    return {
      format: 'odd-swap/measurement/2' as const,
      what: this.what,
      item: this.what === 'joint' ? this.joint : (this.item?.id ?? ''),
      readings: this.rows.map((r) => ({ at: r.at, value: r.value, zero: r.zero, down: r.down ?? null })),
    };
  }

  /** Keep the raw readings as they are, one change after the other. */
  protected store(kept = false) {
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
    this.rows = rowsOf(run.measurement);
    await this.compute(false);
  }
}
