import {
  api,
  ask,
  once,
  type Client,
  type ClientDoc,
  type KeptProgram,
  type LineDoc,
  type PlaceDoc,
  type Problem,
  type PutAway,
  type Schemas,
} from '../../lib/api/client';
import { Latest } from '../../lib/api/latest';
import { putAway } from '../../lib/records/away';
import { readFile } from '../../lib/ui/file';

export type Order = 'name' | 'open';

/** How many swaps of a client's lines are still to find. */
export const open = (c: Client) =>
  c.programs.flatMap((q) => q.lines).reduce((n, l) => n + (c.places.length - l.accepted.length), 0);

/** The steps to begin with. Not fetched in the view itself: the router takes a view that imports for a view to be fetched. */
export const fetchBegin = async () => (await import('./Begin.svelte')).default;

/** Clients with what waits; making them, putting them away, and beginning with nothing. */
export class Roster {
  clients: Client[] = $state.raw([]);
  away: PutAway[] = $state.raw([]);
  damaged: Schemas['DamagedView'][] = $state.raw([]);
  demo = $state(false);
  problem: Problem | null = $state.raw(null);
  rejected: Problem | null = $state.raw(null);
  loaded = $state(false);
  busy = $state('');
  search = $state('');
  order: Order = $state('name');
  removed: PutAway | null = $state.raw(null);
  /** A file that waits for what it is written in. */
  unread: File | null = $state.raw(null);

  shown = $derived(
    this.clients
      .filter((c) => c.client.name.toLowerCase().includes(this.search.trim().toLowerCase()))
      .sort((a, b) =>
        this.order === 'open' ? open(b) - open(a) : a.client.name.localeCompare(b.client.name),
      ),
  );

  private latest = new Latest();
  private newest = Promise.resolve();

  /** Read all anew; done once the newest reading is. */
  load(): Promise<void> {
    return (this.newest = this.read());
  }

  private async read(): Promise<void> {
    const answers = await this.latest.of(
      Promise.all([ask(api.GET('/api/clients')), ask(api.GET('/api/put-away')), ask(api.GET('/api/demo'))]),
    );
    if (!answers) return this.newest;
    const [clients, away, demo] = answers;
    this.problem = clients.problem ?? null;
    this.clients = clients.data?.clients ?? [];
    this.damaged = clients.data?.damaged ?? [];
    this.away = away.data ?? [];
    this.demo = demo.data?.there ?? false;
    this.loaded = true;
  }

  /** A new client; their number, or 0 where it could not be. */
  async addClient(doc: ClientDoc): Promise<number> {
    const answer = await ask(api.POST('/api/clients', { body: doc, headers: once() }));
    this.rejected = answer.problem ?? null;
    if (!answer.data) return 0;
    await this.load();
    return answer.data.id;
  }

  /** A file of clients comes in whole or not at all: every row is read and checked before the first is stored. */
  async bring(chosen: File, encoding = ''): Promise<number> {
    const answer = await readFile('clients', chosen, encoding);
    this.rejected = answer.problem ?? null;
    this.unread = answer.problem?.faults?.some((f) => f.field === 'encoding') ? chosen : null;
    if (!answer.data?.clients) return 0;
    const made = await ask(api.POST('/api/clients/many', { body: { clients: answer.data.clients } }));
    this.rejected = made.problem ?? null;
    await this.load();
    return made.data?.[0] ?? 0;
  }

  async addPlace(client: Client, doc: PlaceDoc) {
    const made = await ask(api.POST('/api/places', { body: doc, headers: once() }));
    this.rejected = made.problem ?? null;
    if (made.data) await this.trainAt(client, made.data.id);
  }

  async trainAt(client: Client, place: number) {
    const path = { params: { path: { client: client.id } } };
    const now = await ask(api.GET('/api/clients/{client}', path));
    this.rejected = now.problem ?? null;
    if (!now.data) return;
    const places = [...now.data.places.map((q) => q.id), place];
    const answer = await ask(api.PUT('/api/clients/{client}/places', { ...path, body: { places } }));
    this.rejected = answer.problem ?? null;
    await this.load();
  }

  /** A program with its first line in it, or empty; its number and the line's, 0 where it could not be. */
  async addProgram(client: Client, line?: LineDoc): Promise<{ program: number; line: number }> {
    const sessions = line ? [{ name: 'Session A', lines: [{ line }] }] : [];
    const empty = client.programs.find((q) => !q.lines.length);
    const name = client.programs.length ? `Program ${client.programs.length + 1}` : 'First program';
    const answer = empty
      ? await this.intoProgram(empty.id, sessions)
      : await ask(
          api.POST('/api/clients/{client}/programs', {
            params: { path: { client: client.id } },
            body: { name, note: '', weeks: [], starts: '', sessions },
            headers: once(),
          }),
        );
    this.rejected = answer.problem ?? null;
    if (!answer.data) return { program: 0, line: 0 };
    await this.load();
    return { program: answer.data.id, line: answer.data.program.sessions?.[0]?.lines?.[0]?.id ?? 0 };
  }

  /** A program from a document, whole or not at all; its number, 0 where it could not be. */
  async bringProgram(client: Client, chosen: File): Promise<number> {
    const answer = await readFile('program', chosen);
    this.rejected = answer.problem ?? null;
    const read = answer.data?.program;
    if (!read) return 0;
    const sessions = read.sessions.map((s) => ({ name: s.name, lines: s.lines.map((line) => ({ line })) }));
    const made = await ask(
      api.POST('/api/clients/{client}/programs', {
        params: { path: { client: client.id } },
        body: {
          name: read.name,
          note: read.note ?? '',
          weeks: read.weeks ?? [],
          starts: read.starts ?? '',
          sessions,
        },
        headers: once(),
      }),
    );
    this.rejected = made.problem ?? null;
    await this.load();
    return made.data?.id ?? 0;
  }

  /** An empty program is begun rather than a second one made. */
  private async intoProgram(program: number, sessions: KeptProgram['sessions']) {
    const path = { params: { path: { program } } };
    const now = await ask(api.GET('/api/programs/{program}', path));
    if (now.problem || !sessions?.length) return now;
    return ask(api.PUT('/api/programs/{program}', { ...path, body: { ...now.data.program, sessions } }));
  }

  async putAway(client: Client) {
    const path = { params: { path: { client: client.id } } };
    await ask(api.GET('/api/clients/{client}', path));
    this.removed = await putAway('clients', client.id);
    await this.load();
  }

  async withDemo(there: boolean) {
    this.busy = there ? 'Bringing the demo …' : 'Removing the demo …';
    const answer = await ask(there ? api.POST('/api/demo') : api.DELETE('/api/demo'));
    this.rejected = answer.problem ?? null;
    this.busy = '';
    await this.load();
  }
}
