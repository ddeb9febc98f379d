<!-- The parts of a match with their weights, and the argument about the lens. -->
<script lang="ts">
  import type { Swap } from '../../lib/api/client';

  type Props = { swap: Swap; lensFor: string; lensAgainst: string };
  let { swap, lensFor, lensAgainst }: Props = $props();
  const weighed = $derived(swap.parts.filter((q) => q.weight !== null && q.weight !== undefined));
  const factors = $derived(swap.parts.filter((q) => typeof q.factor === 'number'));
</script>

{#snippet bar(name: string, value: number, aside: string)}
  <li class="grid grid-cols-[1fr_120px_52px_76px] items-center gap-3 text-sm">
    <span>{name}</span>
    <span class="h-2 rounded-full bg-soft"
      ><span class="block h-2 rounded-full bg-ink" style:width="{value * 100}%"></span></span
    >
    <span class="text-right font-semibold">{Math.round(value * 100)} %</span>
    <span class="text-right text-muted">{aside}</span>
  </li>
{/snippet}

<ul class="space-y-2.5">
  {#each weighed as part (part.name)}
    {@render bar(part.title, part.value, `weight ${Math.round((part.weight ?? 0) * 100)} %`)}
  {/each}
</ul>
{#if factors.length}
  <p class="mt-4 mb-2 text-sm text-muted">The weighed sum is then multiplied by:</p>
  <ul class="space-y-2.5">
    {#each factors as part (part.name)}
      {@render bar(part.title, part.value, `× ${(part.factor ?? 1).toFixed(2)}`)}
    {/each}
  </ul>
{/if}
<p class="mt-4 text-sm">
  <strong>For this lens:</strong>
  {lensFor}. <strong>Against it:</strong>
  {lensAgainst}.
</p>
