<!-- Both halves in words: what stands above, and the swap with its set-up, its controls and its judgement. -->
<script lang="ts">
  import Ban from '@lucide/svelte/icons/ban';
  import Pin from '@lucide/svelte/icons/pin';
  import Columns from '@lucide/svelte/icons/git-compare-arrows';
  import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
  import type { Prescribed, Swap } from '../../lib/api/client';
  import Hands from './Hands.svelte';
  import Judgement from './Judgement.svelte';
  import type { Bench } from './match.svelte';

  type Tab = 'set-up' | 'hands' | 'judgement';
  type Props = { bench: Bench; prescribed: Prescribed; swap: Swap; tab: Tab };
  let { bench, prescribed, swap, tab = $bindable() }: Props = $props();
  const signs = { gain: '+', loss: '−', same: '=', note: '·' };
  const tabs: { id: Tab; name: string }[] = [
    { id: 'set-up', name: 'Set up' },
    { id: 'hands', name: 'By hand' },
    { id: 'judgement', name: 'Judgement' },
  ];
  const name = $derived(bench.client?.client.name.split(' ')[0] ?? 'this client');
  const movement = $derived(swap.set_up.movement);
  const pinned = $derived(bench.client?.client.pinned?.includes(movement) ?? false);
</script>

{#if bench.reference !== null && bench.above}
  <h2 class="section-title text-prescribed">Compared with</h2>
  <h3 class="mt-0.5 text-lg">{bench.above.title}</h3>
  <p class="font-semibold">{bench.above.reps} reps · {bench.above.load}</p>
  <p class="text-sm text-muted">{bench.above.kit}</p>
  <button class="text-sm font-semibold underline" onclick={() => bench.compare()}
    >Back to the prescription</button
  >
{:else}
  <h2 class="section-title text-prescribed">Prescribed</h2>
  <h3 class="mt-0.5 text-lg">{prescribed.title}</h3>
  <p class="font-semibold">
    {prescribed.sets} × {prescribed.reps} · RIR {prescribed.rir} · {prescribed.load}
  </p>
  <p class="text-sm text-muted">For the {prescribed.target_name} · {prescribed.kit}</p>
{/if}

<div class="mt-4 flex items-center gap-1">
  <h2 class="mr-auto section-title text-swap">
    Swap{bench.hand ? ' · by hand' : bench.accepted?.swap.key === swap.key ? ' · accepted' : ''}
  </h2>
  <button
    class="rounded p-1 text-muted hover:text-ink"
    class:text-swap={pinned}
    onclick={() => void bench.mark('pinned', movement)}
    aria-pressed={pinned}
    aria-label={pinned ? `No longer first for ${name}` : `Always first for ${name}`}
    title={pinned ? `No longer first for ${name}` : `Always first for ${name}`}><Pin size={15} /></button
  >
  <button
    class="rounded p-1 text-muted hover:text-ink"
    onclick={() => void bench.mark('banned', movement)}
    aria-label="Never for {name}"
    title="Never for {name}"><Ban size={15} /></button
  >
  <button
    class="rounded p-1 text-muted hover:text-ink"
    onclick={() => bench.compare()}
    aria-label="Compare the others with this"
    title="Compare the others with this (C)"><Columns size={15} /></button
  >
</div>
<h3 class="mt-0.5 text-lg">{swap.title}</h3>
<div class="mt-1.5 mb-2 flex gap-1 border-b border-line" role="tablist" aria-label="About the swap">
  {#each tabs as one (one.id)}
    <button
      role="tab"
      aria-selected={tab === one.id}
      class="-mb-px border-b-2 px-2.5 py-1 text-sm font-semibold {tab === one.id
        ? 'border-swap text-ink'
        : 'border-transparent text-muted hover:text-ink'}"
      onclick={() => (tab = one.id)}>{one.name}</button
    >
  {/each}
</div>

{#if tab === 'hands'}
  <Hands {bench} {swap} />
{:else if tab === 'judgement'}
  <Judgement {bench} {swap} />
{:else}
  <dl class="grid grid-cols-[88px_1fr] gap-x-3 gap-y-0.5 text-sm">
    {#each swap.rows as row, i (i)}
      <dt class="text-muted">{row.what}</dt>
      <dd class="font-medium">{row.value}</dd>
    {/each}
    {#if bench.detail?.choices.length}
      {@const first = bench.detail.choices[0]}
      {#if first}
        <dt class="text-muted">Mind most</dt>
        <dd class="font-medium">{first.name}: {first.words}</dd>
      {/if}
    {/if}
    <dt class="text-muted">Load</dt>
    <dd>
      <span class="font-bold">{swap.load.words}</span>
      {#if swap.load.likely}
        <span class="text-small text-muted">equal effort: {swap.load.likely}</span>
      {/if}
    </dd>
    {#if swap.load.learned}
      <dt class="text-muted">Log</dt>
      <dd class="font-medium">{swap.load.learned}</dd>
    {:else}
      <dt class="text-muted">First time</dt>
      <dd class="font-medium">{swap.load.first_time}</dd>
    {/if}
    <dt class="text-muted">Do</dt>
    <dd class="font-medium">
      {prescribed.sets} ×
      {#if swap.load.reps_sensible}{swap.load.reps}{:else}<span class="text-swap"
          >no sensible reps at this load</span
        >{/if}
      · RIR {prescribed.rir}
    </dd>
  </dl>
  <ul class="mt-2.5 space-y-1 text-sm" aria-label="Reasons">
    {#each swap.reasons as reason (reason.text)}
      <li class="grid grid-cols-[14px_1fr] gap-1.5">
        <span class="font-bold" class:text-swap={reason.kind === 'loss'} aria-hidden="true"
          >{signs[reason.kind]}</span
        >
        <span>{reason.text}</span>
      </li>
    {/each}
  </ul>
  <ul class="mt-2.5 space-y-1 text-small text-muted" aria-label="Watch and mind">
    {#each swap.cautions as caution (caution)}
      <li class="grid grid-cols-[14px_1fr] gap-1.5 text-ink">
        <TriangleAlert size={13} class="mt-[3px] text-swap" aria-label="Caution" /><span>{caution}</span>
      </li>
    {/each}
    {#each swap.cues as cue (cue)}
      <li class="grid grid-cols-[14px_1fr] gap-1.5"><span aria-hidden="true">›</span><span>{cue}.</span></li>
    {/each}
  </ul>
{/if}
