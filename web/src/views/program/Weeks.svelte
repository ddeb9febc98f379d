<!-- The weeks of a block: what each changes of every line, and when the first begins. Cards follow the week they are opened in. -->
<script lang="ts">
  import { typed } from '../../lib/ui/typed';
  import type { Desk, Week } from './program.svelte';

  let { desk }: { desk: Desk } = $props();
  const weeks = $derived(desk.doc?.weeks ?? []);
  const plain: Week = { name: '', sets: 0, load_pct: 100, rir: null };
  const change = (k: number, part: Partial<Week>) =>
    void desk.setWeeks(weeks.map((w, n) => (n === k ? { ...w, ...part } : w)));
  /** Four weeks that get nearer to failure and end in an easy one: a usual block, common practice. */
  const usual: Week[] = [
    { ...plain, rir: 3 },
    { ...plain, rir: 2 },
    { ...plain, rir: 1 },
    { name: 'deload', sets: -1, load_pct: 85, rir: 4 },
  ];
  const cell = 'h-8 rounded-md border border-line bg-panel px-2 text-sm';
  const number = (text: string) => Math.round(typed(text));
  const fault = (k: number, field: string) => desk.faults[`weeks.${k}.${field}`] ?? '';
  const told = $derived(
    Object.entries(desk.faults)
      .filter(([f]) => f.startsWith('weeks.') || f === 'starts')
      .map(([, words]) => words)[0] ?? '',
  );
</script>

<section class="mt-4" aria-label="Weeks">
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h2 class="text-base">Weeks</h2>
    {#if weeks.length}
      <label class="flex items-center gap-2 text-small text-muted"
        >first week begins <input
          type="date"
          class="h-8 rounded-md border border-line bg-panel px-2 text-sm text-ink"
          value={desk.doc?.starts ?? ''}
          onchange={(e) => void desk.setStart(e.currentTarget.value)}
        /></label
      >
      <button
        class="text-small font-semibold underline disabled:opacity-30"
        disabled={weeks.length >= 16}
        onclick={() => void desk.setWeeks([...weeks, weeks.at(-1) ?? plain])}>Add a week</button
      >
      <button class="text-small text-muted underline" onclick={() => void desk.setWeeks([])}
        >Every week as written</button
      >
    {:else}
      <p class="text-small text-muted">Every week as written.</p>
      <button class="text-small font-semibold underline" onclick={() => void desk.setWeeks(usual)}
        >Three harder weeks and a deload</button
      >
      <button class="text-small font-semibold underline" onclick={() => void desk.setWeeks([plain])}
        >Week by week</button
      >
    {/if}
  </div>
  {#if weeks.length}
    <div class="mt-1 overflow-x-auto">
      <table class="text-sm">
        <thead class="text-small text-muted">
          <tr
            ><th class="pr-3 text-left font-normal">week</th><th class="pr-3 text-left font-normal">called</th
            ><th class="pr-3 text-left font-normal">sets, more or fewer</th><th
              class="pr-3 text-left font-normal">load, % of written</th
            ><th class="pr-3 text-left font-normal">RIR</th><td></td></tr
          >
        </thead>
        <tbody>
          {#each weeks as week, k (k)}
            <tr>
              <th class="pr-3 text-left font-semibold">{k + 1}</th>
              <td class="py-0.5 pr-3"
                ><input
                  class="{cell} w-24 sm:w-40"
                  value={week.name ?? ''}
                  maxlength="40"
                  aria-label="Name of week {k + 1}"
                  onchange={(e) => change(k, { name: e.currentTarget.value })}
                /></td
              >
              <td class="pr-3"
                ><input
                  class="{cell} w-16 sm:w-24 {fault(k, 'sets') ? 'border-swap' : ''}"
                  value={`${(week.sets ?? 0) > 0 ? '+' : ''}${week.sets ?? 0}`}
                  aria-label="Sets more or fewer in week {k + 1}"
                  onchange={(e) => change(k, { sets: number(e.currentTarget.value.replace('+', '')) })}
                /></td
              >
              <td class="pr-3"
                ><input
                  class="{cell} w-16 sm:w-24 {fault(k, 'load_pct') ? 'border-swap' : ''}"
                  value={String(week.load_pct ?? 100)}
                  aria-label="Load in week {k + 1}, % of what is written"
                  onchange={(e) => change(k, { load_pct: number(e.currentTarget.value) })}
                /></td
              >
              <td class="pr-3"
                ><input
                  class="{cell} w-16 sm:w-24 {fault(k, 'rir') ? 'border-swap' : ''}"
                  value={week.rir === null || week.rir === undefined ? '' : String(week.rir)}
                  placeholder="as written"
                  aria-label="Repetitions in reserve in week {k + 1}"
                  onchange={(e) =>
                    change(k, { rir: e.currentTarget.value.trim() ? number(e.currentTarget.value) : null })}
                /></td
              >
              <td
                ><button
                  class="text-small text-muted underline"
                  aria-label="Remove week {k + 1}"
                  onclick={() => void desk.setWeeks(weeks.filter((_, n) => n !== k))}>remove</button
                ></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if told}<p class="mt-1 text-small text-swap" role="alert">{told}</p>{/if}
  {/if}
</section>
