<!-- A program from a spreadsheet: every line with its cell and what was read; only what is clear comes in. -->
<script lang="ts">
  import { api, ask, type LineDoc, type Problem, type Schemas } from '../../lib/api/client';
  import Choose from '../../lib/ui/Choose.svelte';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import { asForm } from '../../lib/ui/file';
  import Encoding from '../../lib/ui/Encoding.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import type { Desk } from './program.svelte';

  type Session = Schemas['SheetSessionView'];
  let { desk }: { desk: Desk } = $props();
  let open = $state(false);
  let busy = $state(false);
  let chosen = $state.raw<File | null>(null);
  let read = $state.raw<Session[]>([]);
  let problem = $state.raw<Problem | null>(null);
  const clear = $derived(read.reduce((n, s) => n + s.lines.filter((l) => l.typed.sure).length, 0));
  const all = $derived(read.reduce((n, s) => n + s.lines.length, 0));
  const nameOf = (s: Session, i: number) => s.name || `Session ${String.fromCharCode(65 + i)}`;

  async function look(encoding = '') {
    if (!chosen) return;
    busy = true;
    open = true;
    const answer = await ask(
      api.POST('/api/clients/{client}/program-sheets', {
        params: { path: { client: desk.client } },
        ...asForm(chosen, encoding),
      }),
    );
    busy = false;
    problem = answer.problem ?? null;
    read = answer.data ?? [];
  }
  /** A name that the sheet uses is remembered, and the sheet read again. */
  async function means(name: string, known: string) {
    const answer = await ask(api.POST('/api/own-names', { body: { name, means: known } }));
    problem = answer.problem ?? null;
    if (!answer.problem) await look();
  }
  async function takeOver() {
    const sessions = read.map((s, i) => ({
      name: nameOf(s, i),
      lines: s.lines.flatMap((l): LineDoc[] => (l.typed.sure && l.typed.line ? [l.typed.line] : [])),
    }));
    if (await desk.addSessions(sessions.filter((s) => s.lines.length))) open = false;
    else problem = desk.rejected;
  }
</script>

<Choose
  label="Program sheet"
  accept=".csv,.xlsx"
  look="rounded-full border border-line bg-panel px-3.5 py-1.5 text-sm font-semibold whitespace-nowrap hover:border-muted"
  onfile={(file) => {
    chosen = file;
    void look();
  }}>From a sheet …</Choose
>
<Dialog
  bind:open
  wide
  title="From a sheet"
  about="{chosen?.name ??
    ''}: every line with its cell and what was read of it. Only what is clear comes in; say once what a name means, and the sheet is read again."
>
  {#if problem}<Faults {problem} />{/if}
  {#if problem?.faults?.some((f) => f.field === 'encoding')}<Encoding onpick={(e) => void look(e)} />{/if}
  {#if busy}<p class="text-sm text-muted" role="status">Reading the sheet …</p>{/if}
  {#each read as session, i (i)}
    <h3 class="mt-4 text-base">{nameOf(session, i)}</h3>
    <table class="w-full text-sm">
      <thead class="sr-only"><tr><th>Cell</th><th>Written</th><th>Read</th></tr></thead>
      <tbody>
        {#each session.lines as line (line.source)}
          <tr class="border-b border-line align-top">
            <td class="w-12 py-1 text-small text-muted">{line.source}</td>
            <td class="w-[42%] py-1 pr-4">{line.typed.text}</td>
            <td class="py-1">
              {#if line.typed.sure && line.typed.line}
                <strong>{line.typed.readings[line.typed.reading]}</strong>
                <span class="text-muted">{line.typed.scheme}, {line.typed.load}</span>
              {:else}
                <span class="font-semibold text-swap"
                  >{line.typed.fault
                    ? line.typed.fault.limit
                    : line.typed.unknown.length
                      ? `not understood: ${line.typed.unknown.map((u) => u.text).join(', ')}`
                      : `either ${line.typed.readings.slice(0, 2).join(' or ')}`}</span
                >
                {#each line.typed.readings.length ? [] : line.typed.unknown as span (span.start)}
                  {#each span.nearest as known (known)}
                    <button
                      class="ml-1.5 rounded-full border border-line px-2 text-small hover:border-muted"
                      onclick={() => void means(span.text, known)}>{known}</button
                    >
                  {/each}
                {/each}
              {/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/each}
  {#if read.length}
    <p class="mt-4 flex items-center gap-4">
      <button
        class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper disabled:opacity-40"
        disabled={!clear || busy}
        onclick={() => void takeOver()}>Put in {clear} of {all} lines</button
      >
      {#if clear < all}<span class="text-sm text-muted"
          >The others stay in the sheet; type them at the desk.</span
        >{/if}
    </p>
  {/if}
</Dialog>
