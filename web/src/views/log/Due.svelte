<!-- A lift that was kept long enough: what could come next, ready; or it is kept on. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../../lib/api/client';
  import type { Log } from './log.svelte';

  type Props = { log: Log; line: number; due: Schemas['DueDoc'] };
  let { log, line, due }: Props = $props();
  let next = $state.raw<Schemas['NextLiftsDoc'] | null>(null);
  let looking = $state(false);
  let fault = $state('');

  async function look() {
    looking = true;
    const answer = await ask(
      api.GET('/api/lines/{line}/next', { params: { path: { line }, query: { place: due.place } } }),
    );
    looking = false;
    next = answer.data ?? null;
    fault = answer.problem?.detail ?? '';
  }
</script>

<section
  class="mt-3 rounded-md border-l-4 border-swap bg-panel px-3 py-2 text-sm"
  aria-label="A change is due"
>
  <p class="flex flex-wrap items-baseline gap-x-3">
    <span><strong>{due.title}, {due.place_name}</strong>: {due.words}.</span>
    {#if !next}
      <button
        class="font-semibold underline disabled:opacity-40"
        disabled={looking}
        onclick={() => void look()}>{looking ? 'Looking …' : 'What comes next?'}</button
      >
    {/if}
    <button
      class="font-semibold underline disabled:opacity-40"
      disabled={log.busy}
      onclick={() => void log.keepOn(due)}>Keep it another month</button
    >
  </p>
  {#if next}
    <ul class="mt-1">
      {#each next.lifts as one (one.key)}
        <li
          class="grid grid-cols-1 gap-x-4 border-t border-line py-1.5 sm:grid-cols-[minmax(0,3fr)_124px_minmax(0,4fr)_64px]"
        >
          <span class="min-w-0"
            ><strong>{one.title}</strong><span class="block text-muted">{one.kit}</span></span
          >
          <strong class="text-lg whitespace-nowrap text-swap">{one.load}</strong>
          <span>{one.words}<span class="block text-muted">match {one.match.toFixed(0)} of 100</span></span>
          <button
            class="justify-self-start font-semibold underline disabled:opacity-40"
            disabled={log.busy}
            onclick={() => void log.rotate(line, due.place, one)}>Take it</button
          >
        </li>
      {:else}
        <li class="text-muted">
          Nothing else here loads the muscle as much where this lift does. Keep it, or change the line.
        </li>
      {/each}
    </ul>
    {#if next.passed.length}<p class="text-muted">
        Left out, done here lately: {next.passed.join('; ')}.
      </p>{/if}
  {/if}
  {#if fault}<p role="alert">{fault}</p>{/if}
</section>
