import { api, ask, type Client, type Example, type MovementDoc, type Problem } from '../../lib/api/client';
import { Latest } from '../../lib/api/latest';
import { bestView } from '../../lib/draw/frame';
import type { View } from '../../lib/draw/geometry';

/** State of the movement library: one movement, one variant of it, one kit, one client. */
export class Library {
  movements: MovementDoc[] = $state.raw([]);
  clients: Client[] = $state.raw([]);
  example: Example | null = $state.raw(null);
  problem: Problem | null = $state.raw(null);
  busy = $state(false);
  search = $state('');
  id = $state('');
  variant = $state(0);
  kit = $state('');
  client = $state(0);
  pose = $state(0);
  fixedView: View | null = $state(null);

  movement: MovementDoc | null = $derived(this.movements.find((m) => m.id === this.id) ?? null);
  found: MovementDoc[] = $derived(this.movements.filter((m) => matches(m, this.search)));
  families = $derived(
    this.found.reduce<{ name: string; movements: MovementDoc[] }[]>((out, m) => {
      const own = out.find((f) => f.name === m.family);
      if (own) own.movements.push(m);
      else out.push({ name: m.family, movements: [m] });
      return out;
    }, []),
  );
  /** Movements in the order they are listed, for stepping through. */
  order = $derived(this.families.flatMap((f) => f.movements));
  view: View = $derived(this.fixedView ?? (this.example ? bestView(this.example.profile) : 'side'));
  poses = $derived(this.example?.profile.part.length ?? 1);

  private latest = new Latest();

  async start(wanted: string) {
    const [list, clients] = await Promise.all([ask(api.GET('/api/movements')), ask(api.GET('/api/clients'))]);
    this.problem = list.problem ?? clients.problem ?? null;
    this.movements = list.data ?? [];
    this.clients = clients.data?.clients ?? [];
    this.client = this.clients[0]?.id ?? 0;
    this.open(this.movements.some((m) => m.id === wanted) ? wanted : (this.order[0]?.id ?? ''));
  }

  /** Show a movement, the first of its ways. */
  open(id: string) {
    if (!id) return;
    this.id = id;
    this.variant = 0;
    this.kit = '';
    void this.load();
  }

  choose(change: { variant?: number; kit?: string; client?: number }) {
    this.variant = change.variant ?? this.variant;
    this.kit = change.variant === undefined ? (change.kit ?? this.kit) : '';
    this.client = change.client ?? this.client;
    void this.load();
  }

  /** Read the example; an answer overtaken by a newer question is dropped. */
  private async load() {
    this.busy = true;
    const query = { client: this.client, kit: this.kit, variant: this.variant };
    const answer = await this.latest.of(
      ask(api.GET('/api/movements/{name}', { params: { path: { name: this.id }, query } })),
    );
    if (!answer) return;
    this.problem = answer.problem ?? null;
    this.example = answer.data ?? null;
    if (this.example) this.pose = peakOf(this.example);
    this.busy = false;
  }

  step(by: number) {
    const next = this.order[this.order.findIndex((m) => m.id === this.id) + by];
    if (next) this.open(next.id);
  }

  nudge(by: number) {
    this.pose = Math.min(this.poses - 1, Math.max(0, this.pose + by));
  }

  turnView() {
    const views: View[] = ['side', 'front', 'top'];
    this.fixedView = views[(views.indexOf(this.view) + 1) % views.length] ?? 'side';
  }

  nextVariant() {
    const count = this.movement?.ways.length ?? 1;
    this.choose({ variant: (this.variant + 1) % count });
  }

  nextKit() {
    const kits = this.movement?.kits[this.variant] ?? [];
    const i = kits.findIndex((k) => k.id === (this.example?.kit ?? this.kit));
    this.choose({ kit: kits[(i + 1) % kits.length]?.id ?? '' });
  }
}

/** Whether every word typed is found in the movement's name, ways, muscles or kit. */
export function matches(m: MovementDoc, search: string): boolean {
  const text = [
    m.name,
    m.family,
    ...m.ways,
    ...m.targets.map((t) => t.name),
    ...m.kits.flat().map((k) => k.name),
  ]
    .join(' ')
    .toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** Where the target is asked most. */
function peakOf(example: Example): number {
  const curve = example.profile.targets[example.target]?.effective_nm ?? [];
  return Math.max(0, curve.indexOf(Math.max(...curve)));
}
