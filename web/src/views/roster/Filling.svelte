<!-- The bar that fills a client's board: the empty cells, or all that is not locked, with its progress and a way back. -->
<script lang="ts">
  import type { Client } from '../../lib/api/client';
  import Ask from '../../lib/ui/Ask.svelte';
  import { cellName, type Fill } from './fill.svelte';

  type Props = { client: Client; fill: Fill; look: boolean; again: () => Promise<void> };
  let { client, fill, look = $bindable(), again }: Props = $props();
  let asking = $state(false);
  const empty = $derived(fill.empty(client).length);
  const anew = $derived(fill.unlocked(client).length);
  const looks = $derived(fill.empty(client).map((c) => fill.looks[cellName(c.line, c.place)]));
  /** Empty cells that nobody looked at yet. */
  const unseen = $derived(looks.filter((look) => look === undefined).length);
</script>

<div class="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
  {#if fill.running}
    <progress class="h-1.5 w-40" max={fill.total} value={fill.done} aria-label="Cells filled"></progress>
    <span role="status">{fill.looking ? 'A first look at each …' : `${fill.done} of ${fill.total} …`}</span>
    <button class="font-semibold underline" onclick={() => fill.stop()}>Stop</button>
  {:else}
    {#if empty}
      <button
        class="rounded-full border border-line bg-panel px-3.5 py-1 font-semibold hover:border-muted"
        onclick={() => void fill.run(client, again)}>Fill the empty: {empty}</button
      >
    {/if}
    {#if fill.looking}
      <span role="status">A first look at each …</span>
    {:else if unseen}
      <button
        class="underline"
        title="What most likely comes into each empty cell, within seconds; nothing is accepted"
        onclick={() => void fill.look(client)}>A first look: {unseen}</button
      >
    {/if}
    {#if anew > empty}
      <button class="underline" onclick={() => (asking = true)}>Find all anew but the locked: {anew}</button>
    {/if}
  {/if}
  {#if looks.some((look) => look)}
    <span class="text-muted">Grey: what most likely comes there, at first look</span>
  {/if}
  {#if fill.told && !fill.running}
    <span role="status">{fill.told}.</span>
    {#if fill.filled.length}<button class="font-semibold underline" onclick={() => void fill.undo(again)}
        >Take it back</button
      >{/if}
  {/if}
</div>
<label class="mt-2 flex w-fit items-center gap-2 text-sm"
  ><input type="checkbox" bind:checked={look} />only lines that want a look</label
>
<Ask
  bind:open={asking}
  title="Find {anew} swaps anew?"
  about="Those of a session are chosen together. What is locked stays; what is replaced stays in its line's history, and can be taken back."
  does="Find them"
  ondo={() => void fill.run(client, again, true)}
/>
