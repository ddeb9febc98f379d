import {
  api,
  ask,
  type Client,
  type Fault,
  type Kind,
  type PlaceDoc,
  type Problem,
  type Purchase,
  type Reach,
} from '../../lib/api/client';
import { sent } from '../../lib/ui/file';
import { Undo } from '../../lib/ui/undo.svelte';

type Named = { id: number; name: string; items: number };
type Cells = Record<string, string>;

/** Places with their kit and reach map; every change is stored at once and can be undone. */
export class Places {
  list: Named[] = $state.raw([]);
  clients: Client[] = $state.raw([]);
  kinds: Kind[] = $state.raw([]);
  ready: PlaceDoc[] = $state.raw([]);
  id = $state(0);
  doc: PlaceDoc | null = $state.raw(null);
  cells: Cells[] = $state.raw([]);
  client = $state(0);
  reach: Reach | null = $state.raw(null);
  purchases: Purchase[] | null = $state.raw(null);
  busy = $state('');
  problem: Problem | null = $state.raw(null);
  rejected: Problem | null = $state.raw(null);
  /** The item being edited: its place in the kit, or one past the end for a new one; its cells as typed. */
  editing = $state(-1);
  draft: Cells = $state({});
  faults: Record<string, string> = $state.raw({});
  undo = $state.raw(new Undo<PlaceDoc>());
  removed: PlaceDoc | null = $state.raw(null);

  kind = $derived(this.kinds.find((k) => k.kind === this.draft['kind']) ?? null);
  private asked = 0;

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
    this.id = id;
    this.editing = -1;
    this.rejected = null;
    this.undo = new Undo();
    const answer = await ask(api.GET('/api/places/{place}', { params: { path: { place: id } } }));
    this.problem = answer.problem ?? null;
    if (answer.data) await this.show(answer.data.place);
  }

  private async show(doc: PlaceDoc) {
    this.doc = doc;
    const cells = await ask(api.POST('/api/kit-cells', { body: doc }));
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
    this.busy = 'Computing the reach map …';
    const at = { params: { path: { client: this.client }, query: { place: this.id } } };
    const answer = await ask(api.GET('/api/clients/{client}/reach', at));
    if (mine !== this.asked) return;
    this.reach = answer.data ?? null;
    this.rejected = answer.problem ?? this.rejected;
    this.busy = '';
  }

  async shop() {
    const mine = this.asked;
    this.busy = 'Trying what could be bought …';
    const at = { params: { path: { client: this.client }, query: { place: this.id } } };
    const answer = await ask(api.GET('/api/clients/{client}/purchases', at));
    if (mine !== this.asked) return;
    this.purchases = answer.data ?? null;
    this.rejected = answer.problem ?? null;
    this.busy = '';
  }

  async change(next: PlaceDoc, remember = true): Promise<boolean> {
    const before = this.doc;
    const answer = await ask(
      api.PUT('/api/places/{place}', { params: { path: { place: this.id } }, body: next }),
    );
    this.rejected = answer.problem ?? null;
    if (answer.problem) return false;
    if (before && remember) this.undo.keep(before);
    await this.show(next);
    return true;
  }

  async back() {
    const before = this.doc && this.undo.back(this.doc);
    if (before) await this.change(before, false);
  }

  async forward() {
    const after = this.doc && this.undo.forward(this.doc);
    if (after) await this.change(after, false);
  }

  edit(index: number, kind = '') {
    this.editing = index;
    this.faults = {};
    this.draft = { ...(this.cells[index] ?? { kind, id: '', name: '' }) };
  }

  /** Read the typed cells; what cannot be stays typed, with its fault beside it. */
  async save() {
    if (!this.doc) return;
    const cells = { ...this.draft };
    if (!cells['id']) cells['id'] = freeId(cells['name'] ?? '', this.doc);
    const answer = await ask(api.POST('/api/kit-items', { body: { cells } }));
    if (answer.problem) {
      this.faults = byField(answer.problem.faults ?? []);
      return;
    }
    const kit = [...this.doc.kit];
    kit[this.editing] = answer.data.item;
    if (await this.change({ ...this.doc, kit })) this.editing = -1;
  }

  remove(index: number) {
    if (this.doc) void this.change({ ...this.doc, kit: this.doc.kit.filter((_, i) => i !== index) });
    this.editing = -1;
  }

  async add(doc: PlaceDoc) {
    const answer = await ask(api.POST('/api/places', { body: doc }));
    this.rejected = answer.problem ?? null;
    if (!answer.data) return;
    this.list = [...this.list, { id: answer.data.id, name: doc.name, items: doc.kit.length }];
    await this.open(answer.data.id);
  }

  async drop() {
    const answer = await ask(api.DELETE('/api/places/{place}', { params: { path: { place: this.id } } }));
    if (!answer.data) return;
    this.removed = answer.data.place;
    this.list = this.list.filter((q) => q.id !== this.id);
    if (this.list[0]) await this.open(this.list[0].id);
  }

  /** Read a file whole; into the place shown, or as a new one. */
  async file(chosen: File, fresh: boolean) {
    this.rejected = null;
    const answer = await ask(
      api.POST('/api/files/{what}', { params: { path: { what: 'place' } }, body: await sent(chosen) }),
    );
    if (answer.problem) this.rejected = answer.problem;
    else if (answer.data.place && fresh) await this.add(answer.data.place);
    else if (answer.data.place) await this.change(answer.data.place);
  }
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
