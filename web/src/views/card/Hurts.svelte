<!-- Something hurts: the lift stops, the coach is told, and what spares it is offered. Nothing is judged. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import type { Card, Lift } from './card.svelte';

  let { card, lift, ondone }: { card: Card; lift: Lift; ondone: () => void } = $props();
  const way = $derived(card.way(lift));
  const JOINTS = ['neck', 'shoulder', 'elbow', 'wrist', 'lower back', 'hip', 'knee', 'ankle'];
  /** What the figures of a way call a joint that people call otherwise. */
  const FIGURES: Record<string, string> = { wrist: 'forearm', 'lower back': 'trunk', neck: 'scapula' };
  const WHEN: [Schemas['PainDoc']['when'], string][] = [
    ['start', 'at the start, stretched'],
    ['middle', 'in the middle'],
    ['end', 'at the end'],
    ['throughout', 'all the way'],
    ['afterwards', 'afterwards'],
  ];
  let where = $state('');
  let when: Schemas['PainDoc']['when'] | '' = $state('');
  let note = $state('');
  let told = $state(false);
  const spared = $derived(where ? card.sparing(lift, FIGURES[where] ?? where) : []);
  const chip = (on: boolean) =>
    `min-h-11 rounded-xl border px-3 text-base ${on ? 'border-ink bg-ink text-paper' : 'border-line bg-panel'}`;

  async function tell() {
    if (!where || !when) return;
    await card.hurts(lift, where, when, note);
    told = true;
  }
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <div class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
    <p class="text-small text-muted">{way.title}</p>
    {#if !told}
      <h1 class="text-2xl">Stop this lift. What hurts?</h1>
      <p class="mt-3 text-sm text-muted" id="where">where</p>
      <div class="flex flex-wrap gap-2" role="group" aria-labelledby="where">
        {#each [...JOINTS, lift.target_name] as name (name)}
          <button class={chip(where === name)} aria-pressed={where === name} onclick={() => (where = name)}
            >{name}</button
          >
        {/each}
      </div>
      <p class="mt-3 text-sm text-muted" id="when">when in the repetition</p>
      <div class="flex flex-wrap gap-2" role="group" aria-labelledby="when">
        {#each WHEN as [id, name] (id)}
          <button class={chip(when === id)} aria-pressed={when === id} onclick={() => (when = id)}
            >{name}</button
          >
        {/each}
      </div>
      <label class="mt-3 block text-sm text-muted"
        >in your words, if you like<textarea
          class="mt-1 w-full rounded-xl border border-line bg-panel p-2 text-base text-ink"
          rows="2"
          maxlength="2000"
          bind:value={note}></textarea></label
      >
    {:else}
      <h1 class="text-2xl">Your coach is told</h1>
      <p class="mt-2 text-base">
        {card.unsent ? 'It is kept here and sent as soon as there is a network.' : 'It was sent.'} Leave this lift
        today.
      </p>
      <p class="mt-3 border-l-4 border-swap pl-3 text-base">{card.card?.safety[0]}</p>
      <h2 class="mt-4 section-title">Asks less of the {where}</h2>
      <ul class="mt-2 space-y-2">
        {#each spared as one (one.at)}
          <li>
            <button
              class="w-full rounded-xl border border-line bg-panel p-3 text-left"
              onclick={() => {
                card.ways[lift.line] = one.at;
                ondone();
              }}
            >
              <strong class="text-lg">{one.way.title}, {one.way.load}</strong>
              <span class="block text-base">{one.way.kit}</span>
              <span class="block text-sm text-muted"
                >{Math.round(one.part * 100)} % of the torque there. Only if it feels right at once.</span
              >
            </button>
          </li>
        {:else}
          <li class="text-base">Nothing on this card does. Go on with the next lift.</li>
        {/each}
      </ul>
    {/if}
  </div>
  <footer class="grid grid-cols-[auto_1fr] gap-2 border-t border-line bg-panel px-4 pt-3 pb-4">
    <button class="h-14 rounded-xl border border-line px-5 text-base font-semibold" onclick={ondone}
      >{told ? 'Back to the lift' : 'Back'}</button
    >
    {#if told}
      <button
        class="h-14 rounded-xl bg-ink text-base font-semibold text-paper"
        onclick={() => {
          const last = (card.card?.lifts.length ?? 1) - 1;
          card.at = Math.min(last, card.at + 1);
          ondone();
        }}>Next lift</button
      >
    {:else}
      <button
        class="h-14 rounded-xl bg-swap text-base font-semibold text-on-accent disabled:opacity-50"
        disabled={!where || !when}
        onclick={() => void tell()}>Stop, and tell the coach</button
      >
    {/if}
  </footer>
</div>
