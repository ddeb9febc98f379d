<!-- What a client told: sets noted at the desk, on the same scale as those from a phone. -->
<script lang="ts">
  import { api, ask, type Problem } from '../../lib/api/client';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import type { Log } from './log.svelte';

  let { log }: { log: Log } = $props();
  let open = $state(false);
  let chosen = $state('');
  let day = $state(new Date().toISOString().slice(0, 10));
  let load = $state('');
  let reps = $state('');
  let rir = $state('');
  let busy = $state(false);
  let problem: Problem | null = $state.raw(null);
  const field = 'mt-0.5 h-9 w-full rounded-md border border-line bg-panel px-2';
  /** Lines with a swap, and where. */
  const options = $derived(
    (log.record?.programs ?? []).flatMap((q) =>
      q.lines.flatMap((line) =>
        line.accepted.map((a) => ({
          value: `${line.session_id} ${line.id} ${a.place}`,
          label: `${line.name}: ${a.swap.title}, ${log.record?.places.find((x) => x.id === a.place)?.name ?? ''}`,
        })),
      ),
    ),
  );
  const numbers = $derived(
    reps
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number),
  );
  const amount = $derived(Number(load.replace(',', '.') || '0'));
  const bad = $derived(
    !chosen
      ? 'pick what was done'
      : !(amount >= 0 && amount <= 2000)
        ? 'load: 0 to 2000 kg'
        : !numbers.length || numbers.some((n) => !Number.isInteger(n) || n < 0 || n > 200)
          ? 'repetitions: whole numbers, such as 12, 11, 10'
          : '',
  );

  async function keep() {
    const [session, line, place] = chosen.split(' ').map(Number);
    busy = true;
    const at = (k: number) => `${day}T12:${String(3 * k).padStart(2, '0')}:00Z`;
    const answer = await ask(
      api.POST('/api/clients/{client}/log', {
        params: { path: { client: log.client } },
        body: {
          session: session ?? 0,
          place: place ?? 0,
          entries: numbers.map((n, k) => ({
            id: crypto.randomUUID(),
            kind: 'set' as const,
            at: at(k),
            device: 'desk',
            line: line ?? 0,
            way: 0,
            revision: 0,
            order: k,
            note: '',
            set: {
              amount,
              reps: n,
              rir: rir === '' ? null : Number(rir),
              partials: 0,
              drops: [],
              felt: [],
              feel: '' as const,
            },
          })),
        },
      }),
    );
    busy = false;
    problem = answer.problem ?? null;
    if (!answer.data) return;
    open = false;
    reps = '';
    log.told = `${numbers.length === 1 ? 'A set is' : `${numbers.length} sets are`} in the log.`;
    await log.load(log.client);
  }
</script>

<button class="font-semibold underline" onclick={() => (open = true)}>Note sets</button>
<Dialog bind:open title="Note sets" about="What the client told you, of one lift on one day.">
  <div class="grid gap-3 text-sm sm:grid-cols-2">
    <label class="sm:col-span-2"
      >What<select class={field} bind:value={chosen}
        ><option value="">pick one</option>{#each options as one (one.value)}<option value={one.value}
            >{one.label}</option
          >{/each}</select
      ></label
    >
    <label
      >Day<input
        type="date"
        class={field}
        bind:value={day}
        max={new Date().toISOString().slice(0, 10)}
      /></label
    >
    <label>Load, kg<input class={field} inputmode="decimal" bind:value={load} /></label>
    <label
      >Repetitions, a number a set<input class={field} placeholder="12, 11, 10" bind:value={reps} /></label
    >
    <label
      >Left in reserve<select class={field} bind:value={rir}
        ><option value="">not told</option>{#each [0, 1, 2, 3, 4] as n (n)}<option value={String(n)}
            >{n === 4 ? '4 or more' : n}</option
          >{/each}</select
      ></label
    >
  </div>
  {#if problem}<div class="mt-2"><Faults {problem} /></div>{/if}
  <div class="mt-4 flex items-center gap-3">
    <button
      class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper disabled:opacity-50"
      disabled={!!bad || busy}
      onclick={() => void keep()}>{busy ? 'Keeping …' : 'Keep'}</button
    >
    {#if bad && (chosen || reps || load)}<span class="text-sm text-muted">{bad}</span>{/if}
  </div>
</Dialog>
