<!-- Clients with what waits for them; looking for one, making one, and those put away. -->
<script lang="ts">
  import type { Client } from '../../lib/api/client';
  import Choose from '../../lib/ui/Choose.svelte';
  import Encoding from '../../lib/ui/Encoding.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import { unitsOf } from '../../lib/units/units.svelte';
  import Attention from './Attention.svelte';
  import { open, type Roster } from './roster.svelte';

  type Props = {
    roster: Roster;
    client: Client | null;
    onpick: (client: number) => void;
    onnew: () => void;
    onaway: () => void;
  };
  let { roster, client, onpick, onnew, onaway }: Props = $props();
  const tallest = $derived(Math.max(...roster.clients.map((c) => c.client.stature_cm), 1));
</script>

<nav class="border-line p-4 lg:min-h-0 lg:overflow-y-auto lg:border-r" aria-label="Clients">
  <Attention changed={roster.clients} />
  {#if roster.clients.length > 3}
    <div class="mb-3 flex gap-2">
      <input
        class="h-8 min-w-0 flex-1 rounded-md border border-line bg-panel px-2 text-sm"
        placeholder="Find a client"
        aria-label="Find a client"
        bind:value={roster.search}
      />
      <select
        class="h-8 rounded-md border border-line bg-panel px-1 text-sm"
        aria-label="Order of the clients"
        bind:value={roster.order}
      >
        <option value="name">by name</option>
        <option value="open">most to find</option>
      </select>
    </div>
  {/if}
  <ul class="flex gap-2 overflow-x-auto lg:block lg:space-y-2 lg:overflow-visible">
    {#each roster.shown as c (c.id)}
      {@const on = c.id === client?.id}
      <li class="shrink-0">
        <button
          class="flex w-full items-end gap-3 rounded-lg border bg-panel p-3 text-left {on
            ? 'border-2 border-ink'
            : 'border-line hover:border-muted'}"
          aria-current={on ? 'true' : undefined}
          onclick={() => onpick(c.id)}
        >
          <svg width="26" height="64" viewBox="0 0 26 64" aria-hidden="true" class="hidden shrink-0 lg:block">
            <g
              transform="translate(13 63) scale({(c.client.stature_cm / tallest) * 0.62})"
              fill="var(--body)"
            >
              <circle cx="0" cy="-92" r="7.5" />
              <path
                d="M-13 -80q13 -6 26 0l3 34q-3 2 -5 0l-3 -22l-1 22l-2 46h-8l-1 -40l-1 40h-8l-2 -46l-1 -22l-3 22q-2 2 -5 0z"
              />
            </g>
          </svg>
          <span class="min-w-0">
            <span class="block font-head text-lg leading-tight font-semibold">{c.client.name}</span>
            <span class="block text-sm text-muted"
              >{unitsOf(c.client).show(c.client.stature_cm)} · {unitsOf(c.client).massText(c.client.mass_kg)}
              {unitsOf(c.client).mass}</span
            >
            <span class="mt-1 block text-sm">
              {#if !c.programs.some((q) => q.lines.length)}No line yet{:else if open(c)}<strong
                  >{open(c)}</strong
                >
                {open(c) === 1 ? 'swap' : 'swaps'} to find{:else}All swaps found{/if}
            </span>
          </span>
        </button>
      </li>
    {:else}
      <li class="text-sm text-muted">No client of this name.</li>
    {/each}
  </ul>
  <div class="mt-4 flex flex-wrap gap-x-4 gap-y-1 text-sm">
    <button class="font-semibold underline" onclick={onnew}>New client</button>
    <Choose
      label="Clients file"
      accept=".csv,.xlsx,.json"
      onfile={async (file) => {
        const first = await roster.bring(file);
        if (first) onpick(first);
      }}>From a file</Choose
    >
    <a class="text-muted underline" href="/api/clients.csv" download>Save all</a>
    {#if roster.away.length || roster.demo}
      <button class="text-muted underline" onclick={onaway}
        >{roster.away.length ? `Put away (${roster.away.length})` : 'Demo data'}</button
      >
    {/if}
  </div>
  {#each roster.damaged as record (record.kind + record.id)}
    <details class="mt-3 rounded-md border border-swap bg-panel px-3 py-2 text-sm" open={false}>
      <summary class="cursor-pointer"
        ><strong>{record.name}</strong> cannot be read{record.kind === 'places' ? ' (a place)' : ''}</summary
      >
      <p class="mt-1">{record.why}. Everything else is as it was; this is what is stored of it:</p>
      <textarea
        readonly
        class="mt-1 h-24 w-full rounded-md border border-line bg-paper p-2 font-mono text-small"
        aria-label="What is stored of {record.name}">{record.text}</textarea
      >
    </details>
  {/each}
  {#if roster.rejected}<div class="mt-3"><Faults problem={roster.rejected} /></div>{/if}
  {#if roster.unread}
    <Encoding
      onpick={async (encoding) => {
        const first = roster.unread ? await roster.bring(roster.unread, encoding) : 0;
        if (first) onpick(first);
      }}
    />
  {/if}
</nav>
