import { api, ask, type Answer, type ClientDoc, type MovementDoc, type Size } from '../../lib/api/client';
import { Kept, type Read } from '../../lib/records/kept.svelte';

type Range = { name: string; low: number; high: number };
type Seen = {
  client: ClientDoc;
  can_undo: boolean;
  can_redo: boolean;
  places: { id: number; name: string }[];
};

/** One client's details. */
export class Details extends Kept<ClientDoc> {
  readonly kind = 'clients' as const;
  size: Size | null = $state.raw(null);
  ranges: Range[] = $state.raw([]);
  movements: MovementDoc[] = $state.raw([]);
  places: { id: number; name: string }[] = $state.raw([]);
  everywhere: { id: number; name: string }[] = $state.raw([]);

  async start(id: number) {
    const [ranges, movements, everywhere] = await Promise.all([
      ask(api.GET('/api/ranges')),
      ask(api.GET('/api/movements')),
      ask(api.GET('/api/places')),
      this.load(id),
    ]);
    this.ranges = ranges.data ?? [];
    this.movements = movements.data ?? [];
    this.everywhere = everywhere.data ?? [];
  }

  protected async read(client: number) {
    return this.seen(await ask(api.GET('/api/clients/{client}', { params: { path: { client } } })));
  }

  protected async write(client: number, doc: ClientDoc) {
    const path = { params: { path: { client } } };
    return this.seen(await ask(api.PUT('/api/clients/{client}', { ...path, body: doc })));
  }

  private seen(answer: Answer<Seen>): Answer<Read<ClientDoc>> {
    if (answer.problem) return answer;
    const { client, can_undo, can_redo, places } = answer.data;
    this.places = places;
    return { data: { doc: client, canUndo: can_undo, canRedo: can_redo } };
  }

  protected override async shown() {
    if (!this.doc) return;
    const answer = await ask(api.POST('/api/size', { body: this.doc }));
    if (answer.data) this.size = answer.data;
  }

  edit(part: Partial<ClientDoc>) {
    return this.change((doc) => ({ ...doc, ...part }));
  }

  /** Whether the client trains somewhere; the order is that of choosing. */
  trains(place: number, here: boolean) {
    return this.next(async () => {
      const others = this.places.map((q) => q.id).filter((id) => id !== place);
      const body = { places: here ? [...others, place] : others };
      const path = { params: { path: { client: this.id } } };
      const answer = await ask(api.PUT('/api/clients/{client}/places', { ...path, body }));
      this.rejected = answer.problem ?? null;
      if (answer.data) {
        this.places = answer.data.places;
        this.canUndo = answer.data.can_undo;
        this.canRedo = answer.data.can_redo;
      }
    });
  }
}
