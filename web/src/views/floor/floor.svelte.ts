import { api, ask, type Problem, type Schemas } from '../../lib/api/client';
import { Latest } from '../../lib/api/latest';

export type Plan = Schemas['SessionPlanDoc'];
export type Step = Schemas['StepDoc'];
export type Block = Schemas['BlockDoc'];
export type Wish = Required<Schemas['SessionWishDoc']>;

export const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/** What a lift of a block is called in the order: ``A`` alone, ``B1`` and ``B2`` in turns. */
export const label = (block: Block, at: number, step: number) =>
  `${LETTERS[at] ?? '?'}${block.steps.length > 1 ? step + 1 : ''}`;

/** One session at one place, laid out over time as it is wished. */
export class Floor {
  session = $state(0);
  place = $state(0);
  wish: Wish = $state({
    school: 'heavy_first',
    pairs: true,
    minutes: null,
    priority: [],
    without: [],
    corner: '',
    day: '',
    start: '',
  });
  view = $state.raw<Schemas['FloorView'] | null>(null);
  problem: Problem | null = $state.raw(null);
  busy = $state(false);
  /** What was said after the last deed, with the way back while there is one. */
  told = $state('');
  undone = $state(true);
  private latest = new Latest();

  async load(session: number, place: number) {
    if (session !== this.session || place !== this.place) {
      this.view = null;
      this.told = '';
      this.wish = { ...this.wish, without: [], corner: '' };
    }
    this.session = session;
    this.place = place;
    await this.plan();
  }

  /** Ask again; an answer that another question overtook is dropped. */
  async plan() {
    this.busy = true;
    const path = { params: { path: { session: this.session } } };
    const body = { place: this.place, wish: this.wish };
    const answer = await this.latest.of(ask(api.POST('/api/sessions/{session}/floor', { ...path, body })));
    if (!answer) return;
    this.busy = false;
    this.problem = answer.problem ?? null;
    if (answer.data) this.view = answer.data;
  }

  async want(change: Partial<Wish>) {
    this.wish = { ...this.wish, ...change };
    await this.plan();
  }

  /** Write the program's session in this order, with what is done in turns as groups. */
  async keep() {
    if (!this.view) return;
    const { program, plan } = this.view;
    const path = { params: { path: { program } } };
    const now = await ask(api.GET('/api/programs/{program}', path));
    if (!now.data) return void (this.problem = now.problem ?? null);
    const labels: Record<number, string> = {};
    const order: number[] = [];
    plan.blocks.forEach((block, at) =>
      block.steps.forEach((step, i) => {
        order.push(step.line);
        labels[step.line] = block.steps.length > 1 ? label(block, at, i) : '';
      }),
    );
    const place = (id: number | null | undefined) => {
      const at = order.indexOf(id ?? 0);
      return at < 0 ? order.length : at;
    };
    const sessions = (now.data.program.sessions ?? []).map((s) =>
      s.id !== this.session
        ? s
        : {
            ...s,
            lines: [...(s.lines ?? [])]
              .sort((a, b) => place(a.id) - place(b.id))
              .map((x) => ({ ...x, line: { ...x.line, label: labels[x.id ?? 0] ?? x.line.label } })),
          },
    );
    const answer = await ask(
      api.PUT('/api/programs/{program}', { ...path, body: { ...now.data.program, sessions } }),
    );
    this.told = answer.problem ? (answer.problem.detail ?? '') : 'The program has this order now.';
    this.undone = !!answer.problem;
    await this.plan();
  }

  async undo() {
    if (!this.view) return;
    await ask(api.POST('/api/undo', { body: { kind: 'programs', id: this.view.program } }));
    this.told = 'The order is as it was.';
    this.undone = true;
    await this.plan();
  }
}
