import { api, ask, type Problem, type Calculator, type CalculatorAnswer } from '../../lib/api/client';
import { Latest } from '../../lib/api/latest';

/** State of the calculators: which one, its values, and its answer. */
export class Calculators {
  all: Calculator[] = $state.raw([]);
  problem: Problem | null = $state.raw(null);
  chosen = $state('');
  values: Record<string, number | string> = $state({});
  answer: CalculatorAnswer | null = $state.raw(null);
  /** Faults by input. */
  faults: Record<string, string> = $state({});

  current = $derived(this.all.find((s) => s.id === this.chosen) ?? null);
  private latest = new Latest();

  async load(id: string, given: Record<string, string>) {
    if (!this.all.length) {
      const answer = await ask(api.GET('/api/calculators'));
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
    if (!this.current) return;
    this.values = { ...this.values, ...this.current.example };
    await this.work();
  }

  private async work() {
    if (!this.current) return;
    const path = { name: this.current.id };
    const body = { values: $state.snapshot(this.values) };
    const answer = await this.latest.of(ask(api.POST('/api/calculators/{name}', { params: { path }, body })));
    if (!answer) return;
    this.faults = Object.fromEntries(
      (answer.problem?.faults ?? []).map((f) => [
        f.field.replace('values.', ''),
        `${f.limit}. ${f.way_out}.`,
      ]),
    );
    if (answer.data) this.answer = answer.data as CalculatorAnswer;
  }
}
