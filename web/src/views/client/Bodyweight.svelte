<!-- Weighings over time and their trend. -->
<script lang="ts">
  import type { ClientDoc } from '../../lib/api/client';
  import type { Details } from './client.svelte';
  import type { Units } from './units';

  let { details, doc, trend, units }: { details: Details; doc: ClientDoc; trend: string; units: Units } =
    $props();

  let weighing = $state('');

  function weigh() {
    const kg = Math.round(units.asKg(weighing) * 100) / 100;
    const day = new Date().toISOString().slice(0, 10);
    const others = (doc.weights ?? []).filter((w) => w.day !== day);
    void details.edit({ weights: [...others, { day, mass_kg: kg }], mass_kg: kg });
    weighing = '';
  }
  const weights = $derived([...(doc.weights ?? [])].sort((a, b) => a.day.localeCompare(b.day)));
  const line = $derived.by(() => {
    const late = weights.slice(-60);
    if (late.length < 2) return '';
    const days = late.map((w) => Date.parse(w.day));
    const masses = late.map((w) => w.mass_kg);
    const [low, high] = [Math.min(...masses) - 0.3, Math.max(...masses) + 0.3];
    const [a, b] = [days[0] ?? 0, days.at(-1) ?? 1];
    return late
      .map(
        (w, i) => `${((days[i]! - a) / (b - a || 1)) * 280},${70 - ((w.mass_kg - low) / (high - low)) * 64}`,
      )
      .join(' ');
  });
</script>

<h2 class="mt-6 font-sans text-xs font-bold tracking-[0.1em] uppercase">Bodyweight</h2>
<div class="mt-1 flex items-end gap-4">
  <svg viewBox="0 0 280 74" class="h-[74px] w-[280px]" role="img" aria-label="Bodyweight over time">
    <line x1="0" x2="280" y1="73" y2="73" stroke="var(--line)" />
    {#if line}<polyline points={line} fill="none" stroke="var(--swap)" stroke-width="2" />{/if}
  </svg>
  <p class="text-sm">
    <strong>{units.massText(doc.mass_kg)} {units.mass}</strong><br />{trend}
  </p>
</div>
<form
  class="mt-2 flex items-center gap-2 text-sm"
  onsubmit={(e) => {
    e.preventDefault();
    weigh();
  }}
>
  <input
    bind:value={weighing}
    class="h-8 w-28 rounded-md border border-line bg-panel px-2"
    placeholder={`${units.mass} today`}
    aria-label="Bodyweight today"
  />
  <button class="h-8 rounded-md bg-ink px-3 font-semibold text-paper" disabled={!weighing}>Weigh in</button>
  <span class="text-muted">{weights.length} weighings</span>
</form>
