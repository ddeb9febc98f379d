<!-- Who carries the load, joint by joint, and what limits the set. -->
<script lang="ts">
  import type { Example } from '../../lib/api/client';

  type Props = { example: Example; joints: string[]; ontable: () => void };
  let { example, joints, ontable }: Props = $props();
  const dots = { main: 4, strong: 3, some: 2, little: 1 };
</script>

<div class="grid grid-cols-[minmax(0,1fr)_112px] items-start gap-x-5">
  <div>
    <div class="flex items-baseline gap-4">
      <h2 class="section-title">Who carries the load</h2>
      <button class="text-small font-semibold underline" onclick={() => ontable()}>As a table</button>
    </div>
    {#each joints as joint (joint)}
      {@const own = example.helpers.filter((h) => h.joint === joint)}
      <div class="mt-1 grid grid-cols-[64px_1fr] text-small">
        <span class="text-muted">{joint}</span>
        <span class="flex flex-wrap items-baseline gap-x-3">
          {#each own.filter((h) => h.band !== 'little') as h (h.group)}
            <span class="whitespace-nowrap">
              <span class={h.band === 'main' ? 'font-bold' : ''}>{h.name}</span>
              <span class="text-mark tracking-[0.08em] text-swap" title={h.band}
                >{'●'.repeat(dots[h.band])}</span
              >
            </span>
          {/each}
          <span class="text-mark whitespace-nowrap text-muted">{own[0]?.confidence} confidence</span>
        </span>
      </div>
    {/each}
  </div>
  <p class="text-right text-small">
    <span class="text-muted">limits the set</span><br /><strong>{example.limits_set}</strong><br />
    <span class="text-muted">asked for {Math.round(example.limiting_relative_effort * 100)} %</span>
  </p>
</div>
