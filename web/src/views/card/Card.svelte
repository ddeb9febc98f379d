<!-- The client's card on a phone: a session, one lift a screen; what to set is large, what to press lies at the bottom. -->
<script lang="ts">
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import ArrowRight from '@lucide/svelte/icons/arrow-right';
  import { onDestroy, onMount } from 'svelte';
  import { Card } from './card.svelte';
  import Hurts from './Hurts.svelte';
  import LiftPage from './LiftPage.svelte';
  import LogSet from './LogSet.svelte';
  import Overview from './Overview.svelte';
  import Rest from './Rest.svelte';
  import Taken from './Taken.svelte';

  const card = new Card();
  let page: 'all' | 'lift' | 'log' | 'taken' | 'hurts' = $state('lift');
  let fixing = $state('');
  onMount(() => void card.open(location.hash));
  onDestroy(() => card.close());

  const doc = $derived(card.card);
  const lift = $derived(card.lift);
  const told = $derived(
    card.full && card.unsent
      ? 'phone is full: keep this open'
      : card.unsent
        ? `${card.unsent} kept here, not sent`
        : card.offline
          ? 'offline, kept here'
          : card.kept.length
            ? 'all sent'
            : '',
  );
  const big = 'h-14 rounded-xl text-base font-semibold';
  let x = 0;
  function swipe(to: number) {
    if (page !== 'lift' || !doc || Math.abs(to - x) < 80) return;
    card.at = Math.min(doc.lifts.length - 1, Math.max(0, card.at + (to < x ? 1 : -1)));
  }
</script>

<svelte:head>
  <title>{doc ? `${doc.session}, ${doc.place}` : 'Card'} · Odd Swap</title>
  <link rel="manifest" href="/card.webmanifest" />
  <meta name="referrer" content="no-referrer" />
</svelte:head>
<svelte:window
  ononline={() => void card.send()}
  onhashchange={() => void card.open(location.hash)}
  onvisibilitychange={() => void card.send()}
/>

<main
  class="mx-auto flex h-full max-w-[520px] flex-col overflow-hidden"
  ontouchstart={(e) => (x = e.changedTouches[0]?.clientX ?? 0)}
  ontouchend={(e) => swipe(e.changedTouches[0]?.clientX ?? x)}
>
  {#if !doc || !lift}
    <div class="p-6" role="status">
      <h1 class="text-2xl">
        {card.problem ? card.problem.title : card.link ? 'Opening …' : 'No card here yet'}
      </h1>
      <p class="mt-2 text-base text-muted">
        {card.problem?.detail ??
          (card.link
            ? card.offline
              ? 'It has to be opened once with a network; after that it opens without.'
              : ''
            : 'Open the link that your coach sent you.')}
      </p>
      {#if card.offline}<button
          class="mt-4 {big} border border-line bg-panel px-5"
          onclick={() => void card.fetch()}>Try again</button
        >{/if}
    </div>
  {:else}
    <header class="flex items-center gap-2 border-b border-line bg-paper px-4 text-small text-muted">
      <button class="min-h-11 min-w-0 flex-1 truncate text-left" onclick={() => (page = 'all')}
        ><span class="underline">{doc.session}</span> · {doc.place}</button
      >
      <span role="status" class="shrink-0 font-semibold {card.unsent ? 'text-swap' : ''}">{told}</span>
    </header>
    {#if card.problem}<p class="bg-soft px-4 py-2 text-sm" role="alert">
        {card.problem.title}: {card.problem.detail}
      </p>{/if}
    {#each card.refused as one (one.id)}<p class="bg-soft px-4 py-2 text-sm" role="alert">
        Not taken, kept here: {one.refused}
      </p>{/each}
    {#if card.changed.length}
      <p class="bg-soft px-4 py-2 text-sm" role="status">
        <strong>Changed by your coach.</strong>
        {card.changed.join('; ')}.
        <button class="min-h-11 font-semibold underline" onclick={() => (card.changed = [])}>Seen</button>
      </p>
    {/if}
    {#if page === 'all'}
      <Overview
        {card}
        {doc}
        onpick={(at) => {
          card.at = at;
          page = 'lift';
        }}
      />
    {:else if page === 'log'}
      <LogSet
        {card}
        {lift}
        {fixing}
        ondone={() => {
          fixing = '';
          page = 'lift';
        }}
      />
    {:else if page === 'taken'}
      <Taken {card} {lift} ondone={() => (page = 'lift')} />
    {:else if page === 'hurts'}
      <Hurts {card} {lift} ondone={() => (page = 'lift')} />
    {:else}
      <LiftPage
        {card}
        {lift}
        onfix={(id) => {
          fixing = id;
          page = 'log';
        }}
      />
      <footer class="border-t border-line bg-panel px-4 pt-2 pb-4">
        {#if card.rest}
          <Rest {card} onnext={(line) => card.go(line)} />
        {/if}
        <div class="flex items-end justify-between gap-3">
          <p>
            <span class="text-small text-muted">load</span><br /><strong class="font-head text-3xl"
              >{card.way(lift).load}</strong
            >
          </p>
          {#if lift.last}<p class="text-right">
              <span class="text-small text-muted">last time</span><br />{lift.last}
            </p>{/if}
        </div>
        <div class="mt-2 grid grid-cols-[44px_1fr_auto_auto_44px] gap-1.5">
          <button
            class="{big} border border-line"
            aria-label="Lift before"
            disabled={card.at === 0}
            onclick={() => (card.at -= 1)}><ArrowLeft class="mx-auto" size={20} /></button
          >
          <button class="{big} bg-swap text-on-accent" onclick={() => (page = 'log')}
            >Log set {card.sets(lift).length + 1}</button
          >
          <button class="{big} border border-line px-3" onclick={() => (page = 'taken')}>Taken?</button>
          <button class="{big} border border-line px-3" onclick={() => (page = 'hurts')}>Hurts</button>
          <button
            class="{big} border border-line"
            aria-label="Next lift"
            disabled={card.at === doc.lifts.length - 1}
            onclick={() => (card.at += 1)}><ArrowRight class="mx-auto" size={20} /></button
          >
        </div>
      </footer>
    {/if}
  {/if}
</main>
