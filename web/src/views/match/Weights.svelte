<!-- What a lens weighs, and the coach's own weights in its place. -->
<script lang="ts">
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench; done: () => void };
  let { bench, done }: Props = $props();
  const lens = $derived(bench.lenses?.lenses.find((l) => l.id === bench.rank.lens));
  const own = $derived(bench.lenses?.coach.weights?.[bench.rank.lens ?? '']);
  let weights = $derived<Record<string, number>>({ ...(own ?? lens?.weights) });
  const total = $derived(Object.values(weights).reduce((a, b) => a + b, 0));
</script>

{#if lens && bench.lenses}
  <p class="mb-3 text-sm">
    <strong>For it:</strong>
    {lens.argument_for}. <strong>Against it:</strong>
    {lens.argument_against}.
  </p>
  <div class="space-y-1.5">
    {#each Object.entries(bench.lenses.parts) as [part, name] (part)}
      {@const value = weights[part] ?? 0}
      <label class="grid grid-cols-[1fr_160px_48px] items-center gap-3 text-sm" class:text-muted={!value}>
        <span>{name}</span>
        <input
          type="range"
          min="0"
          max="1"
          step="0.05"
          {value}
          oninput={(e) => (weights = { ...weights, [part]: Number(e.currentTarget.value) })}
        />
        <span class="text-right font-semibold">{total ? Math.round((100 * value) / total) : 0} %</span>
      </label>
    {/each}
  </div>
  <p class="mt-3 text-sm text-muted">
    Weights sum to 100 %. Whatever they are, the match is multiplied by how much of the work the target
    carries, and falls for another kind of lift and where the load cannot be reached.
  </p>
  <div class="mt-4 flex gap-2">
    <button
      class="rounded-md bg-swap px-4 py-1.5 text-sm font-semibold text-on-accent disabled:opacity-45"
      disabled={!total}
      onclick={() => {
        void bench.weigh(lens.id, Object.fromEntries(Object.entries(weights).filter(([, v]) => v > 0)));
        done();
      }}>Rank by these</button
    >
    <button
      class="rounded-md border border-line px-4 py-1.5 text-sm font-semibold hover:border-muted disabled:opacity-45"
      disabled={!own}
      onclick={() => {
        void bench.weigh(lens.id, {});
        done();
      }}>As the lens has them</button
    >
  </div>
{/if}
