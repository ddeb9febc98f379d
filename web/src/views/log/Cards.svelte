<!-- Cards: what was handed over, whether it was opened, and handing over what was not. -->
<script lang="ts">
  import Dialog from '../../lib/ui/Dialog.svelte';
  import type { CardView, Log } from './log.svelte';

  let { log }: { log: Log } = $props();
  let old = $state(false);
  /** Sessions that have swaps at a place. */
  type Ready = {
    session: number;
    name: string;
    place: number;
    place_name: string;
    lines: number;
    of: number;
  };
  const ready = $derived.by(() => {
    const out: Ready[] = [];
    for (const program of log.record?.programs ?? [])
      for (const line of program.lines)
        for (const place of log.record?.places ?? []) {
          let held = out.find((x) => x.session === line.session_id && x.place === place.id);
          if (!held) {
            held = {
              session: line.session_id,
              name: line.session,
              place: place.id,
              place_name: place.name,
              lines: 0,
              of: 0,
            };
            out.push(held);
          }
          held.of += 1;
          held.lines += line.accepted.some((a) => a.place === place.id) ? 1 : 0;
        }
    return out.filter((x) => x.lines);
  });
  const cardOf = (session: number, place: number): CardView | undefined =>
    log.cards.find((c) => c.session === session && c.place === place && c.holds);
  const standing = (c: CardView) =>
    c.opened_at
      ? c.seen_revision < c.revision
        ? `opened, not yet since it changed (revision ${c.revision})`
        : `opened ${day(c.opened_at as string)}, revision ${c.revision}`
      : 'not opened yet';
  const day = (at: string) => new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short' });
  const pill =
    'rounded-full border border-line bg-panel px-3 py-0.5 font-semibold hover:border-muted disabled:opacity-40';
  let copied = $state(false);
  const link = $derived(log.handed ? location.origin + log.handed.path : '');
</script>

<h2 class="section-title">Cards</h2>
<ul class="mt-1 text-sm">
  {#each ready as one (`${one.session} ${one.place}`)}
    {@const card = cardOf(one.session, one.place)}
    <li class="border-b border-line py-2">
      <p>
        <strong>{one.name}</strong>, {one.place_name}{#if one.lines < one.of}<span class="text-muted"
            >&nbsp;· {one.lines} of {one.of} lines</span
          >{/if}
      </p>
      {#if card}<p class="text-muted">{standing(card)} · until {day(card.expires_at as string)}</p>{/if}
      <p class="mt-1 flex flex-wrap gap-2">
        {#if card}
          <button class={pill} disabled={log.busy} onclick={() => void log.renew(card)}>New link</button>
          <button class={pill} disabled={log.busy} onclick={() => void log.withdraw(card)}>Withdraw</button>
        {:else}
          <button
            class={pill}
            data-tour="hand-over"
            disabled={log.busy}
            onclick={() => void log.handOver(one.session, one.place)}
            >{log.busy ? 'Working it out …' : 'Hand over'}</button
          >
        {/if}
        <a class={pill} href="/api/sessions/{one.session}/card.pdf?place={one.place}&paper=a5" download
          >Print A5</a
        >
        <a class={pill} href="/api/sessions/{one.session}/card.pdf?place={one.place}&paper=a4" download>A4</a>
      </p>
    </li>
  {:else}
    <li class="text-muted">Accept a swap first: a card is made of what you chose.</li>
  {/each}
</ul>
{#if log.cards.some((c) => !c.holds)}
  <button class="mt-1 text-small text-muted underline" aria-expanded={old} onclick={() => (old = !old)}
    >{log.cards.filter((c) => !c.holds).length} that open no more</button
  >
  {#if old}<ul class="text-small text-muted">
      {#each log.cards.filter((c) => !c.holds) as c (c.id)}<li>
          {c.session_name}, {c.place_name}: {c.withdrawn ? 'withdrawn' : 'too old'}, {c.opened_at
            ? `opened ${day(c.opened_at as string)}`
            : 'never opened'}
        </li>{/each}
    </ul>{/if}
{/if}

{#if log.handed}
  <Dialog
    open={true}
    title="{log.handed.card.session_name}, {log.handed.card.place_name}"
    about="The link is shown only now. Who has it sees this card and writes to this client's log, nothing else."
    onclose={() => (log.handed = null)}
  >
    <div class="grid gap-4 sm:grid-cols-[190px_1fr]">
      <img class="w-full rounded-lg bg-white p-2" src={log.handed.qr} alt="QR code of the link" />
      <div class="min-w-0 text-sm">
        <label class="text-muted"
          >Link<input
            class="mt-1 h-9 w-full rounded-md border border-line bg-paper px-2 text-ink"
            readonly
            value={link}
          /></label
        >
        <button
          class="mt-2 rounded-md bg-ink px-4 py-2 font-semibold text-paper"
          onclick={() => void navigator.clipboard.writeText(link).then(() => (copied = true))}
          >{copied ? 'Copied' : 'Copy the link'}</button
        >
        <a class="ml-3 font-semibold underline" href={log.handed.path} target="_blank" rel="noreferrer"
          >Open it here</a
        >
        <p class="mt-3 text-muted">
          It holds until {day(log.handed.card.expires_at as string)}. A new link or withdrawing ends it at
          once; what was logged stays.
        </p>
      </div>
    </div>
  </Dialog>
{/if}
