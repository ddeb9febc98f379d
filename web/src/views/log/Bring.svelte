<!-- Old logs from a sheet, or a saved log: what was understood, with its doubts, before anything is kept. -->
<script lang="ts">
  import { api, ask, type Problem, type Schemas } from '../../lib/api/client';
  import Choose from '../../lib/ui/Choose.svelte';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import { asForm } from '../../lib/ui/file';
  import type { Log } from './log.svelte';

  let { log }: { log: Log } = $props();
  type Row = Schemas['LogRowDoc'];
  let rows: Row[] = $state([]);
  /** Which rows are kept, by their number in the file. */
  let ticked: Record<number, boolean> = $state({});
  let faults: string[] = $state.raw([]);
  let open = $state(false);
  let problem: Problem | null = $state.raw(null);
  const path = $derived({ params: { path: { client: log.client } } });
  const lines = $derived(log.record?.programs.flatMap((q) => q.lines) ?? []);
  const kept = $derived(rows.filter((r) => ticked[r.row] && r.line !== null));

  async function read(file: File) {
    const answer = await ask(api.POST('/api/clients/{client}/log/file', { ...path, ...asForm(file) }));
    problem = answer.problem ?? null;
    if (!answer.data) return;
    if (!answer.data.table) {
      log.told = `${answer.data.kept} entries of ${file.name} are in the log; none is doubled.`;
      return log.load(log.client);
    }
    rows = answer.data.table.rows;
    ticked = Object.fromEntries(rows.map((r) => [r.row, !r.doubt]));
    faults = answer.data.table.faults;
    open = true;
  }
  async function keep() {
    const body = { rows: kept };
    const answer = await ask(api.POST('/api/clients/{client}/log/rows', { ...path, body }));
    problem = answer.problem ?? null;
    if (!answer.data) return;
    open = false;
    log.told = `${answer.data.kept} sets are in the log.`;
    await log.load(log.client);
  }
</script>

<Choose
  label="Log file"
  accept=".csv,.xlsx,.json"
  look="font-semibold underline"
  onfile={(file) => void read(file)}>bring old logs (CSV, XLSX, JSON)</Choose
>
{#if problem && !open}<Faults {problem} />{/if}
<Dialog
  bind:open
  wide
  title="{rows.length} sets understood"
  about="They stand as sets of the written lifts. What is doubtful is left out until you tick it; nothing is kept yet."
>
  {#if problem}<Faults {problem} />{/if}
  {#each faults as fault (fault)}<p class="text-sm text-swap">Not read: {fault}</p>{/each}
  <div class="max-h-[52vh] overflow-y-auto">
    <table class="w-full text-sm">
      <thead class="text-left text-small text-muted"
        ><tr
          ><th class="font-normal">keep</th><th class="font-normal">day</th><th class="font-normal"
            >in the file</th
          ><th class="font-normal">line</th><th class="text-right font-normal">done</th><th
            class="font-normal">doubt</th
          ></tr
        ></thead
      >
      <tbody>
        {#each rows as row (row.row)}
          <tr class="border-t border-line">
            <td
              ><input
                type="checkbox"
                aria-label="Keep row {row.row}"
                disabled={row.line === null}
                bind:checked={ticked[row.row]}
              /></td
            >
            <td class="whitespace-nowrap">{row.day}</td>
            <td>{row.lift}</td>
            <td
              ><select
                class="h-8 rounded-md border border-line bg-panel px-1"
                aria-label="Line of row {row.row}"
                value={String(row.line ?? '')}
                onchange={(e) => {
                  row.line = Number(e.currentTarget.value) || null;
                  ticked[row.row] = row.line !== null;
                }}
                ><option value="">none</option>{#each lines as line (line.id)}<option value={String(line.id)}
                    >{line.name}</option
                  >{/each}</select
              ></td
            >
            <td class="text-right whitespace-nowrap">{row.amount} kg × {row.reps}</td>
            <td class="pl-3 text-swap">{row.doubt}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  <button
    class="mt-4 rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper disabled:opacity-50"
    disabled={!kept.length}
    onclick={() => void keep()}>Keep {kept.length} of {rows.length}</button
  >
</Dialog>
