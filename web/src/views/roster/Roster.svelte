<!-- The roster: clients with what waits, and the chosen client's lines over their places. With nothing there, the way to begin. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import type { Client } from '../../lib/api/client';
  import { bringBack } from '../../lib/records/away';
  import Ask from '../../lib/ui/Ask.svelte';
  import Choose from '../../lib/ui/Choose.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Shell from '../../lib/ui/Shell.svelte';
  import { tour } from '../../lib/ui/tour.svelte';
  import { navigate, p, route } from '../../router';
  import Away from './Away.svelte';
  import ClientList from './ClientList.svelte';
  import { Fill } from './fill.svelte';
  import Filling from './Filling.svelte';
  import Lines from './Lines.svelte';
  import { fetchBegin, Roster } from './roster.svelte';
  import Week from './Week.svelte';

  const roster = new Roster();
  const fill = new Fill();
  onDestroy(() => fill.stop());
  void roster.load();
  let cell = $state({ line: 0, place: 0 });
  let away = $state(false);
  let asking = $state(false);
  let fresh = $state(false);
  let look = $state(false);

  /** Fetched when somebody begins: figures and forms are no part of the first view. */
  let Begin: Awaited<ReturnType<typeof fetchBegin>> | null = $state.raw(null);
  $effect(() => {
    if (roster.loaded && !Begin && (!client || !places.length || !lines.length))
      void fetchBegin().then((made) => (Begin = made));
  });

  const wanted = $derived(Number((route.params as { client?: string }).client));
  const client = $derived(
    fresh
      ? null
      : (roster.clients.find((c) => c.id === wanted) ?? roster.shown[0] ?? roster.clients[0] ?? null),
  );
  const lines = $derived(client?.programs.flatMap((q) => q.lines) ?? []);
  const places = $derived(client?.places ?? []);

  /** What was looked at before is told at once. */
  const shown = $derived(client?.id);
  $effect(() => {
    if (shown) untrack(() => client && void fill.recall(client));
  });

  function pick(id: number) {
    fresh = false;
    cell = { line: 0, place: 0 };
    void navigate('/clients/:client', { params: { client: String(id) } });
  }
  function turn(by: number) {
    const next = roster.shown[roster.shown.findIndex((c) => c.id === client?.id) + by];
    if (next) pick(next.id);
  }
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
  async function lock() {
    const [line, place] = [lines[cell.line], places[cell.place]];
    if (line && place && (await fill.lock(line, place.id))) await roster.load();
  }
  function toFloor() {
    const [line, place] = [lines[cell.line], places[cell.place]];
    const params = { session: String(line?.session_id), place: String(place?.id) };
    if (line && place) void navigate('/sessions/:session/at/:place', { params });
  }
  function toLog() {
    if (client) void navigate('/clients/:client/log', { params: { client: String(client.id) } });
  }
  async function newProgram(c: Client) {
    const made = await roster.addProgram(c);
    if (made.program) void navigate('/programs/:program', { params: { program: String(made.program) } });
  }
  const shortcuts: Shortcut[] = [
    { keys: ['ArrowUp'], shown: '↑', does: 'Line before', run: () => step(-1, 0) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Line after', run: () => step(1, 0) },
    { keys: ['ArrowLeft'], shown: '←', does: 'Place to the left', run: () => step(0, -1) },
    { keys: ['ArrowRight'], shown: '→', does: 'Place to the right', run: () => step(0, 1) },
    { keys: ['Enter'], shown: 'Enter', does: 'Open the match bench', run: enter },
    { keys: ['o'], shown: 'O', does: 'The session on the floor', run: toFloor },
    { keys: ['g'], shown: 'G', does: 'Cards and log', run: toLog },
    { keys: ['['], shown: '[', does: 'Client before', run: () => turn(-1) },
    { keys: [']'], shown: ']', does: 'Client after', run: () => turn(1) },
    {
      keys: ['f'],
      shown: 'F',
      does: 'Fill the empty cells with the best swaps',
      run: () => client && void fill.run(client, () => roster.load()),
    },
    {
      keys: ['k'],
      shown: 'K',
      does: 'Keep: lock the swap of this cell, or unlock it',
      run: () => void lock(),
    },
    { keys: ['n'], shown: 'N', does: 'New client', run: () => (fresh = true) },
  ];
</script>

<Shell title={client?.client.name ?? 'Roster'} {shortcuts}>
  {#snippet crumbs()}Roster{/snippet}
  {#if roster.problem}
    <Fault problem={roster.problem} retry={() => void roster.load()} />
  {:else if !roster.loaded}
    <p class="p-8 text-muted" role="status">Reading the roster …</p>
  {:else}
    <div
      class="h-full overflow-y-auto {roster.clients.length
        ? 'lg:grid lg:grid-cols-[272px_1fr] lg:overflow-hidden'
        : ''}"
    >
      {#if roster.clients.length}
        <ClientList
          {roster}
          {client}
          onpick={pick}
          onnew={() => (fresh = true)}
          onaway={() => (away = true)}
        />
      {/if}
      {#if !client || !places.length || !lines.length}
        <section class="lg:min-h-0 lg:overflow-y-auto" aria-label="Begin">
          {#if Begin}<Begin {roster} {client} onpick={pick} />{/if}
          {#if !roster.clients.length && roster.away.length}
            <p class="px-5 pb-6 text-center text-sm">
              <button class="underline" onclick={() => (away = true)}>Put away ({roster.away.length})</button>
            </p>
          {/if}
        </section>
      {:else}
        <section
          class="overflow-x-auto px-5 py-5 lg:min-h-0 lg:overflow-auto lg:px-7"
          aria-label="Lines of {client.client.name}"
        >
          <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h1 class="text-2xl">{client.client.name}</h1>
            <p class="flex flex-wrap gap-x-4 text-sm">
              {#each client.programs as program (program.id)}
                <a
                  class="font-semibold underline"
                  href={p('/programs/:program', { params: { program: String(program.id) } })}
                  >{program.name}</a
                >
              {/each}
              <button class="text-muted underline" onclick={() => void newProgram(client)}>New program</button
              >
              <Choose
                label="Program file"
                accept=".json"
                look="text-muted underline"
                onfile={async (file) => {
                  const made = await roster.bringProgram(client, file);
                  if (made) void navigate('/programs/:program', { params: { program: String(made) } });
                }}>Program from a file</Choose
              >
            </p>
            <a
              class="ml-auto text-sm font-semibold underline"
              data-tour="log"
              href={p('/clients/:client/log', { params: { client: String(client.id) } })}>Cards and log</a
            >
            <a
              class="text-sm font-semibold underline"
              href={p('/people/:client', { params: { client: String(client.id) } })}>Size and limits</a
            >
            <button class="text-sm text-muted underline" onclick={() => (asking = true)}>Put away</button>
          </div>
          {#if !tour.seen}
            <p class="mt-2 text-sm">
              New here?
              <button class="font-semibold underline" onclick={() => tour.to(0)}>Show me around</button>, by
              the real controls, or
              <button class="font-semibold underline" onclick={() => tour.to(null)}>not now</button>.
            </p>
          {/if}
          <Filling {client} {fill} bind:look again={() => roster.load()} />
          <Lines
            wanting={look}
            {client}
            {fill}
            {cell}
            again={() => roster.load()}
            onopen={(at) => {
              cell = at;
              enter();
            }}
          />
          <Week client={client.id} changed={client} onchanged={() => void roster.load()} />
          <p class="mt-6 max-w-2xl text-small text-muted">
            Planning help for healthy adults, not medical advice. Pain, injury, pregnancy, recent surgery or a
            heart condition: stop, and ask a physician or physiotherapist. Follow the equipment maker's limits
            and the house rules.
          </p>
        </section>
      {/if}
    </div>
  {/if}
  {#if roster.removed}
    <p
      class="fixed bottom-4 left-1/2 z-30 flex -translate-x-1/2 gap-4 rounded-lg bg-ink px-4 py-2.5 text-sm text-paper shadow-lg"
      role="status"
    >
      {roster.removed.name} was put away.
      <button
        class="font-semibold underline"
        onclick={async () => {
          const gone = roster.removed;
          roster.removed = null;
          if (gone && (await bringBack(gone.kind, gone.id))) await roster.load();
        }}>Bring back</button
      >
      <button aria-label="Close this note" onclick={() => (roster.removed = null)}>×</button>
    </p>
  {/if}
</Shell>

<Away {roster} bind:open={away} />
<Ask
  bind:open={asking}
  title="Put {client?.client.name ?? ''} away?"
  about="Off the roster, with programs and accepted swaps. Nothing is deleted; bring them back at any time."
  does="Put away"
  ondo={() => client && void roster.putAway(client)}
/>
