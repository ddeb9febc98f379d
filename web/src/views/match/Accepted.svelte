<!-- Accept the shown swap, what is accepted here, and undo. -->
<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import Undo from '@lucide/svelte/icons/undo-2';
  import type { Bench } from './match.svelte';

  let { bench }: { bench: Bench } = $props();
</script>

<div
  class="flex min-h-11 shrink-0 items-center gap-3 border-t border-line bg-panel px-5 text-sm max-lg:sticky max-lg:bottom-0 max-lg:z-10 max-lg:flex-wrap max-lg:gap-y-1 max-lg:px-3 max-lg:py-2"
>
  <button
    class="flex items-center gap-2 rounded-md bg-swap px-4 py-1.5 font-semibold text-on-accent hover:opacity-90"
    onclick={() => void bench.accept()}
  >
    <Check size={16} /> Accept this swap
  </button>
  <kbd class="rounded border border-line px-1.5 font-sans text-xs max-lg:hidden">Enter</kbd>
  {#if bench.accepted}
    <span class="truncate max-lg:order-last max-lg:w-full max-lg:whitespace-normal">
      Accepted for {bench.placeName}: <strong>{bench.accepted.swap.title}</strong>, {bench.accepted.swap.load
        .words}
    </span>
    <button
      class="flex items-center gap-1.5 rounded-md border border-line px-3 py-1 font-semibold hover:border-muted"
      onclick={() => void bench.undo()}
    >
      <Undo size={14} /> Undo
    </button>
  {:else}
    <span class="text-muted">Nothing accepted for {bench.placeName} yet.</span>
  {/if}
  <span class="ml-auto truncate text-muted max-lg:sr-only" role="status" aria-live="polite">{bench.note}</span
  >
  <button
    class="shrink-0 rounded px-2 py-0.5 text-[13px] text-muted hover:bg-soft hover:text-ink max-lg:ml-auto"
    onclick={() => (bench.absolute = !bench.absolute)}
    >heights: <strong>{bench.absolute ? 'N·m' : 'own peak'}</strong></button
  >
</div>
