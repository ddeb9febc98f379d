import { api, ask, type Problem, type Sum, type SumAnswer } from '../../lib/api/client';

/** State of the small sums: which one, its values, and its answer. */
export class Sums {
  all: Sum[] = $state.raw([]);
  problem: Problem | null = $state.raw(null);
  chosen = $state('');
  values: Record<string, number | string> = $state({});
  answer: SumAnswer | null = $state.raw(null);
  /** Faults by input. */
  faults: Record<string, string> = $state({});

  sum = $derived(this.all.find((s) => s.id === this.chosen) ?? null);
  private asked = 0;

  async load(id: string, given: Record<string, string>) {
    if (!this.all.length) {
      const answer = await ask(api.GET('/api/sums'));
      if (answer.problem) {
        this.problem = answer.problem;
        return;
      }
      this.all = answer.data;
    }
    const sum = this.all.find((s) => s.id === id) ?? this.all[0];
    if (!sum || (sum.id === this.chosen && !Object.keys(given).length)) return;
    this.chosen = sum.id;
    this.values = Object.fromEntries(
      sum.inputs.map((i) => {
        const text = given[i.id];
        return [i.id, text === undefined ? i.text || i.default : i.text ? text : Number(text)];
      }),
    );
    await this.work();
  }

  async set(id: string, value: number | string) {
    this.values = { ...this.values, [id]: value };
    await this.work();
  }

  async example() {
    if (!this.sum) return;
    this.values = { ...this.values, ...this.sum.example };
    await this.work();
  }

  private async work() {
    if (!this.sum) return;
    const mine = ++this.asked;
    const path = { name: this.sum.id };
    const body = { values: $state.snapshot(this.values) };
    const answer = await ask(api.POST('/api/sums/{name}', { params: { path }, body }));
    if (mine !== this.asked) return;
    this.faults = Object.fromEntries(
      (answer.problem?.faults ?? []).map((f) => [
        f.field.replace('values.', ''),
        `${f.limit}. ${f.way_out}.`,
      ]),
    );
    if (answer.data) this.answer = answer.data as SumAnswer;
  }
}
