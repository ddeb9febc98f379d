import {
  api,
  ask,
  type LineForm,
  type MovementDoc,
  type Problem,
  type WrittenLine,
} from '../../lib/api/client';

/** A line as it is written in a simple form; every choice shows its figure and what it asks of the client. */
export class Form {
  movements: MovementDoc[] = $state.raw([]);
  fields: LineForm = $state.raw({
    client: 0,
    movement: '',
    variant: 0,
    kit: '',
    amount: null,
    target: '',
    name: '',
    sets: 3,
    reps_low: 8,
    reps_high: 10,
    rir: 1,
  });
  written: WrittenLine | null = $state.raw(null);
  problem: Problem | null = $state.raw(null);
  busy = $state(false);
  movement = $derived(this.movements.find((m) => m.id === this.fields.movement) ?? null);
  kits = $derived(this.movement?.kits[this.fields.variant ?? 0] ?? []);
  private asked = 0;

  async start(client: number) {
    this.fields = { ...this.fields, client };
    if (!this.movements.length) this.movements = (await ask(api.GET('/api/movements'))).data ?? [];
  }

  pick(movement: string) {
    return this.set({ movement, variant: 0, kit: '', amount: null, target: '', name: '' });
  }

  async set(part: Partial<LineForm>) {
    this.fields = { ...this.fields, ...part };
    if (!this.fields.movement) return;
    const mine = ++this.asked;
    this.busy = true;
    const answer = await ask(api.POST('/api/line-forms', { body: this.fields }));
    if (mine !== this.asked) return;
    this.busy = false;
    this.problem = answer.problem ?? null;
    if (answer.data) this.written = answer.data;
  }

  /** What is wrong with a field, in words. */
  fault(field: string): string {
    const found = this.problem?.faults?.find((f) => f.field === field || f.field.endsWith(`.${field}`));
    return found ? `${found.limit}. ${found.way_out}.` : '';
  }
}
