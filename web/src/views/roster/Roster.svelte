<!-- The roster: clients with what waits, and the chosen client's lines over their places. -->
<script lang="ts">
  import { api, ask, type Client, type ClientDoc, type Problem } from '../../lib/api/client';
  import Fault from '../../lib/ui/Fault.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import { sent } from '../../lib/ui/file';
  import type { Shortcut } from '../../lib/ui/keys';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';

  const NEW = { name: 'New client', stature_cm: 170, mass_kg: 70, sex: 'female' } as ClientDoc;
  let clients: Client[] = $state.raw([]);
  let problem: Problem | null = $state.raw(null);
  let loaded = $state(false);
  let cell = $state({ line: 0, place: 0 });

  async function load() {
    const answer = await ask(api.GET('/api/clients'));
    problem = answer.problem ?? null;
    clients = answer.data?.clients ?? [];
    loaded = true;
  }
  void load();

  const wanted = $derived(Number((route.params as { client?: string }).client));
  const client = $derived(clients.find((c) => c.id === wanted) ?? clients[0] ?? null);
  const lines = $derived(client?.programs.flatMap((q) => q.lines) ?? []);
  const places = $derived(client?.places ?? []);
  const open = (c: Client) =>
    c.programs.flatMap((q) => q.lines).reduce((n, l) => n + (c.places.length - l.accepted.length), 0);
  const sessions = $derived(
    lines.reduce<{ name: string; from: number; count: number }[]>((out, line, i) => {
      const last = out[out.length - 1];
      if (last && last.name === line.session) last.count += 1;
      else out.push({ name: line.session, from: i, count: 1 });
      return out;
    }, []),
  );

  function pick(c: Client | undefined) {
    if (c) void navigate('/clients/:client', { params: { client: String(c.id) } });
    cell = { line: 0, place: 0 };
  }
  const turn = (by: number) => pick(clients[clients.findIndex((c) => c.id === client?.id) + by]);
  function step(line: number, place: number) {
    cell = {
      line: Math.min(lines.length - 1, Math.max(0, cell.line + line)),
      place: Math.min(places.length - 1, Math.max(0, cell.place + place)),
    };
    document.getElementById(`cell-${cell.line}-${cell.place}`)?.scrollIntoView({ block: 'nearest' });
  }
  function enter() {
    const [line, place] = [lines[cell.line], places[cell.place]];
    if (line && place)
      void navigate('/lines/:line/at/:place', { params: { line: String(line.id), place: String(place.id) } });
  }
  let files: HTMLInputElement | undefined = $state();
  let rejected: Problem | null = $state.raw(null);
  async function add(documents: ClientDoc[]) {
    const answer = await ask(api.POST('/api/clients/many', { body: { clients: documents } }));
    rejected = answer.problem ?? null;
    if (!answer.data) return;
    await load();
    const first = String(answer.data[0]);
    if (documents.length === 1) void navigate('/people/:client', { params: { client: first } });
    else void navigate('/clients/:client', { params: { client: first } });
  }
  /** A file of clients comes in whole or not at all: every row is read and checked before the first is stored. */
  async function bring(chosen: File) {
    const path = { params: { path: { what: 'clients' as const } } };
    const answer = await ask(api.POST('/api/files/{what}', { ...path, body: await sent(chosen) }));
    rejected = answer.problem ?? null;
    if (answer.data?.clients) await add(answer.data.clients);
  }
  const shortcuts: Shortcut[] = [
    { keys: ['ArrowUp'], shown: '↑', does: 'Line before', run: () => step(-1, 0) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Line after', run: () => step(1, 0) },
    { keys: ['ArrowLeft'], shown: '←', does: 'Place to the left', run: () => step(0, -1) },
    { keys: ['ArrowRight'], shown: '→', does: 'Place to the right', run: () => step(0, 1) },
    { keys: ['Enter'], shown: 'Enter', does: 'Open the match bench', run: enter },
    { keys: ['['], shown: '[', does: 'Client before', run: () => turn(-1) },
    { keys: [']'], shown: ']', does: 'Client after', run: () => turn(1) },
  ];
  const tallest = $derived(Math.max(...clients.map((c) => c.client.stature_cm), 1));
</script>

<Shell title={client?.client.name ?? 'Roster'} {shortcuts}>
  {#snippet crumbs()}Roster{/snippet}
  {#if problem}
    <Fault {problem} retry={() => void load()} />
  {:else if !loaded}
    <p class="p-8 text-muted" role="status">Reading the roster …</p>
  {:else if !client}
    <p class="p-8">No clients yet.</p>
  {:else}
    <div class="grid h-full grid-cols-[272px_1fr]">
      <nav class="overflow-y-auto border-r border-line p-4" aria-label="Clients">
        <ul class="space-y-2">
          {#each clients as c (c.id)}
            {@const on = c.id === client.id}
            <li>
              <button
                class="flex w-full items-end gap-3 rounded-lg border bg-panel p-3 text-left {on
                  ? 'border-2 border-ink'
                  : 'border-line hover:border-muted'}"
                aria-current={on ? 'true' : undefined}
                onclick={() => pick(c)}
              >
                <svg width="26" height="64" viewBox="0 0 26 64" aria-hidden="true" class="shrink-0">
                  <g
                    transform="translate(13 63) scale({(c.client.stature_cm / tallest) * 0.62})"
                    fill="var(--body)"
                  >
                    <circle cx="0" cy="-92" r="7.5" />
                    <path
                      d="M-13 -80q13 -6 26 0l3 34q-3 2 -5 0l-3 -22l-1 22l-2 46h-8l-1 -40l-1 40h-8l-2 -46l-1 -22l-3 22q-2 2 -5 0z"
                    />
                  </g>
                </svg>
                <span class="min-w-0">
                  <span class="block font-head text-lg leading-tight font-semibold">{c.client.name}</span>
                  <span class="block text-sm text-muted"
                    >{c.client.stature_cm} cm · {c.client.mass_kg} kg</span
                  >
                  <span class="mt-1 block text-sm">
                    {#if open(c)}<strong>{open(c)}</strong> swaps to find{:else}All swaps found{/if}
                  </span>
                </span>
              </button>
            </li>
          {/each}
        </ul>
        <div class="mt-4 flex gap-4 text-sm">
          <button class="font-semibold underline" onclick={() => void add([NEW])}>New client</button>
          <button class="font-semibold underline" onclick={() => files?.click()}>From a file</button>
          <a class="text-muted underline" href="/api/clients.csv" download>Save all</a>
        </div>
        <input
          bind:this={files}
          type="file"
          accept=".csv,.xlsx,.json"
          class="hidden"
          aria-label="Clients file"
          onchange={(e) => {
            const chosen = e.currentTarget.files?.[0];
            if (chosen) void bring(chosen);
            e.currentTarget.value = '';
          }}
        />
        {#if rejected}<div class="mt-3"><Faults problem={rejected} /></div>{/if}
      </nav>

      <section class="overflow-auto px-7 py-5" aria-label="Lines of {client.client.name}">
        <div class="flex items-baseline gap-4">
          <h1 class="text-2xl">{client.client.name}</h1>
          <p class="text-muted">{client.programs.map((q) => q.name).join(', ')}</p>
          <a
            class="ml-auto text-sm font-semibold underline"
            href={p('/people/:client', { params: { client: String(client.id) } })}>Size and limits</a
          >
        </div>
        <table class="mt-4 w-full table-fixed border-separate border-spacing-0">
          <thead>
            <tr class="text-left align-bottom">
              <th class="w-[31%] pr-4 pb-2 text-xs font-bold tracking-[0.1em] text-prescribed uppercase"
                >Prescribed</th
              >
              {#each places as place (place.id)}
                <th class="pb-2 pl-2 text-sm font-semibold">
                  {place.name}
                  <span class="block text-xs font-normal text-muted">{place.items} items of kit</span>
                </th>
              {/each}
            </tr>
          </thead>
          <tbody>
            {#each sessions as session (session.name)}
              <tr>
                <th
                  colspan={places.length + 1}
                  class="border-b border-line pt-3 pb-1 text-left text-sm font-semibold text-muted"
                >
                  {session.name}
                </th>
              </tr>
              {#each lines.slice(session.from, session.from + session.count) as line, k (line.id)}
                {@const row = session.from + k}
                <tr>
                  <th scope="row" class="w-[32%] border-b border-line py-2 pr-4 text-left font-normal">
                    <span class="block font-semibold">{line.name}</span>
                    <span class="block text-sm text-muted">
                      {line.target} · {line.sets} × {line.reps} · {line.load}
                    </span>
                  </th>
                  {#each places as place, j (place.id)}
                    {@const accepted = line.accepted.find((t) => t.place === place.id)}
                    {@const on = cell.line === row && cell.place === j}
                    <td class="border-b border-line py-1.5 pl-2">
                      <button
                        id="cell-{row}-{j}"
                        class="flex min-h-12 w-full items-center gap-2.5 rounded-md border px-3 py-1.5 text-left text-sm {on
                          ? 'border-2 border-ink bg-panel'
                          : accepted
                            ? 'border-line bg-panel hover:border-muted'
                            : 'border-dashed border-line hover:border-muted'}"
                        aria-label="{line.name} at {place.name}: {accepted
                          ? accepted.swap.title +
                            (typeof accepted.match_now === 'number' ? ', no longer holds' : '')
                          : 'find a swap'}"
                        data-shortcut-through
                        onclick={() => {
                          cell = { line: row, place: j };
                          enter();
                        }}
                      >
                        {#if accepted}
                          <span class="font-head text-lg leading-none font-bold text-swap"
                            >{Math.round(accepted.swap.match)}</span
                          >
                          <span class="leading-tight">
                            <span class="block font-medium">{accepted.swap.title}</span>
                            <span class="text-muted">{accepted.swap.load.words}</span>
                            {#if typeof accepted.match_now === 'number'}
                              <span class="block font-semibold"
                                >Now {Math.round(accepted.match_now)}: find it again</span
                              >
                            {/if}
                          </span>
                        {:else}
                          <span class="text-muted">find a swap</span>
                        {/if}
                      </button>
                    </td>
                  {/each}
                </tr>
              {/each}
            {/each}
          </tbody>
        </table>
        <p class="mt-6 max-w-2xl text-xs text-muted">
          Planning help for healthy adults, not medical advice. Pain, injury, pregnancy, recent surgery or a
          heart condition: stop, and ask a physician or physiotherapist. Follow the equipment maker's limits
          and the house rules.
        </p>
      </section>
    </div>
  {/if}
</Shell>
