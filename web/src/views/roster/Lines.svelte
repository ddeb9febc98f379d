<!-- A client's lines over their places: what was accepted, and what is still to find. -->
<script lang="ts">
  import Lock from '@lucide/svelte/icons/lock';
  import LockOpen from '@lucide/svelte/icons/lock-open';
  import type { Client } from '../../lib/api/client';
  import Ribbon from '../../lib/draw/Ribbon.svelte';
  import { shapeInLittle } from '../../lib/draw/shape';
  import { p } from '../../router';
  import Compare from './Compare.svelte';
  import { cellName, LOOK, type Fill } from './fill.svelte';

  type Cell = { line: number; place: number };
  type Props = {
    client: Client;
    fill: Fill;
    cell: Cell;
    wanting: boolean;
    again: () => Promise<void>;
    onopen: (cell: Cell) => void;
  };
  let { client, fill, cell, wanting, again, onopen }: Props = $props();
  let compared = $state(-1);
  let comparing = $state(false);

  const lines = $derived(client.programs.flatMap((q) => q.lines));
  const places = $derived(client.places);
  /** Whether a line has a cell that is empty, matches little, or no longer holds. */
  const wants = (line: (typeof lines)[number]) =>
    places.some((place) => {
      const held = line.accepted.find((t) => t.place === place.id);
      return !held || held.swap.match < LOOK || typeof held.match_now === 'number';
    });
  const sessions = $derived(
    lines.reduce<{ id: number; name: string; from: number; count: number }[]>((out, line, i) => {
      const last = out[out.length - 1];
      if (last && last.id === line.session_id) last.count += 1;
      else out.push({ id: line.session_id, name: line.session, from: i, count: 1 });
      return out;
    }, []),
  );
</script>

