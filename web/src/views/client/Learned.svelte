<!-- What the log says of loads, lift by lift; each can be forgotten. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { ClientDoc } from '../../lib/api/client';
  import type { Details } from './client.svelte';

  let { details, doc }: { details: Details; doc: ClientDoc } = $props();
</script>

<h2 class="mt-6 section-title">Loads learned from the log</h2>
<p class="text-small text-muted">
  What {doc.name.split(' ')[0]} moves against what is computed. Few sets correct little, many all of it.
</p>
<ul class="mt-2 space-y-1 text-sm">
  {#each doc.learned ?? [] as lift, i (i)}
    {@const off = Math.round((lift.factor - 1) * 100)}
    <li class="flex items-center gap-2 rounded-md border border-line bg-panel px-3 py-1.5">
      <span class="min-w-0 flex-1"
        ><strong>{details.movements.find((m) => m.id === lift.movement)?.name ?? lift.movement}</strong>,
        {lift.kit.replaceAll('+', ' and ')}: {off > 0 ? '+' : off < 0 ? '−' : ''}{Math.abs(off)} % from
        {lift.sets}
        {lift.sets > 1 ? 'sets' : 'set'}</span
      >
      <button
        class="text-muted hover:text-ink"
        aria-label="Forget what was learned of {lift.movement}, {lift.kit}"
        onclick={() => void details.edit({ learned: doc.learned?.filter((_, k) => k !== i) })}
        ><Trash size={15} /></button
      >
    </li>
  {:else}
    <li>Nothing logged yet.</li>
  {/each}
</ul>
