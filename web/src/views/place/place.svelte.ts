import {
  api,
  ask,
  once,
  type Answer,
  type Client,
  type Fault,
  type Kind,
  type PlaceDoc,
  type Purchase,
  type Reach,
} from '../../lib/api/client';
import { watch } from '../../lib/api/watch';
import { readFile } from '../../lib/ui/file';
import { bringBack, putAway } from '../../lib/records/away';
import { Kept, type Read } from '../../lib/records/kept.svelte';

type Named = { id: number; name: string; items: number };
type Cells = Record<string, string>;

/** Places with their kit and reach map; every change is stored at once and can be undone. */
export class Places extends Kept<PlaceDoc> {
  readonly kind = 'places' as const;
  list: Named[] = $state.raw([]);
  clients: Client[] = $state.raw([]);
  kinds: Kind[] = $state.raw([]);
  ready: PlaceDoc[] = $state.raw([]);
  cells: Cells[] = $state.raw([]);
  client = $state(0);
  reach: Reach | null = $state.raw(null);
  purchases: Purchase[] | null = $state.raw(null);
  busy = $state('');
  /** The item being edited: its place in the kit, or one past the end for a new one; its cells as typed. */
  editing = $state(-1);
  draft: Cells = $state({});
  cellFaults: Record<string, string> = $state.raw({});
  removed: { id: number; name: string } | null = $state.raw(null);
  /** A file that waits for what it is written in. */
  unread: { file: File; fresh: boolean } | null = $state.raw(null);

  sort = $derived(this.kinds.find((k) => k.kind === this.draft['kind']) ?? null);
  private asked = 0;
  private work: AbortController | null = null;

  async start(wanted: number) {
    const [list, clients, kinds, ready] = await Promise.all([
      ask(api.GET('/api/places')),
      ask(api.GET('/api/clients')),
      ask(api.GET('/api/kit-kinds')),
      ask(api.GET('/api/ready-kits')),
    ]);
    this.problem = list.problem ?? clients.problem ?? kinds.problem ?? null;
    this.list = list.data ?? [];
    this.clients = clients.data?.clients ?? [];
    this.client = this.clients[0]?.id ?? 0;
    this.kinds = kinds.data ?? [];
    this.ready = ready.data ?? [];
    const first = this.list.find((q) => q.id === wanted) ?? this.list[0];
    if (first) await this.open(first.id);
  }

  async open(id: number) {
    this.editing = -1;
    await this.load(id);
  }

  protected async read(place: number) {
    return seen(await ask(api.GET('/api/places/{place}', { params: { path: { place } } })));
  }

  protected async write(place: number, doc: PlaceDoc) {
    return seen(await ask(api.PUT('/api/places/{place}', { params: { path: { place } }, body: doc })));
  }

  protected override async shown() {
    const doc = this.doc;
    if (!doc) return;
    const cells = await ask(api.POST('/api/kit-cells', { body: doc }));
    if (doc !== this.doc) return;
    this.cells = (cells.data as Cells[] | undefined) ?? [];
    this.list = this.list.map((q) =>
      q.id === this.id ? { ...q, name: doc.name, items: doc.kit.length } : q,
    );
    void this.map();
  }

  /** Compute the reach map; one that is overtaken by a change is dropped. */
  async map() {
    const mine = ++this.asked;
    this.purchases = null;
    if (!this.client) {
      this.reach = null;
      return;
    }
    const answer = await this.watched('reach', 'Computing the reach map …');
    if (mine !== this.asked || !answer) return;
    this.reach = answer.data ?? null;
    this.rejected = answer.problem ?? this.rejected;
    this.busy = '';
  }

  async shop() {
    const mine = this.asked;
    const answer = await this.watched('purchases', 'Trying what could be bought …');
    if (mine !== this.asked || !answer) return;
    this.purchases = answer.data ?? null;
    this.rejected = answer.problem ?? null;
    this.busy = '';
  }

  private watched<K extends 'reach' | 'purchases'>(what: K, words: string) {
    this.work?.abort();
    const work = (this.work = new AbortController());
    this.busy = words;
    const path = `/api/clients/${this.client}/${what}`;
    const told = (part: number | null) => (this.busy = part ? `${words} ${Math.round(part * 100)} %` : words);
    return watch(what, path, undefined, told, work.signal, { place: this.id });
  }

  /** The view is left: what is being computed for it alone is given up. */
  leave() {
    this.asked += 1;
    this.work?.abort();
  }

