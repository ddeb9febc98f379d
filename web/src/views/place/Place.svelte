<!-- A place: its kit in plain rows that are edited where they stand, heights to scale, and the reach map for a client. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import Conflict from '../../lib/records/Conflict.svelte';
  import Ask from '../../lib/ui/Ask.svelte';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import Encoding from '../../lib/ui/Encoding.svelte';
  import Note from '../../lib/ui/Note.svelte';
  import { coachUnits } from '../../lib/units/units.svelte';
  import { onDestroy } from 'svelte';
  import { navigate, route } from '../../router';
  import Columns from './Columns.svelte';
  import Coverage from './Coverage.svelte';
  import Crowded from './Crowded.svelte';
  import FloorPlan from './FloorPlan.svelte';
  import KitList from './KitList.svelte';
  import { Places } from './place.svelte';
  import PlaceList from './PlaceList.svelte';

  const places = new Places();
  void places.start(Number((route.params as { place?: string }).place) || 0);
  $effect(() => {
    if (places.id && Number((route.params as { place?: string }).place) !== places.id)
      void navigate('/places/:place', { params: { place: String(places.id) }, replace: true });
  });
  onDestroy(() => places.leave());
  const units = $derived(coachUnits());
  const doc = $derived(places.doc);
  const person = $derived(places.clients.find((c) => c.id === places.client)?.client);
  let files: HTMLInputElement | undefined = $state();
  let into = $state(false);
  let pasting = $state(false);
  let pasted = $state('');
  const trainsHere = $derived(places.clients.filter((c) => c.places.some((q) => q.id === places.id)));
  function room(name: 'length_cm' | 'width_cm' | 'ceiling_cm', text: string) {
    void places.change((d) => ({
      ...d,
      room: { ...d.room, [name]: Math.round(units.asCm(text) * 10) / 10 },
    }));
  }
  const rename = (name: string) => places.change((d) => ({ ...d, name }));
  let asking = $state(false);
  function pickFile(fresh: boolean) {
    into = fresh;
    files?.click();
  }
  const shortcuts: Shortcut[] = [
    { keys: ['u'], shown: 'U', does: 'Undo the last change', run: () => void places.back() },
    { keys: ['r'], shown: 'R', does: 'Do it again', run: () => void places.forward() },
    { keys: ['b'], shown: 'B', does: 'What one purchase would add', run: () => void places.shop() },
    {
      keys: ['Escape'],
      shown: 'Esc',
      does: 'Leave the item, or to the roster',
      run: () => (places.editing >= 0 ? (places.editing = -1) : void navigate('/')),
    },
  ];
</script>

