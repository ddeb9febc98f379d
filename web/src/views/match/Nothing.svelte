<!-- Where nothing at a place is like enough to the line: why, and the ways out. -->
<script lang="ts">
  import type { Problem } from '../../lib/api/client';
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench; problem: Problem; go: (place: number) => void };
  let { bench, problem, go }: Props = $props();
  const why = $derived(problem.faults?.[0]?.limit ?? problem.detail ?? '');
  const wayOut = $derived(problem.faults?.[0]?.way_out ?? '');
  const nearest = $derived(wayOut.startsWith('Show what is nearest'));
  const others = $derived(bench.client?.places.filter((q) => q.id !== bench.place) ?? []);
  const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
</script>

<div class="mx-auto mt-16 max-w-xl rounded-lg border-l-4 border-swap bg-panel p-6" role="alert">
  <h2 class="text-xl">
    Nothing at {bench.placeName || 'this place'} stands in for {bench.line?.name ?? 'this line'}
  </h2>
  <p class="mt-2">{sentence(why)}.</p>
  <p class="mt-2 font-semibold">{wayOut}.</p>
  <div class="mt-4 flex flex-wrap gap-2">
    {#if bench.rank.without?.length}
      <button
        class="rounded-md bg-swap px-4 py-1.5 text-sm font-semibold text-on-accent"
        onclick={() => void bench.again({ without: [] })}
        >Put back what is left out ({bench.rank.without.length})</button
      >
    {/if}
    {#if nearest && !bench.rank.unlike}
      <button
        class="rounded-md bg-swap px-4 py-1.5 text-sm font-semibold text-on-accent"
        onclick={() => void bench.again({ unlike: true })}>Show what is nearest</button
      >
    {/if}
    {#each others as other (other.id)}
      <button
        class="rounded-md border border-line px-4 py-1.5 text-sm font-semibold hover:border-muted"
        onclick={() => go(other.id)}>At {other.name}</button
      >
    {/each}
  </div>
</div>
