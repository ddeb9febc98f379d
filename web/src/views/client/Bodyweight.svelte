<!-- Weighings over time and their trend. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { ClientDoc } from '../../lib/api/client';
  import { counted } from '../../lib/ui/typed';
  import type { Details } from './client.svelte';
  import type { Units } from '../../lib/units/units.svelte';

  let { details, doc, trend, units }: { details: Details; doc: ClientDoc; trend: string; units: Units } =
    $props();

  let weighing = $state('');
  const today = () => new Date().toISOString().slice(0, 10);
  let day = $state(today());
  let all = $state(false);

  // Made of the newest state: a weighing may come while the one before is on its way.
  function weigh() {
    const one = { day, mass_kg: Math.round(units.asKg(weighing) * 100) / 100 };
    void details.change((now) => {
      const made = [...(now.weights ?? []).filter((w) => w.day !== one.day), one];
      return { ...now, weights: made, mass_kg: latest(made) ?? one.mass_kg };
    });
    weighing = '';
    day = today();
  }
  function remove(gone: string) {
    void details.change((now) => {
      const left = (now.weights ?? []).filter((w) => w.day !== gone);
      return { ...now, weights: left, mass_kg: latest(left) ?? now.mass_kg };
    });
  }
  const latest = (of: { day: string; mass_kg: number }[]) =>
    [...of].sort((a, b) => a.day.localeCompare(b.day)).at(-1)?.mass_kg;
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

<h2 class="mt-6 section-title">Bodyweight</h2>
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
    placeholder={units.mass}
    aria-label="Bodyweight, {units.mass}"
  />
  <input
    type="date"
    bind:value={day}
    max={today()}
    class="h-8 rounded-md border border-line bg-panel px-2"
    aria-label="Day of the weighing"
  />
  <button class="h-8 rounded-md bg-ink px-3 font-semibold text-paper" disabled={!weighing || !day}
    >Weigh in</button
  >
</form>
{#if weights.length}
  <button class="mt-1 text-small text-muted underline" aria-expanded={all} onclick={() => (all = !all)}
    >{counted(weights.length, 'weighing')}</button
  >
{/if}
{#if all}
  <ul class="mt-1 max-h-44 overflow-y-auto text-small" aria-label="Weighings">
    {#each [...weights].reverse() as w (w.day)}
      <li class="flex items-center gap-3 border-b border-line py-0.5">
        <span class="text-muted">{w.day}</span>
        <span class="font-semibold">{units.massText(w.mass_kg)} {units.mass}</span>
        <button
          class="ml-auto text-muted hover:text-ink"
          aria-label="Remove the weighing of {w.day}"
          onclick={() => remove(w.day)}><Trash size={13} /></button
        >
      </li>
    {/each}
  </ul>
{/if}
