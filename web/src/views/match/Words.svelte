<!-- Prescription and swap in words: what to set up, what to lift, what is gained and lost. -->
<script lang="ts">
  import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
  import type { Prescribed, Swap } from '../../lib/api/client';
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench; prescribed: Prescribed; swap: Swap };
  let { bench, prescribed, swap }: Props = $props();
  const signs = { gain: '+', loss: '−', same: '=', note: '·' };
</script>

<h2 class="font-sans text-xs font-bold tracking-[0.12em] text-prescribed uppercase">Prescribed</h2>
<h3 class="mt-0.5 text-lg">{prescribed.title}</h3>
<p class="font-semibold">{prescribed.sets} × {prescribed.reps} · RIR {prescribed.rir} · {prescribed.load}</p>
<p class="text-sm text-muted">For the {prescribed.target_name} · {prescribed.kit}</p>

<h2 class="mt-4 font-sans text-xs font-bold tracking-[0.12em] text-swap uppercase">
  Swap{bench.taken?.swap.key === swap.key ? ' · taken' : ''}
</h2>
<h3 class="mt-0.5 text-lg">{swap.title}</h3>
<dl class="mt-1.5 grid grid-cols-[88px_1fr] gap-x-3 gap-y-0.5 text-[14px]">
  {#each swap.rows as row, i (i)}
    <dt class="text-muted">{row.what}</dt>
    <dd class="font-medium">{row.value}</dd>
  {/each}
  <dt class="text-muted">Load</dt>
  <dd>
    <span class="font-bold">{swap.load.words}</span>
    {#if swap.load.likely}
      <span class="text-xs text-muted">equal effort: {swap.load.likely}</span>
    {/if}
  </dd>
  <dt class="text-muted">First time</dt>
  <dd class="font-medium">{swap.load.first_time}</dd>
  <dt class="text-muted">Do</dt>
  <dd class="font-medium">
    {prescribed.sets} ×
    {#if swap.load.reps_sensible}{swap.load.reps}{:else}<span class="text-swap"
        >no sensible reps at this load</span
      >{/if}
    · RIR {prescribed.rir}
  </dd>
</dl>
<ul class="mt-2.5 space-y-1 text-[14px]" aria-label="Reasons">
  {#each swap.reasons as reason (reason.text)}
    <li class="grid grid-cols-[14px_1fr] gap-1.5">
      <span class="font-bold" class:text-swap={reason.kind === 'loss'} aria-hidden="true"
        >{signs[reason.kind]}</span
      >
      <span>{reason.text}</span>
    </li>
  {/each}
</ul>
<ul class="mt-2.5 space-y-1 text-[13px] text-muted" aria-label="Watch and mind">
  {#each swap.cautions as caution (caution)}
    <li class="grid grid-cols-[14px_1fr] gap-1.5 text-ink">
      <TriangleAlert size={13} class="mt-[3px] text-swap" aria-label="Caution" /><span>{caution}</span>
    </li>
  {/each}
  {#each swap.cues as cue (cue)}
    <li class="grid grid-cols-[14px_1fr] gap-1.5"><span aria-hidden="true">›</span><span>{cue}.</span></li>
  {/each}
</ul>
