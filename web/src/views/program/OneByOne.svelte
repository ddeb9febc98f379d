<!-- A line's sets one by one: repetitions, part of the load, reserve. Swaps are computed for the whole load. -->
<script lang="ts">
  import { typed } from '../../lib/ui/typed';
  import type { LineDoc } from '../../lib/api/client';
  import type { PlannedSet } from './program.svelte';

  type Props = {
    line: LineDoc;
    load: string;
    fault: (field: string) => string;
    onset: (part: Partial<LineDoc>) => void;
    onclose: () => void;
  };
  let { line, load, fault, onset, onclose }: Props = $props();
  const alike = $derived(!line.sets_as?.length);
  const sets: PlannedSet[] = $derived(
    alike
      ? Array.from({ length: line.sets }, (_, k) => ({
          reps_low: line.reps_low,
          reps_high: line.reps_high,
          load_pct: 100,
          rir: null,
          amrap: !!line.amrap && k === line.sets - 1,
        }))
      : line.sets_as!,
  );
  const change = (k: number, part: Partial<PlannedSet>) =>
    onset({ sets_as: sets.map((s, n) => (n === k ? { ...s, ...part } : s)) });
  const more = () => onset({ sets: sets.length + 1, sets_as: [...sets, sets.at(-1)!] });
  const fewer = (k: number) => onset({ sets: sets.length - 1, sets_as: sets.filter((_, n) => n !== k) });
  const cell = 'h-8 w-14 rounded-md border border-line bg-panel px-2 text-sm';
  const number = (text: string) => Math.round(typed(text));
</script>

<div class="mt-2 overflow-x-auto lg:pl-6">
  <table class="text-sm">
    <caption class="sr-only">Sets of {line.name}, one by one</caption>
    <thead class="text-small text-muted">
      <tr
        ><th class="pr-4 text-left font-normal">set</th><th class="pr-4 text-left font-normal">repetitions</th
        ><th class="pr-4 text-left font-normal">load, % of {load}</th><th class="pr-4 text-left font-normal"
          >RIR</th
        ><th class="pr-4 text-left font-normal">as many as possible</th><td></td></tr
      >
    </thead>
    <tbody>
      {#each sets as set, k (k)}
        <tr>
          <th class="pr-4 text-left font-semibold">{k + 1}</th>
          <td class="py-0.5 pr-4 whitespace-nowrap"
            ><input
              class={cell}
              value={String(set.reps_low)}
              aria-label="Fewest repetitions of set {k + 1}"
              onchange={(e) => {
                const low = number(e.currentTarget.value);
                change(k, { reps_low: low, reps_high: Math.max(low, set.reps_high) });
              }}
            />
            –
            <input
              class={cell}
              value={String(set.reps_high)}
              aria-label="Most repetitions of set {k + 1}"
              onchange={(e) => change(k, { reps_high: number(e.currentTarget.value) })}
            /></td
          >
          <td class="pr-4 whitespace-nowrap"
            ><input
              class={cell}
              value={String(set.load_pct ?? 100)}
              aria-label="Load of set {k + 1}, % of the line's"
              onchange={(e) => change(k, { load_pct: number(e.currentTarget.value) })}
            /> %</td
          >
          <td class="pr-4"
            ><input
              class={cell}
              value={set.rir === null || set.rir === undefined ? '' : String(set.rir)}
              placeholder={String(line.rir)}
              aria-label="Repetitions in reserve of set {k + 1}"
              onchange={(e) =>
                change(k, { rir: e.currentTarget.value.trim() ? number(e.currentTarget.value) : null })}
            /></td
          >
          <td class="pr-4 text-center"
            ><input
              type="checkbox"
              checked={!!set.amrap}
              aria-label="As many as possible in set {k + 1}"
              onchange={(e) => change(k, { amrap: e.currentTarget.checked })}
            /></td
          >
          <td
            ><button
              class="text-small text-muted underline disabled:opacity-30"
              disabled={sets.length < 2}
              aria-label="Remove set {k + 1}"
              onclick={() => fewer(k)}>remove</button
            ></td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  {#if fault('sets_as')}<p class="text-small text-swap" role="alert">{fault('sets_as')}</p>{/if}
  <p class="mt-1 flex gap-4 text-small">
    <button class="font-semibold underline disabled:opacity-30" disabled={sets.length >= 12} onclick={more}
      >Add a set</button
    >
    {#if !alike}<button class="font-semibold underline" onclick={() => onset({ sets_as: [] })}
        >All alike again</button
      >{/if}
    <button class="text-muted underline" onclick={onclose}>Close</button>
  </p>
</div>
