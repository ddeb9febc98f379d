import { api, ask, type Problem, type Schemas } from '../../lib/api/client';
import { Latest } from '../../lib/api/latest';

export type LogDoc = Schemas['LogDoc'];
export type LiftLog = Schemas['LiftLogDoc'];
export type Point = Schemas['LoggedPointDoc'];
export type Advice = Schemas['AdviceDoc'];
export type CardView = Schemas['CardView'];
export type Handed = Schemas['HandedView'];

/** A client's log and cards at the desk. */
export class Log {
  client = $state(0);
  log = $state.raw<LogDoc | null>(null);
  cards: CardView[] = $state.raw([]);
  record = $state.raw<Schemas['ClientView'] | null>(null);
  problem: Problem | null = $state.raw(null);
  rejected: Problem | null = $state.raw(null);
  line = $state(0);
  busy = $state(false);
  told = $state('');
  /** What takes the last deed back. */
  back: (() => Promise<void>) | null = $state.raw(null);
  handed = $state.raw<Handed | null>(null);

  readonly lift = $derived(this.log?.lifts.find((x) => x.line === this.line) ?? this.log?.lifts[0] ?? null);

  private latest = new Latest();

  async load(client: number) {
    if (client !== this.client) {
      this.log = null;
      this.line = 0;
      this.told = '';
    }
    this.client = client;
    const path = { params: { path: { client } } };
    const answers = await this.latest.of(
      Promise.all([
        ask(api.GET('/api/clients/{client}/log', path)),
        ask(api.GET('/api/clients/{client}/cards', path)),
        ask(api.GET('/api/clients/{client}', path)),
      ]),
    );
    if (!answers) return;
    const [log, cards, record] = answers;
    this.problem = log.problem ?? record.problem ?? null;
    this.log = log.data ?? this.log;
    this.cards = cards.data ?? this.cards;
    this.record = record.data ?? this.record;
  }

  private async did(
    words: string,
    work: Promise<{ problem?: Problem }>,
    back: (() => Promise<void>) | null = null,
  ) {
    this.busy = true;
    const answer = await work;
    this.busy = false;
    this.rejected = answer.problem ?? null;
    if (answer.problem) return false;
    this.told = words;
    this.back = back;
    await this.load(this.client);
    return true;
  }

  /** What hurt is avoided from now on: a limit of the client, which can be taken back. */
  async avoid(key: string, where: string) {
    const path = { params: { path: { client: this.client } } };
    await this.did(
      `The ${where} is avoided from now on; swaps are sought anew.`,
      ask(api.POST('/api/clients/{client}/log/avoided', { ...path, body: { key } })),
      async () => {
        await this.did(
          'Not avoided any more.',
          ask(api.POST('/api/undo', { body: { kind: 'clients', id: this.client } })),
        );
      },
    );
  }

  async weeksPass(weeks: number) {
    this.busy = true;
    const answer = await ask(
      api.POST('/api/clients/{client}/log/weeks', {
        params: { path: { client: this.client }, query: { weeks } },
      }),
    );
    this.busy = false;
    this.rejected = answer.problem ?? null;
    if (!answer.data) return;
    const { sessions, sets, missed } = answer.data;
    this.told = sessions
      ? `${weeks} weeks passed: ${sessions} sessions, ${sets} sets, ${missed} missed.`
      : 'No swap is accepted anywhere yet: nothing was trained.';
    this.back = null;
    await this.load(this.client);
  }

  /** Press another of the choices for next time; the newest choice counts until the lift is done again. */
  async choose(advice: Advice, other: Advice['others'][number]) {
    const { kind, amount, reps } = other;
    const id = crypto.randomUUID();
    await this.did(
      `Next time: ${amount} ${advice.unit} × ${reps}.`,
      ask(
        api.POST('/api/clients/{client}/log/choice', {
          params: { path: { client: this.client } },
          body: { id, like: advice.like, kind, amount, reps },
        }),
      ),
      () => this.takeBack(id),
    );
  }

  /** Another lift stands in a line's place from the next session on. */
  async rotate(line: number, place: number, next: Schemas['NextLiftDoc']) {
    const path = { params: { path: { line } } };
    const body = { place, rank: {}, key: next.key, note: '' };
    await this.did(
      `${next.title} from the next session on.`,
      ask(api.POST('/api/lines/{line}/accepted', { ...path, body: body as never })),
      async () => {
        const undone = { params: { path: { line }, query: { place } } };
        await this.did('As it was.', ask(api.DELETE('/api/lines/{line}/accepted', undone)));
      },
    );
  }

  /** A lift that is due for a change is kept: the choice for next time says so. */
  async keepOn(due: Schemas['DueDoc']) {
    const advice = this.lift?.next.find((x) => x.like === due.like);
    if (advice)
      await this.choose(advice, { kind: 'hold', amount: advice.amount, reps: advice.reps, why: '' });
  }

  async takeBack(id: string) {
    const made = crypto.randomUUID();
    await this.did(
      'Taken back.',
      ask(
        api.POST('/api/clients/{client}/log/withdrawn', {
          params: { path: { client: this.client } },
          body: { id: made, replaces: id },
        }),
      ),
    );
  }

  async fix(point: Point, amount: number, reps: number, rir: number | null) {
    const id = crypto.randomUUID();
    await this.did(
      'Put right.',
      ask(
        api.POST('/api/clients/{client}/log/fix', {
          params: { path: { client: this.client } },
          body: { id, replaces: point.id, amount, reps, rir },
        }),
      ),
    );
  }

  async handOver(session: number, place: number) {
    this.busy = true;
    const answer = await ask(
      api.POST('/api/sessions/{session}/cards', { params: { path: { session } }, body: { place } }),
    );
    this.busy = false;
    this.rejected = answer.problem ?? null;
    this.handed = answer.data ?? null;
    await this.load(this.client);
  }

  async renew(card: CardView) {
    const answer = await ask(api.POST('/api/cards/{card}/renew', { params: { path: { card: card.id } } }));
    this.rejected = answer.problem ?? null;
    this.handed = answer.data ?? null;
    await this.load(this.client);
  }

  async withdraw(card: CardView) {
    await this.did(
      `The card for ${card.session_name} at ${card.place_name} opens no more.`,
      ask(api.POST('/api/cards/{card}/withdraw', { params: { path: { card: card.id } } })),
    );
  }
}