  edit(index: number, kind = '') {
    this.editing = index;
    this.cellFaults = {};
    this.draft = { ...(this.cells[index] ?? { kind, id: '', name: '' }) };
  }

  /** Read the typed cells; what cannot be stays typed, with its fault beside it. */
  async save() {
    if (!this.doc) return;
    const cells = { ...this.draft };
    if (!cells['id']) cells['id'] = freeId(cells['name'] ?? '', this.doc);
    const answer = await ask(api.POST('/api/kit-items', { body: { cells } }));
    if (answer.problem) {
      this.cellFaults = byField(answer.problem.faults ?? []);
      return;
    }
    const [at, item] = [this.editing, answer.data.item];
    if (
      await this.change((doc) => ({ ...doc, kit: [...doc.kit.slice(0, at), item, ...doc.kit.slice(at + 1)] }))
    )
      this.editing = -1;
  }

  remove(index: number) {
    void this.change((doc) => ({ ...doc, kit: doc.kit.filter((_, i) => i !== index) }));
    this.editing = -1;
  }

  async add(doc: PlaceDoc) {
    const answer = await ask(api.POST('/api/places', { body: doc, headers: once() }));
    this.rejected = answer.problem ?? null;
    if (!answer.data) return;
    this.list = [...this.list, { id: answer.data.id, name: doc.name, items: doc.kit.length }];
    await this.open(answer.data.id);
  }

  /** The same kit again under another name, for the same clients or for none yet. */
  async copy(withClients: boolean) {
    const [doc, here] = [this.doc, this.id];
    if (!doc) return;
    await this.add({ ...doc, name: `${doc.name} 2`.slice(0, 80) });
    if (!withClients || this.id === here) return;
    for (const client of this.clients.filter((c) => c.places.some((q) => q.id === here))) {
      const path = { params: { path: { client: client.id } } };
      const now = await ask(api.GET('/api/clients/{client}', path));
      if (!now.data) continue;
      const body = { places: [...now.data.places.map((q) => q.id), this.id] };
      const answer = await ask(api.PUT('/api/clients/{client}/places', { ...path, body }));
      this.rejected = answer.problem ?? this.rejected;
    }
    this.clients = (await ask(api.GET('/api/clients'))).data?.clients ?? this.clients;
  }

  /** Off the lists; its clients, and what was accepted there, come back with it. */
  async drop() {
    const gone = await putAway('places', this.id);
    if (!gone) return;
    this.removed = gone;
    this.list = this.list.filter((q) => q.id !== this.id);
    if (this.list[0]) await this.open(this.list[0].id);
    else this.doc = null;
  }

  async restore() {
    const gone = this.removed;
    if (!gone || !(await bringBack('places', gone.id))) return;
    this.removed = null;
    const [list, clients] = await Promise.all([ask(api.GET('/api/places')), ask(api.GET('/api/clients'))]);
    this.list = list.data ?? this.list;
    this.clients = clients.data?.clients ?? this.clients;
    await this.open(gone.id);
  }

  /** Read a file whole; into the place shown, or as a new one. */
  async file(chosen: File, fresh: boolean, encoding = '') {
    this.rejected = null;
    this.unread = null;
    const answer = await readFile('place', chosen, encoding);
    if (answer.problem) {
      this.rejected = answer.problem;
      if (answer.problem.faults?.some((f) => f.field === 'encoding')) this.unread = { file: chosen, fresh };
    } else if (answer.data.place && fresh) await this.add(answer.data.place);
    else if (answer.data.place) {
      const read = answer.data.place;
      await this.change(() => read);
    }
  }
}

function seen(
  answer: Answer<{ place: PlaceDoc; can_undo: boolean; can_redo: boolean }>,
): Answer<Read<PlaceDoc>> {
  if (answer.problem) return answer;
  const { place, can_undo, can_redo } = answer.data;
  return { data: { doc: place, canUndo: can_undo, canRedo: can_redo } };
}

function byField(faults: Fault[]): Record<string, string> {
  return Object.fromEntries(faults.map((f) => [f.field, `${f.limit}. ${f.way_out}.`]));
}

/** A short id from a name that no other item has. */
export function freeId(name: string, doc: PlaceDoc): string {
  const plain = name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'item'; // prettier-ignore
  const accepted = doc.kit.map((item) => item.id);
  let id = plain;
  for (let n = 2; accepted.includes(id); n++) id = `${plain}-${n}`;
  return id;
}
