<!-- The whole session at a glance: what is done, what comes, the weight today. -->
<script lang="ts">
  import { setWords } from './words';
  import type { Card, CardDoc } from './card.svelte';

  let { card, doc, onpick }: { card: Card; doc: CardDoc; onpick: (at: number) => void } = $props();
  let weight = $state('');
  let fault = $state('');
  let weighed = $state('');
  const span = $derived(doc.mass_span_kg.map((kg) => kg / doc.mass_unit_kg));

  async function weigh() {
    const typed = Number(weight.replace(',', '.'));
    if (!(typed >= (span[0] ?? 0) && typed <= (span[1] ?? 0))) {
      fault = `${Math.ceil(span[0] ?? 0)} to ${Math.floor(span[1] ?? 0)} ${doc.mass_unit}`;
      return;
    }
    fault = '';
    await card.weigh(Math.round(typed * doc.mass_unit_kg * 10) / 10);
    weighed = `${weight} ${doc.mass_unit}`;
    weight = '';
  }
</script>

<div class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
  <h1 class="text-2xl">{doc.session}</h1>
  <p class="text-base text-muted">
    {doc.place}{doc.week ? ` · ${doc.week}` : ''} · from {doc.coach} · revision {doc.revision}
  </p>
  <ol class="mt-3">
    {#each doc.lifts as lift, at (lift.line)}
      {@const done = card.sets(lift)}
      {@const way = card.way(lift)}
      <li>
        <button
          class="grid min-h-14 w-full grid-cols-[32px_1fr_auto] items-center gap-2 border-b border-line py-2 text-left"
          onclick={() => onpick(at)}
        >
          <span class="font-semibold text-swap">{lift.label || at + 1}</span>
          <span class="min-w-0"
            ><strong class="text-base">{way.title}</strong><span class="block text-sm text-muted"
              >{done.length
                ? done.map((k) => setWords(k.entry.set, way).split(',')[0]).join(' · ')
                : way.scheme || `${lift.sets} × ${way.reps}`}</span
            ></span
          >
          <span class="text-right"
            ><strong>{way.load}</strong><span
              class="block text-sm {done.length >= lift.sets ? 'text-prescribed' : 'text-muted'}"
              >{done.length} of {lift.sets}</span
            ></span
          >
        </button>
      </li>
    {/each}
  </ol>
  {#if doc.missing?.length}<p class="mt-2 text-sm text-muted">
      Not chosen yet: {doc.missing.join(', ')}. Ask your coach.
    </p>{/if}
  <form
    class="mt-4 flex items-end gap-2"
    onsubmit={(e) => {
      e.preventDefault();
      void weigh();
    }}
  >
    <label class="text-sm text-muted"
      >bodyweight today, {doc.mass_unit}<input
        class="mt-1 block h-11 w-32 rounded-xl border border-line bg-panel px-3 text-base text-ink"
        inputmode="decimal"
        bind:value={weight}
      /></label
    >
    <button class="h-11 rounded-xl border border-line px-4 font-semibold" disabled={!weight}>Keep</button>
    {#if fault}<span class="text-sm text-swap" role="alert">{fault}</span>{/if}
    {#if weighed}<span class="text-sm" role="status">{weighed} kept</span>{/if}
  </form>
  <ul class="mt-4 space-y-1 border-l-4 border-swap pl-3 text-sm">
    {#each doc.safety as line (line)}<li>{line}</li>{/each}
  </ul>
</div>
<footer class="border-t border-line bg-panel px-4 pt-3 pb-4">
  <button
    class="h-14 w-full rounded-xl bg-ink text-base font-semibold text-paper"
    onclick={() => onpick(card.at)}>Back to the lift</button
  >
</footer>
