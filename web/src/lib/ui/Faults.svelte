<!-- Every fault of a file or a form, each at its place; nothing of it was accepted over. -->
<script lang="ts">
  import type { Problem } from '../api/client';
  type Props = { problem: Problem };
  let { problem }: Props = $props();
</script>

<div class="rounded-lg border border-swap bg-panel p-3 text-sm" role="alert">
  <p class="font-semibold">{problem.title}. {problem.detail}</p>
  <ul class="mt-2 max-h-64 space-y-1 overflow-y-auto">
    {#each problem.faults ?? [] as fault, i (i)}
      <li class="grid grid-cols-[170px_1fr] gap-3">
        <span class="font-semibold text-swap">{fault.field}</span>
        <span
          ><span class="text-muted">{fault.value}:</span>
          {fault.limit}. <strong>{fault.way_out}.</strong></span
        >
      </li>
    {/each}
  </ul>
</div>
