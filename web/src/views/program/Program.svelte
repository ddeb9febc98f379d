<!-- A program: its sessions and lines, written in a simple form and changed where they stand. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import { api, ask } from '../../lib/api/client';
  import { bringBack, holdsWords, putAway } from '../../lib/records/away';
  import Conflict from '../../lib/records/Conflict.svelte';
  import Ask from '../../lib/ui/Ask.svelte';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import Note from '../../lib/ui/Note.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import Calendar from './Calendar.svelte';
  import LineForm from './LineForm.svelte';
  import { Desk, type Spot } from './program.svelte';
  import SessionBlock from './SessionBlock.svelte';
  import Sheet from './Sheet.svelte';
  import Weeks from './Weeks.svelte';

  const desk = new Desk();
  $effect(() => {
    const id = Number((route.params as { program?: string }).program);
    if (id && id !== desk.id) void desk.load(id);
  });
  const doc = $derived(desk.doc);
  let writing = $state(-1);
  let calendar = $state(false);
  let lifted: Spot | null = $state(null);
  let asking = $state(false);
  let goes = $state('');
  let gone = $state(0);
  const LETTERS = 'ABCDEFGHIJKLMNOP';
  const nextName = $derived(`Session ${LETTERS[doc?.sessions.length ?? 0] ?? ''}`);
  const toRoster = () => navigate('/clients/:client', { params: { client: String(desk.client) } });

  async function askRemoval() {
    const path = { params: { path: { kind: 'programs' as const, number: desk.id } } };
    goes = holdsWords((await ask(api.GET('/api/{kind}/{number}/holds', path))).data ?? {});
    asking = true;
  }
  async function remove() {
    if (await putAway('programs', desk.id)) gone = desk.id;
  }
  const shortcuts: Shortcut[] = [
    { keys: ['u'], shown: 'U', does: 'Undo the last change', run: () => void desk.back() },
    { keys: ['r'], shown: 'R', does: 'Do it again', run: () => void desk.forward() },
    {
      keys: ['n'],
      shown: 'N',
      does: 'Write a line into the last session',
      run: () => (writing = (doc?.sessions.length ?? 0) - 1),
    },
    { keys: ['s'], shown: 'S', does: 'Add a session', run: () => void desk.addSession(nextName) },
    { keys: ['Escape'], shown: 'Esc', does: 'To the roster', run: () => void toRoster() },
  ];
</script>

<Shell title={doc?.name ?? 'Program'} {shortcuts}>
  {#snippet crumbs()}
    {#if doc}<a
        class="hover:text-ink"
        href={p('/clients/:client', { params: { client: String(desk.client) } })}>{desk.clientName}</a
      >
      › <span class="font-semibold text-ink">{doc.name}</span>{/if}
  {/snippet}
  {#snippet tools()}
    {#if doc && !gone}
      <Sheet {desk} />
      <button
        class="rounded-full border border-line bg-panel px-3.5 py-1.5 text-sm font-semibold disabled:opacity-40"
        disabled={!desk.canUndo}
        onclick={() => void desk.back()}>Undo</button
      >
      <button
        class="rounded-full border border-line bg-panel px-3.5 py-1.5 text-sm font-semibold disabled:opacity-40"
        disabled={!desk.canRedo}
        onclick={() => void desk.forward()}>Redo</button
      >
    {/if}
  {/snippet}

  <Conflict record={desk} name={doc?.name ?? 'The program'} />
  <Ask
    bind:open={asking}
    title="Remove {doc?.name ?? 'this program'}?"
    about="It leaves {desk.clientName}'s roster{goes
      ? ` with ${goes}`
      : ''}. Nothing is deleted: bring it back, and all of it is there again."
    does="Remove it"
    ondo={() => void remove()}
  />
  {#if desk.problem}
    <Fault problem={desk.problem} retry={() => void desk.load(desk.id)} />
  {:else if !doc}
    <p class="p-8 text-muted" role="status">Reading …</p>
  {:else if gone}
    <div class="mx-auto mt-16 max-w-md px-4 text-center" role="status">
      <p>{doc.name} was removed.</p>
      <p class="mt-4 flex justify-center gap-4">
        <button
          class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper"
          onclick={async () => {
            if (await bringBack('programs', gone)) {
              gone = 0;
              await desk.load(desk.id);
            }
          }}>Put it back</button
        >
        <button class="text-sm font-semibold underline" onclick={() => void toRoster()}>To the roster</button>
      </p>
    </div>
  {:else}
    <div class="h-full overflow-y-auto">
      <div class="mx-auto max-w-[1000px] px-5 py-5">
        <div class="flex flex-wrap items-center gap-x-5 gap-y-2">
          <h1 class="sr-only">{doc.name}, a program of {desk.clientName}</h1>
          <input
            class="w-full min-w-0 border-b border-transparent bg-transparent font-head text-2xl font-semibold hover:border-line sm:w-auto sm:flex-1"
            value={doc.name}
            aria-label="Name of the program"
            maxlength="80"
            onchange={(e) => void desk.rename(e.currentTarget.value)}
          />
          <a
            class="text-sm font-semibold underline"
            href="/api/programs/{desk.id}/document"
            download="{doc.name}.json">Save as JSON</a
          >
          <button class="text-sm font-semibold underline" onclick={() => (calendar = true)}>Calendar</button>
          <button
            class="flex items-center gap-1 text-sm text-muted hover:text-ink"
            onclick={() => void askRemoval()}><Trash size={14} /> Remove program</button
          >
        </div>
        {#if desk.rejected && !Object.keys(desk.faults).some((f) => /^(sessions|weeks|starts)\b/.test(f))}
          <div class="mt-3"><Faults problem={desk.rejected} /></div>
        {/if}
        <div class="mt-3 max-w-2xl">
          <Note
            label="Notes on the program"
            value={doc.note ?? ''}
            fault={desk.faults['note']}
            onset={(note) => void desk.remark(note)}
          />
        </div>
        <Weeks {desk} />
        {#each doc.sessions as session, at (session.id ?? `new-${at}`)}
          <SessionBlock
            {desk}
            {session}
            {at}
            count={doc.sessions.length}
            bind:lifted
            onwrite={() => (writing = at)}
          />
        {:else}
          <p class="mt-6 text-muted">No session yet: add the first one, then write its lines.</p>
        {/each}
        <button
          class="mt-7 rounded-md border border-line bg-panel px-4 py-2 text-sm font-semibold hover:border-muted"
          onclick={() => void desk.addSession(nextName)}>Add {nextName}</button
        >
      </div>
    </div>
  {/if}
</Shell>

{#if doc}<Calendar program={desk.id} name={doc.name} sessions={doc.sessions} bind:open={calendar} />{/if}
<Dialog
  open={writing >= 0}
  onclose={() => (writing = -1)}
  wide
  title="Write a line"
  about="For {desk.clientName}, into {doc?.sessions[writing]?.name ?? 'a session'}."
>
  {#if writing >= 0}
    <LineForm
      client={desk.client}
      units={desk.units}
      does="Put it into {doc?.sessions[writing]?.name ?? 'the session'}"
      ondone={(line) => {
        const at = writing;
        writing = -1;
        void desk.addLine(at, line);
      }}
    />
  {/if}
</Dialog>
