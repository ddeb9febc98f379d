<!-- The rest between sets, and what to move meanwhile. The screen stays on. -->
<script lang="ts">
  import { onDestroy, onMount } from 'svelte';
  import type { Card } from './card.svelte';

  let { card, onnext }: { card: Card; onnext: (line: number) => void } = $props();
  let now = $state(Date.now());
  let lock: WakeLockSentinel | null = null;
  const tick = setInterval(() => (now = Date.now()), 250);
  onMount(() => {
    void navigator.wakeLock
      ?.request('screen')
      .then((held) => (lock = held))
      .catch(() => undefined);
  });
  onDestroy(() => {
    clearInterval(tick);
    void lock?.release();
  });
  const left = $derived(Math.max(0, Math.ceil(((card.rest?.until ?? 0) - now) / 1000)));
  const part = $derived(card.rest ? left / Math.max(1, card.rest.of) : 0);
  const next = $derived(card.lift ? card.after(card.lift) : null);
  const R = 20;
</script>

{#if card.rest}
  <div class="mb-2 flex items-center gap-3 border-b border-line pb-2">
    <svg width="48" height="48" viewBox="0 0 48 48" aria-hidden="true">
      <circle cx="24" cy="24" r={R} fill="none" stroke="var(--line)" stroke-width="5" />
      <circle
        cx="24"
        cy="24"
        r={R}
        fill="none"
        stroke="var(--prescribed)"
        stroke-width="5"
        stroke-dasharray="{2 * Math.PI * R * part} 200"
        transform="rotate(-90 24 24)"
      />
    </svg>
    <div class="min-w-0 flex-1">
      <p class="text-lg font-semibold" role="timer">
        {left ? `${Math.floor(left / 60)}:${String(left % 60).padStart(2, '0')} rest` : 'Go on'}
      </p>
      <p class="text-sm text-muted">{card.rest.next}</p>
    </div>
    {#if next && next !== card.lift}
      <button
        class="h-11 rounded-xl border border-line px-3 font-semibold"
        onclick={() => {
          onnext(next.line);
        }}>To it</button
      >
    {/if}
    <button
      class="h-11 rounded-xl border border-line px-3"
      aria-label="End the rest"
      onclick={() => (card.rest = null)}>×</button
    >
  </div>
{/if}
