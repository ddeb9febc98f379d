<!-- The rack: candidates as stubs along the lower edge; the chosen one stands up. -->
<script lang="ts">
  import Ribbon from '../../lib/draw/Ribbon.svelte';
  import { shapeOf } from '../../lib/draw/shape';
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench };
  let { bench }: Props = $props();
  const prescribed = $derived(bench.match?.prescribed);
  const over = $derived(prescribed?.profile ? shapeOf(prescribed.profile, prescribed.target) : null);
  let row: HTMLElement | undefined = $state();
  $effect(() => {
    row?.children[bench.chosen]?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  });
</script>

<div
  class="flex h-[122px] shrink-0 items-stretch gap-4 border-t border-line bg-soft pl-5 max-lg:order-first max-lg:border-b max-lg:pl-3"
>
  <div class="w-20 shrink-0 self-center">
    <p class="section-title">On this floor</p>
    <p class="mt-1 text-small text-muted">{bench.match?.swaps.length}, in the order to try</p>
  </div>
  <div
    bind:this={row}
    class="flex flex-1 items-end gap-3 overflow-x-auto px-1 pb-2.5"
    role="listbox"
    aria-label="Candidates"
  >
    {#each bench.match?.swaps ?? [] as swap, i (swap.key)}
      {@const on = i === bench.chosen}
      <button
        role="option"
        aria-selected={on}
        data-shortcut-through
        class="flex w-[212px] shrink-0 flex-col rounded-md border bg-panel px-3 py-2 text-left transition-transform {on
          ? 'h-[106px] border-2 border-ink'
          : 'h-[98px] border-line hover:border-muted'}"
        onclick={() => bench.choose(i)}
        onfocus={() => i !== bench.chosen && bench.choose(i)}
      >
        <span class="flex items-center justify-between">
          <span class="font-head text-lg leading-none font-bold">{Math.round(swap.match)}</span>
          {#if over && swap.profile && prescribed}
            <Ribbon
              mini
              prescribed={over}
              swap={shapeOf(swap.profile, prescribed.target)}
              width={96}
              height={30}
              label="Resistance profiles in miniature"
            />
          {/if}
        </span>
        <span class="mt-1 text-small leading-[1.2] font-semibold">{swap.title}</span>
        <span class="mt-auto text-small leading-[1.2] text-muted">
          {swap.kit}{bench.accepted?.swap.key === swap.key ? ' · accepted' : ''}
        </span>
      </button>
    {/each}
  </div>
</div>
