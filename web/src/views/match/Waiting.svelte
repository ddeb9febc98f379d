<!-- How far a search has come. -->
<script lang="ts">
  import type { Bench } from './match.svelte';

  let { bench }: { bench: Bench } = $props();
</script>

<div class="flex h-full flex-col items-center justify-center gap-3" role="status">
  <div class="h-1.5 w-56 overflow-hidden rounded-full bg-soft">
    {#if bench.part === null}
      <div class="working h-full w-1/3 bg-swap"></div>
    {:else}
      <div class="h-full bg-swap transition-[width]" style:width="{100 * bench.part}%"></div>
    {/if}
  </div>
  <p class="text-muted">
    Trying every movement and placement at {bench.placeName || 'this place'} …
    {#if bench.part !== null}{Math.round(100 * bench.part)} %{/if}
  </p>
  <p class="text-sm text-muted">Computed once for this client and place. Leaving gives it up.</p>
</div>

<style>
  .working {
    animation: to-and-fro 1.1s ease-in-out infinite alternate;
  }
  @keyframes to-and-fro {
    to {
      transform: translateX(200%);
    }
  }
</style>
