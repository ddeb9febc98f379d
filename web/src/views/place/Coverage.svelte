<!-- What a place can load for a client, and what one purchase would add. -->
<script lang="ts">
  import type { Places } from './place.svelte';
  import Fewest from './Fewest.svelte';
  import ReachMap from './ReachMap.svelte';

  let { places }: { places: Places } = $props();
  let fewest = $state(false);
</script>

<section class="px-5 py-4 lg:min-h-0 lg:overflow-y-auto" aria-label="Reach map" aria-busy={!!places.busy}>
  <div class="flex flex-wrap items-baseline gap-3">
    <h1 class="text-xl whitespace-nowrap">Reach map</h1>
    {#if places.reach}
      <p class="text-sm text-muted">
        {places.reach.covered} of {places.reach.possible} covered for {places.reach.client}
      </p>
    {/if}
    {#if places.reach}<button
        class="ml-auto rounded-full border border-line bg-panel px-3.5 py-1 text-sm font-semibold whitespace-nowrap"
        onclick={() => (fewest = true)}>Fewest lifts</button
      >{/if}
    <button
      class="rounded-full border border-line bg-panel px-3.5 py-1 text-sm font-semibold whitespace-nowrap"
      onclick={() => void places.shop()}>What to buy?</button
    >
  </div>
  {#if places.busy}<p class="mt-1 text-sm text-muted" role="status">{places.busy}</p>{/if}
  {#if places.purchases}
    <ol class="mt-2 space-y-1 rounded-lg border border-line bg-panel px-4 py-2 text-sm">
      {#each places.purchases.filter((q) => q.gain >= 10).slice(0, 4) as q (q.id)}
        <li>
          <strong>{q.name.charAt(0).toUpperCase() + q.name.slice(1)}</strong>
          {#if q.closes.length}closes {q.closes.length}
            {q.closes.length === 1 ? 'gap' : 'gaps'}: {q.closes
              .slice(0, 3)
              .map((c) => `${c.name} (${c.zone})`)
              .join(', ')}{q.closes.length > 3 ? ' …' : ''}{:else}closes no gap, but lifts the map by {Math.round(
              q.gain,
            )} points{/if}
        </li>
      {:else}
        <li>Nothing on the list would add much here.</li>
      {/each}
    </ol>
  {/if}
  {#if places.reach}
    <div class="mt-2 overflow-x-auto {places.busy ? 'opacity-60' : ''}">
      <ReachMap reach={places.reach} />
    </div>
    <p class="mt-2 text-small text-muted">
      Each muscle over its own length, lengthened end first. Full bar: loaded evenly, heavily enough, and by
      the muscle itself. Hatched: under 50. Dash: no lift takes it there. A first look on a coarse grid; the
      match bench searches finer.
    </p>
  {/if}
</section>

{#if places.reach}
  <Fewest client={places.client} place={places.id} rows={places.reach.rows} bind:open={fewest} />
{/if}
