<!-- The sets themselves, newest first: what was moved, how often, how it is read; wrong ones are put right. -->
<script lang="ts">
  import type { LiftLog, Log, Point } from './log.svelte';

  let { log, lift }: { log: Log; lift: LiftLog } = $props();
  let all = $state(false);
  let fixing = $state('');
  let amount = $state('');
  let reps = $state('');
  let rir = $state('');
  const shown = $derived([...lift.points].reverse().slice(0, all ? undefined : 9));
  const number = (text: string) => Number(text.replace(',', '.'));
  const bad = $derived(
    !(number(amount) >= 0 && number(amount) <= 2000)
      ? 'load: 0 to 2000'
      : !(Number.isInteger(number(reps)) && number(reps) >= 0 && number(reps) <= 200)
        ? 'repetitions: whole, 0 to 200'
        : rir && !(Number.isInteger(number(rir)) && number(rir) >= 0 && number(rir) <= 10)
          ? 'in reserve: 0 to 10, or nothing'
          : '',
  );
  function begin(q: Point) {
    fixing = q.id;
    amount = String(q.amount);
    reps = String(q.reps);
    rir = q.rir == null ? '' : String(q.rir);
  }
  const day = (at: string) => new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short' });
  const field = 'h-8 w-16 rounded-md border border-line bg-panel px-2';
</script>

<h2 class="mt-5 section-title">Sets</h2>
<table class="mt-1 w-full text-sm">
  <thead class="text-left text-small text-muted">
    <tr
      ><th class="font-normal">day</th><th class="font-normal">set-up</th><th class="text-right font-normal"
        >done</th
      ><th class="text-right font-normal">in reserve</th><th class="text-right font-normal"
        >as written lift</th
      ><th><span class="sr-only">put right</span></th></tr
    >
  </thead>
  <tbody>
    {#each shown as q (q.id)}
      <tr class="border-t border-line align-top">
        <td class="py-1 whitespace-nowrap">{day(q.at as string)}</td>
        <td class="py-1"
          >{q.title}, {q.place}{q.fixed ? ' · put right' : ''}{#if q.note}<span class="block text-muted"
              >{q.note}</span
            >{/if}</td
        >
        {#if fixing === q.id}
          <td class="py-1 text-right whitespace-nowrap"
            ><input class={field} aria-label="Load, {q.unit}" bind:value={amount} />
            {q.unit} ×
            <input class={field} aria-label="Repetitions" bind:value={reps} /></td
          >
          <td class="py-1 text-right"><input class={field} aria-label="In reserve" bind:value={rir} /></td>
          <td class="py-1 text-right text-swap"><span role="alert">{bad}</span></td>
          <td class="py-1 text-right whitespace-nowrap"
            ><button
              class="font-semibold underline disabled:opacity-40"
              disabled={!!bad}
              onclick={() => {
                void log.fix(q, number(amount), number(reps), rir ? number(rir) : null);
                fixing = '';
              }}>Put right</button
            >
            <button class="ml-2 underline" onclick={() => (fixing = '')}>Leave</button></td
          >
        {:else}
          <td class="py-1 text-right font-semibold whitespace-nowrap"
            >{q.unit ? `${q.amount} ${q.unit} × ` : ''}{q.left != null && q.right != null
              ? `${q.left} / ${q.right}`
              : q.reps}{q.partials ? ` + ${q.partials} half` : ''}</td
          >
          <td class="py-1 text-right">{q.rir ?? '–'}</td>
          <td class="py-1 text-right">{q.value.toFixed(1)} {lift.unit}</td>
          <td class="py-1 text-right whitespace-nowrap"
            ><button
              class="underline"
              aria-label="Fix the set of {day(q.at as string)}, {q.reps} repetitions"
              onclick={() => begin(q)}>Fix</button
            >
            <button
              class="ml-2 underline"
              aria-label="Take back the set of {day(q.at as string)}, {q.reps} repetitions"
              onclick={() => void log.takeBack(q.id)}>Take back</button
            ></td
          >
        {/if}
      </tr>
    {/each}
  </tbody>
</table>
{#if lift.points.length > 9}<button class="mt-1 text-sm underline" onclick={() => (all = !all)}
    >{all ? 'Fewer' : `All ${lift.points.length}`}</button
  >{/if}
