<!-- What was put away: bring it back, or delete it for good once what goes with it is said. -->
<script lang="ts">
  import { api, ask, type PutAway } from '../../lib/api/client';
  import { bringBack, holdsWords } from '../../lib/records/away';
  import Ask from '../../lib/ui/Ask.svelte';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import type { Roster } from './roster.svelte';

  let { roster, open = $bindable() }: { roster: Roster; open: boolean } = $props();
  let deleting: PutAway | null = $state.raw(null);
  let withoutDemo = $state(false);
  const NAMES = { clients: 'client', places: 'place', programs: 'program' };

  async function destroy(record: PutAway) {
    const path = { params: { path: { kind: record.kind, number: record.id } } };
    await ask(api.POST('/api/{kind}/{number}/delete-for-good', path));
    await roster.load();
  }
</script>

<Dialog
  bind:open
  title="Put away"
  about="Off all lists, with everything that hangs on it. Bring it back as it was, or delete it for good."
>
  <ul class="space-y-2">
    {#each roster.away as record (record.kind + record.id)}
      <li class="flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border border-line px-3 py-2 text-sm">
        <span class="min-w-0 flex-1"
          ><strong>{record.name}</strong>, {NAMES[record.kind]}<span class="block text-muted"
            >{holdsWords(record.holds) || 'nothing hangs on it'}</span
          ></span
        >
        <button
          class="font-semibold underline"
          onclick={async () => {
            if (await bringBack(record.kind, record.id)) await roster.load();
          }}>Bring back</button
        >
        <button class="text-muted underline" onclick={() => (deleting = record)}>Delete for good</button>
      </li>
    {:else}
      <li class="text-sm text-muted">Nothing is put away.</li>
    {/each}
  </ul>
  {#if roster.demo}
    <p class="mt-5 border-t border-line pt-3 text-sm">
      The demo's made-up clients and places are here.
      <button class="ml-2 font-semibold underline" onclick={() => (withoutDemo = true)}
        >Remove the demo</button
      >
    </p>
  {/if}
</Dialog>

<Ask
  bind:open={() => !!deleting, (on) => (deleting = on ? deleting : null)}
  title="Delete {deleting?.name ?? ''} for good?"
  about="{holdsWords(deleting?.holds ?? {}) || 'Nothing else'} goes with it. This cannot be undone."
  does="Delete for good"
  ondo={() => deleting && void destroy(deleting)}
/>
<Ask
  bind:open={withoutDemo}
  title="Remove the demo?"
  about="Its three made-up clients, five places and all that was accepted for them are deleted for good. What you made yourself stays."
  does="Remove the demo"
  ondo={async () => {
    open = false;
    await roster.withDemo(false);
  }}
/>
