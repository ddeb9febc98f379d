<!-- Accept the shown swap, what is accepted here, and undo. -->
<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import Undo from '@lucide/svelte/icons/undo-2';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Note from '../../lib/ui/Note.svelte';
  import History from './History.svelte';
  import type { Bench } from './match.svelte';

  let { bench }: { bench: Bench } = $props();
  let asking = $state(false);
  let history = $state(false);
  let note = $state('');
</script>

<div
  class="flex min-h-11 shrink-0 items-center gap-3 border-t border-line bg-panel px-5 text-sm max-lg:sticky max-lg:bottom-0 max-lg:z-10 max-lg:flex-wrap max-lg:gap-y-1 max-lg:px-3 max-lg:py-2"
>
  <button
    class="flex shrink-0 items-center gap-2 rounded-md bg-swap px-4 py-1.5 font-semibold whitespace-nowrap text-on-accent hover:opacity-90"
    data-tour="accept"
    onclick={() => void bench.accept()}
  >
    <Check size={16} /> Accept this swap
  </button>
  <kbd class="rounded border border-line px-1.5 font-sans text-small max-lg:hidden">Enter</kbd>
  <button class="font-semibold whitespace-nowrap underline" onclick={() => (asking = true)}
    >with a note</button
  >
  {#if bench.accepted}
    <span class="truncate max-lg:order-last max-lg:w-full max-lg:whitespace-normal">
      Accepted for {bench.placeName}: <strong>{bench.accepted.swap.title}</strong>, {bench.accepted.swap.load
        .words}
    </span>
    <button
      class="flex items-center gap-1.5 rounded-md border border-line px-3 py-1 font-semibold hover:border-muted"
      onclick={() => void bench.undo()}
    >
      <Undo size={14} /> Undo
    </button>
  {:else}
    <span class="text-muted">Nothing accepted for {bench.placeName} yet.</span>
  {/if}
  <span class="ml-auto truncate text-muted max-lg:sr-only" role="status" aria-live="polite">{bench.note}</span
  >
  <button class="shrink-0 font-semibold whitespace-nowrap underline" onclick={() => (history = true)}
    >History</button
  >
  <button
    class="shrink-0 rounded px-2 py-0.5 text-small text-muted hover:bg-soft hover:text-ink max-lg:ml-auto"
    onclick={() => (bench.absolute = !bench.absolute)}
    >heights: <strong>{bench.absolute ? 'N·m' : 'own peak'}</strong></button
  >
</div>

<Dialog
  bind:open={asking}
  title="Accept with a note"
  about="{bench.swap?.title}, {bench.swap?.load
    .words}, at {bench.placeName}. The note stays with this decision."
>
  <Note label="Why" value={note} onset={(v) => (note = v)} />
  <button
    class="mt-4 rounded-md bg-swap px-4 py-2 text-sm font-semibold text-on-accent"
    onclick={async () => {
      asking = false;
      await bench.accept(note);
      note = '';
    }}>Accept this swap</button
  >
</Dialog>
<Dialog
  bind:open={history}
  title="Accepted so far"
  about="Every swap that was accepted for {bench.line?.name ??
    'this line'}: what, where, by whom, when and why."
>
  {#if history && bench.line}<History line={bench.line.id} />{/if}
</Dialog>
