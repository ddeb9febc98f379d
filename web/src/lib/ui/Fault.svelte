<!-- A problem in words: what, at which field, and the way out. -->
<script lang="ts">
  import type { Problem } from '../api/client';
  type Props = { problem: Problem; retry?: () => void };
  let { problem, retry }: Props = $props();
</script>

<div class="mx-auto mt-16 max-w-xl rounded-lg border-l-4 border-swap bg-panel p-6" role="alert">
  <h2 class="text-xl">{problem.title}</h2>
  {#if problem.faults?.length}
    <ul class="mt-3 space-y-2">
      {#each problem.faults as fault (fault.field + fault.limit)}
        <li>
          <span class="text-sm text-muted">{fault.field}</span><br />
          {fault.limit}. <strong>{fault.way_out}.</strong>
        </li>
      {/each}
    </ul>
  {:else}
    <p class="mt-2">{problem.detail}</p>
  {/if}
  {#if retry}
    <button
      class="mt-4 rounded-lg border border-line bg-soft px-4 py-2 font-semibold hover:border-muted"
      onclick={retry}
    >
      Try again
    </button>
  {/if}
</div>