<Shell title={doc?.name ?? 'Places'} {shortcuts}>
  {#snippet crumbs()}<span class="font-semibold text-ink">Places</span>{/snippet}
  {#snippet tools()}
    {#if doc}
      <Pick
        name="for"
        value={String(places.client)}
        items={places.clients.map((c) => ({ value: String(c.id), label: c.client.name }))}
        onpick={(v) => {
          places.client = Number(v);
          void places.map();
        }}
      />
      <button
        class="rounded-full border border-line bg-panel px-3.5 py-1.5 text-sm font-semibold disabled:opacity-40"
        disabled={!places.canUndo}
        onclick={() => void places.back()}>Undo</button
      >
    {/if}
  {/snippet}
  <input
    bind:this={files}
    type="file"
    accept=".csv,.xlsx,.json"
    class="hidden"
    aria-label="Kit file"
    onchange={(e) => {
      const chosen = e.currentTarget.files?.[0];
      if (chosen) void places.file(chosen, into);
      e.currentTarget.value = '';
    }}
  />

  <Dialog
    bind:open={pasting}
    title="Paste rows"
    about="Copied from a spreadsheet or a CSV, heading and all: a row of kind place, then one a kit item. It replaces this place's kit."
  >
    <textarea
      bind:value={pasted}
      class="h-52 w-full rounded-md border border-line bg-paper p-2 font-mono text-small"
      aria-label="Rows"
      placeholder="kind&#9;id&#9;name&#9;length_cm&#9;…"></textarea>
    {#if places.rejected}<div class="mt-2"><Faults problem={places.rejected} /></div>{/if}
    <button
      class="mt-3 rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper disabled:opacity-40"
      disabled={!pasted.trim()}
      onclick={async () => {
        await places.file(new File([pasted], 'pasted.csv'), false);
        if (!places.rejected) pasting = false;
      }}>Take over</button
    >
  </Dialog>

  <Conflict record={places} name={doc?.name ?? 'The place'} />
  <Ask
    bind:open={asking}
    title="Remove {doc?.name ?? 'this place'}?"
    about="It leaves the lists{trainsHere.length
      ? `, and ${trainsHere.map((c) => c.client.name).join(', ')} no longer train${trainsHere.length > 1 ? '' : 's'} there`
      : ''}. Swaps accepted there are kept: put it back, and they are there again."
    does="Remove it"
    ondo={() => void places.drop()}
  />
  {#if places.problem}
    <Fault problem={places.problem} retry={() => void places.start(places.id)} />
  {:else}
    <div
      class="h-full overflow-y-auto lg:grid lg:grid-cols-[180px_minmax(350px,0.9fr)_minmax(440px,1.1fr)] lg:overflow-hidden"
    >
      <PlaceList {places} onfile={() => pickFile(true)} />
      {#if doc}
        <section class="border-line px-5 py-4 lg:min-h-0 lg:overflow-y-auto lg:border-r" aria-label="Kit">
          <input
            class="w-full border-b border-transparent bg-transparent font-head text-2xl font-semibold hover:border-line"
            value={doc.name}
            aria-label="Name of the place"
            onchange={(e) => void rename(e.currentTarget.value)}
          />
          <div class="mt-2 grid grid-cols-3 gap-3">
            <Field
              label="Floor length"
              unit={units.length}
              value={units.lengthText(doc.room.length_cm)}
              onset={(v) => room('length_cm', v)}
            />
            <Field
              label="Floor width"
              unit={units.length}
              value={units.lengthText(doc.room.width_cm)}
              onset={(v) => room('width_cm', v)}
            />
            <Field
              label="Ceiling"
              unit={units.length}
              value={units.lengthText(doc.room.ceiling_cm)}
              onset={(v) => room('ceiling_cm', v)}
            />
          </div>
          {#if places.rejected}<div class="mt-3"><Faults problem={places.rejected} /></div>{/if}
          <div class="mt-3 overflow-x-auto">
            <Columns place={doc} {units} stature={person?.stature_cm ?? 175} client={person?.name ?? ''} />
          </div>

          <KitList {places} {doc} />

          <div class="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2 text-sm">
            <button class="font-semibold underline" onclick={() => pickFile(false)}
              >Read kit from a file</button
            >
            <button class="font-semibold underline" onclick={() => (pasting = true)}>Paste rows</button>
            <span class="text-muted"
              >Save as
              {#each ['csv', 'xlsx', 'json'] as form (form)}
                <a
                  class="ml-1.5 font-semibold text-ink underline"
                  href="/api/places/{places.id}/file?form={form}"
                  download>{form.toUpperCase()}</a
                >
              {/each}</span
            >
            <span
              >Copy place
              <button class="ml-1 font-semibold underline" onclick={() => void places.copy(true)}
                >with its clients</button
              >
              <button class="ml-1 font-semibold underline" onclick={() => void places.copy(false)}
                >alone</button
              ></span
            >
            <button
              class="ml-auto flex items-center gap-1 text-muted hover:text-ink"
              onclick={() => (asking = true)}><Trash size={14} /> Remove place</button
            >
          </div>
          {#if places.unread}
            <Encoding
              onpick={(encoding) =>
                places.unread && void places.file(places.unread.file, places.unread.fresh, encoding)}
            />
          {/if}
          <div class="mt-4">
            <Note
              label="Notes on {doc.name}"
              value={doc.note ?? ''}
              fault={places.faults['note']}
              onset={(note) => void places.change((d) => ({ ...d, note }))}
            />
          </div>
          <FloorPlan {places} {doc} />
          <Crowded {places} {doc} />
          <p class="mt-3 text-small text-muted">
            {trainsHere.length
              ? `Trains here: ${trainsHere.map((c) => c.client.name).join(', ')}.`
              : 'No client trains here yet.'}
          </p>
        </section>

        <Coverage {places} />
      {:else}
        <p class="p-8 text-muted" role="status">
          {places.list.length ? 'Reading …' : 'No places yet: begin one on the left.'}
        </p>
      {/if}
    </div>
  {/if}
</Shell>