<table class="mt-4 w-full min-w-[560px] table-fixed border-separate border-spacing-0">
  <thead>
    <tr class="text-left align-bottom">
      <th class="w-[31%] pr-4 pb-2 section-title text-prescribed">Prescribed</th>
      {#each places as place (place.id)}
        <th class="pb-2 pl-2 text-sm font-semibold">
          {place.name}
          <span class="block text-small font-normal text-muted">{place.items} items of kit</span>
        </th>
      {/each}
    </tr>
  </thead>
  <tbody>
    {#each sessions as session (session.id)}
      <tr>
        <th class="border-b border-line pt-3 pb-1 text-left text-sm font-semibold text-muted"
          >{session.name}</th
        >
        {#each places as place (place.id)}
          <td class="border-b border-line pt-3 pb-1 pl-2 text-small">
            <a
              class="text-muted underline hover:text-ink"
              href={p('/sessions/:session/at/:place', {
                params: { session: String(session.id), place: String(place.id) },
              })}
              aria-label="{session.name} on the floor of {place.name}">on the floor</a
            >
          </td>
        {/each}
      </tr>
      {#each lines.slice(session.from, session.from + session.count) as line, k (line.id)}
        {@const row = session.from + k}
        <tr hidden={wanting && !wants(line)}>
          <th scope="row" class="w-[32%] border-b border-line py-2 pr-4 text-left font-normal">
            <span class="block font-semibold">{line.name}</span>
            <span class="block text-sm text-muted">
              {line.target} · {line.scheme} · {line.load}
            </span>
            {#if line.accepted.length > 1}
              <button
                class="text-small text-muted underline hover:text-ink"
                aria-label="Compare the swaps for {line.name}"
                onclick={() => {
                  compared = line.id;
                  comparing = true;
                }}>compare the places</button
              >
            {/if}
          </th>
          {#each places as place, j (place.id)}
            {@const accepted = line.accepted.find((t) => t.place === place.id)}
            {@const look = fill.looks[cellName(line.id, place.id)]}
            {@const on = cell.line === row && cell.place === j}
            <td class="border-b border-line py-1.5 pl-2">
              <div class="relative">
                <button
                  id="cell-{row}-{j}"
                  class="flex min-h-12 w-full items-center gap-2.5 rounded-md border px-3 py-1.5 text-left text-sm {on
                    ? 'border-2 border-ink bg-panel'
                    : accepted
                      ? 'border-line bg-panel hover:border-muted'
                      : 'border-dashed border-line hover:border-muted'}"
                  aria-label="{line.name} at {place.name}: {accepted
                    ? accepted.swap.title +
                      (typeof accepted.match_now === 'number' ? ', no longer holds' : '')
                    : fill.nothing[cellName(line.id, place.id)] !== undefined
                      ? 'nothing here can'
                      : look
                        ? `${look.passing ? 'before the place changed' : 'at first look'} ${look.title}, ${Math.round(look.match)} of 100; find a swap`
                        : 'find a swap'}"
                  data-shortcut-through
                  onclick={() => onopen({ line: row, place: j })}
                >
                  {#if accepted}
                    <span class="w-12 shrink-0 self-start pt-0.5">
                      <span class="block font-head text-lg leading-none font-bold text-swap"
                        >{Math.round(accepted.swap.match)}</span
                      >
                      {#if accepted.swap.shape && accepted.swap.asked}
                        <span class="mt-1 block"
                          ><Ribbon
                            mini
                            prescribed={shapeInLittle(accepted.swap.asked)}
                            swap={shapeInLittle(accepted.swap.shape)}
                            width={48}
                            height={22}
                            label=""
                          /></span
                        >
                      {/if}
                    </span>
                    <span class="min-w-0 pr-4 leading-tight break-words">
                      <span class="block font-medium">{accepted.swap.title}</span>
                      <span class="text-muted">{accepted.swap.load.words}</span>
                      {#if accepted.swap.match < LOOK}<span class="block text-small text-swap"
                          >wants a look</span
                        >{/if}
                      {#if typeof accepted.match_now === 'number'}
                        <span class="block font-semibold"
                          >Now {Math.round(accepted.match_now)}: find it again</span
                        >
                      {/if}
                    </span>
                  {:else if fill.nothing[cellName(line.id, place.id)] !== undefined}
                    <span class="leading-tight"
                      ><span class="block font-medium">Nothing here can</span><span class="text-muted"
                        >see why, and the ways out</span
                      ></span
                    >
                  {:else if look}
                    <span
                      class="w-9 shrink-0 self-start pt-0.5 font-head text-lg leading-none font-semibold text-muted"
                      >{Math.round(look.match)}</span
                    >
                    <span class="min-w-0 leading-tight break-words text-muted">
                      <span class="block">{look.title}</span>
                      <span class="block">{look.load}{look.passing ? ' · looking again' : ''}</span>
                    </span>
                  {:else if look === null}
                    <span class="leading-tight text-muted"
                      ><span class="block">nothing at first look</span>find a swap</span
                    >
                  {:else}
                    <span class="text-muted">find a swap</span>
                  {/if}
                </button>
                {#if accepted}
                  <button
                    class="absolute top-0.5 right-0.5 rounded p-1.5 {accepted.locked
                      ? 'text-ink'
                      : 'text-muted opacity-45 hover:opacity-100 focus-visible:opacity-100'}"
                    aria-pressed={accepted.locked}
                    aria-label="Lock {line.name}, {place.name}: it stays where the board is filled anew"
                    title={accepted.locked ? 'Locked: it stays where the board is filled anew' : 'Lock it'}
                    onclick={async () => (await fill.lock(line, place.id)) && (await again())}
                    >{#if accepted.locked}<Lock size={13} />{:else}<LockOpen size={13} />{/if}</button
                  >
                {/if}
              </div>
            </td>
          {/each}
        </tr>
      {/each}
    {/each}
  </tbody>
</table>

{#each lines.filter((l) => l.id === compared) as line (line.id)}
  <Compare {client} {line} bind:open={comparing} />
{/each}
