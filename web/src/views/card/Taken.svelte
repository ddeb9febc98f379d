<!-- The kit is taken: what to do instead, ready with its set-up and load. -->
<script lang="ts">
  import type { Card, Lift } from './card.svelte';

  let { card, lift, ondone }: { card: Card; lift: Lift; ondone: () => void } = $props();
  const now = $derived(card.ways[lift.line] ?? 0);
  const others = $derived(lift.ways.map((way, at) => ({ way, at })).filter((x) => x.at !== now));
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <div class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
    <p class="text-small text-muted">{lift.name}</p>
    <h1 class="text-2xl">Taken? Do this instead</h1>
    <ul class="mt-3 space-y-3">
      {#each others as { way, at } (at)}
        <li>
          <button
            class="w-full rounded-xl border border-line bg-panel p-3 text-left"
            onclick={() => {
              card.ways[lift.line] = at;
              ondone();
            }}
          >
            <span class="flex justify-between gap-3"
              ><strong class="text-lg">{way.title}</strong><strong class="shrink-0 text-lg">{way.load}</strong
              ></span
            >
            <span class="block text-base">{way.kit} · {way.scheme || `${lift.sets} × ${way.reps}`}</span>
            <span class="block text-sm text-muted">{way.steps.map((s) => s.value).join('; ')}</span>
          </button>
        </li>
      {:else}
        <li class="text-base">Nothing else here comes near. Wait for it, or leave this lift for the end.</li>
      {/each}
    </ul>
  </div>
  <footer class="border-t border-line bg-panel px-4 pt-3 pb-4">
    <button class="h-14 w-full rounded-xl border border-line text-base font-semibold" onclick={ondone}
      >It is free: back</button
    >
  </footer>
</div>
