<!-- A place: its kit in plain rows that are edited where they stand, heights to scale, and the reach map for a client. -->
<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { PlaceDoc } from '../../lib/api/client';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import Columns from './Columns.svelte';
  import { Places } from './place.svelte';
  import ReachMap from './ReachMap.svelte';

  const places = new Places();
  void places.start(Number((route.params as { place?: string }).place) || 0);
  $effect(() => {
    if (places.id && Number((route.params as { place?: string }).place) !== places.id)
      void navigate('/places/:place', { params: { place: String(places.id) }, replace: true });
  });
  const doc = $derived(places.doc);
  const person = $derived(places.clients.find((c) => c.id === places.client)?.client);
  const EMPTY: PlaceDoc = {
    format: 'odd-swap/place/2',
    name: 'New place',
    room: { length_cm: 400, width_cm: 300, ceiling_cm: 250 },
    kit: [],
    busy: [],
  };
  let fresh = $state('');
  let files: HTMLInputElement | undefined = $state();
  let into = $state(false);
  let pasting = $state(false);
  let pasted = $state('');
  /** What of an item's cells says most, in a line. */
  const summary = (cells: Record<string, string>) =>
    Object.entries(cells)
      .filter(([k]) => !['id', 'name', 'kind'].includes(k))
      .map(
        ([k, v]) =>
          `${k.replace(/_(cm|kg|deg)$/, '').replaceAll('_', ' ')} ${v.replaceAll('_', ' ')}${unit(k)}`,
      )
      .join(' · ');
  const unit = (name: string) =>
    name.endsWith('_cm') ? ' cm' : name.endsWith('_kg') ? ' kg' : name.endsWith('_deg') ? '°' : '';
  const trainsHere = $derived(places.clients.filter((c) => c.places.some((q) => q.id === places.id)));
  function room(name: 'length_cm' | 'width_cm' | 'ceiling_cm', text: string) {
    if (doc) void places.change({ ...doc, room: { ...doc.room, [name]: Number(text.replace(',', '.')) } });
  }
  function begin(kind: string) {
    if (kind === 'file') {
      into = true;
      files?.click();
    } else void places.add(kind === 'empty' ? EMPTY : places.ready[Number(kind)]!);
    fresh = '';
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

{#snippet form(i: number)}
  {#if places.kind}
    <form
      class="mb-2 rounded-lg border border-line bg-panel p-3"
      aria-label="Item"
      onsubmit={(e) => {
        e.preventDefault();
        void places.save();
      }}
    >
      <p class="mb-2 text-[13px] text-muted">{places.kind.about}</p>
      <div class="grid grid-cols-2 gap-x-4 gap-y-2">
        {#each places.kind.fields.filter((f) => f.name !== 'id') as f (f.name)}
          <Field
            label={f.label + (f.needed ? ' *' : '') + (f.list ? ', spaces between' : '')}
            value={places.draft[f.name] ?? ''}
            choices={f.choices}
            hint={f.usual}
            fault={places.faults[f.name] ?? ''}
            onset={(v) => (places.draft = { ...places.draft, [f.name]: v })}
          />
        {/each}
      </div>
      {#each Object.entries(places.faults).filter(([f]) => !places.kind?.fields.some((k) => k.name === f && f !== 'id')) as [f, words] (f)}
        <p class="mt-2 text-[13px] text-swap" role="alert">{f}: {words}</p>
      {/each}
      <div class="mt-3 flex items-center gap-3">
        <button
          class="flex items-center gap-1.5 rounded-md bg-ink px-3.5 py-1.5 text-sm font-semibold text-paper"
          ><Plus size={15} /> {i < (doc?.kit.length ?? 0) ? 'Keep' : 'Add to the kit'}</button
        >
        <button type="button" class="text-sm text-muted" onclick={() => (places.editing = -1)}>Leave</button>
        {#if i < (doc?.kit.length ?? 0)}
          {#if ['band', 'cable_column', 'machine'].includes(places.kind.kind)}
            <a
              class="text-sm font-semibold underline"
              href={p('/measuring/:place/:item', {
                params: { place: String(places.id), item: places.draft['id'] ?? '' },
              })}>Measure it</a
            >
          {/if}
          <button
            type="button"
            class="ml-auto flex items-center gap-1 text-sm text-muted hover:text-ink"
            onclick={() => places.remove(i)}><Trash size={14} /> Remove</button
          >
        {/if}
      </div>
    </form>
  {/if}
{/snippet}

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
        disabled={!places.undo.past.length}
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
      class="h-52 w-full rounded-md border border-line bg-paper p-2 font-mono text-[12px]"
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

  {#if places.problem}
    <Fault problem={places.problem} retry={() => void places.start(places.id)} />
  {:else}
    <div class="grid h-full grid-cols-[190px_minmax(380px,0.9fr)_minmax(520px,1.1fr)]">
      <nav class="flex min-h-0 flex-col overflow-y-auto border-r border-line p-3" aria-label="Places">
        <ul class="space-y-1">
          {#each places.list as place (place.id)}
            <li>
              <button
                class="w-full rounded-md px-2.5 py-1.5 text-left text-sm {place.id === places.id
                  ? 'bg-ink font-semibold text-paper'
                  : 'hover:bg-soft'}"
                aria-current={place.id === places.id}
                data-shortcut-through
                onclick={() => void places.open(place.id)}
                >{place.name}<span class="block text-xs opacity-75">{place.items} items</span></button
              >
            </li>
          {/each}
        </ul>
        <label class="mt-4 text-[13px] text-muted"
          >New place from
          <select
            class="mt-1 h-8 w-full rounded-md border border-line bg-panel px-2 text-sm text-ink"
            bind:value={fresh}
            onchange={() => begin(fresh)}
          >
            <option value="" disabled>pick …</option>
            <option value="empty">nothing</option>
            {#each places.ready as kit, i (kit.name)}<option value={String(i)}
                >{kit.name.toLowerCase()}</option
              >{/each}
            <option value="file">a file …</option>
          </select>
        </label>
        {#if places.removed}
          <button
            class="mt-3 rounded-md border border-line bg-panel px-2 py-1.5 text-left text-sm"
            onclick={() => {
              const held = places.removed;
              places.removed = null;
              if (held) void places.add(held);
            }}>Put back {places.removed.name}</button
          >
        {/if}
      </nav>

      {#if doc}
        <section class="min-h-0 overflow-y-auto border-r border-line px-5 py-4" aria-label="Kit">
          <input
            class="w-full border-b border-transparent bg-transparent font-head text-2xl font-semibold hover:border-line"
            value={doc.name}
            aria-label="Name of the place"
            onchange={(e) => void places.change({ ...doc, name: e.currentTarget.value })}
          />
          <div class="mt-2 grid grid-cols-3 gap-3">
            <Field
              label="Floor length"
              unit="cm"
              value={String(doc.room.length_cm)}
              onset={(v) => room('length_cm', v)}
            />
            <Field
              label="Floor width"
              unit="cm"
              value={String(doc.room.width_cm)}
              onset={(v) => room('width_cm', v)}
            />
            <Field
              label="Ceiling"
              unit="cm"
              value={String(doc.room.ceiling_cm)}
              onset={(v) => room('ceiling_cm', v)}
            />
          </div>
          {#if places.rejected}<div class="mt-3"><Faults problem={places.rejected} /></div>{/if}
          <div class="mt-3 overflow-x-auto">
            <Columns place={doc} stature={person?.stature_cm ?? 175} client={person?.name ?? ''} />
          </div>

          <div class="mt-3 flex items-center gap-3">
            <h2 class="font-sans text-xs font-bold tracking-[0.1em] uppercase">
              Kit, {doc.kit.length} items
            </h2>
            <select
              class="ml-auto h-8 rounded-md border border-line bg-panel px-2 text-sm"
              aria-label="Add to the kit"
              value=""
              onchange={(e) => {
                places.edit(doc.kit.length, e.currentTarget.value);
                e.currentTarget.value = '';
              }}
            >
              <option value="" disabled>+ add …</option>
              {#each places.kinds as kind (kind.kind)}<option value={kind.kind}>{kind.name}</option>{/each}
            </select>
          </div>
          <ul class="mt-1">
            {#each places.cells as cells, i (cells['id'])}
              <li class="border-b border-line">
                <button
                  class="w-full py-1.5 text-left {places.editing === i ? 'font-semibold' : ''}"
                  aria-expanded={places.editing === i}
                  onclick={() => (places.editing === i ? (places.editing = -1) : places.edit(i))}
                >
                  <span class="flex items-baseline gap-2 text-sm"
                    ><strong class="font-semibold">{cells['name']}</strong>
                    <span class="text-[13px] text-muted">{cells['kind']?.replaceAll('_', ' ')}</span></span
                  >
                  <span class="block truncate text-[13px] text-muted">{summary(cells)}</span>
                </button>
                {#if places.editing === i}{@render form(i)}{/if}
              </li>
            {/each}
          </ul>
          {#if places.editing === doc.kit.length}{@render form(doc.kit.length)}{/if}
          {#if !doc.kit.length && places.editing < 0}
            <p class="mt-2 text-sm text-muted">Nothing here yet: add the first item, or read a file.</p>
          {/if}

          <div class="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2 text-sm">
            <button
              class="font-semibold underline"
              onclick={() => {
                into = false;
                files?.click();
              }}>Read kit from a file</button
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
            <button
              class="font-semibold underline"
              onclick={() => void places.add({ ...doc, name: `${doc.name} 2` })}>Copy place</button
            >
            <button
              class="ml-auto flex items-center gap-1 text-muted hover:text-ink"
              onclick={() => void places.drop()}><Trash size={14} /> Remove place</button
            >
          </div>
          <h2 class="mt-5 font-sans text-xs font-bold tracking-[0.1em] uppercase">Crowded</h2>
          <ul class="mt-1 text-sm">
            {#each doc.busy as b, i (i)}
              <li class="flex items-center gap-2">
                <span class="min-w-0 flex-1"
                  ><strong class="font-semibold">{doc.kit.find((k) => k.id === b.item)?.name}</strong>, {b
                    .days?.length
                    ? b.days.join(' ')
                    : 'every day'}, {b.start} to {b.end}</span
                >
                <button
                  class="text-muted hover:text-ink"
                  aria-label="Remove crowded hours {i + 1}"
                  onclick={() => void places.change({ ...doc, busy: doc.busy.filter((_, k) => k !== i) })}
                  ><Trash size={14} /></button
                >
              </li>
            {/each}
          </ul>
          <form
            class="mt-1 grid grid-cols-[1.4fr_1.2fr_70px_70px_auto] gap-2 text-sm"
            onsubmit={(e) => {
              e.preventDefault();
              const f = Object.fromEntries(new FormData(e.currentTarget)) as Record<string, string>;
              const days = (f['days'] ?? '')
                .toLowerCase()
                .split(/[\s,]+/)
                .filter((d) => d && d !== 'daily') as 'mon'[];
              const row = { item: f['item'] ?? '', days, start: f['start'] ?? '', end: f['end'] ?? '' };
              void places.change({ ...doc, busy: [...doc.busy, row] });
            }}
          >
            <select
              name="item"
              class="h-8 min-w-0 rounded-md border border-line bg-panel px-2"
              aria-label="Crowded item"
            >
              {#each doc.kit as k (k.id)}<option value={k.id}>{k.name}</option>{/each}
            </select>
            <input
              name="days"
              class="h-8 min-w-0 rounded-md border border-line bg-panel px-2"
              placeholder="mon tue"
              aria-label="Days"
            />
            <input
              name="start"
              class="h-8 rounded-md border border-line bg-panel px-2"
              placeholder="17:00"
              aria-label="From"
            />
            <input
              name="end"
              class="h-8 rounded-md border border-line bg-panel px-2"
              placeholder="19:30"
              aria-label="Until"
            />
            <button class="h-8 rounded-md bg-ink px-3 font-semibold text-paper">Add</button>
          </form>
          <p class="mt-3 text-[13px] text-muted">
            {trainsHere.length
              ? `Trains here: ${trainsHere.map((c) => c.client.name).join(', ')}.`
              : 'No client trains here yet.'}
          </p>
        </section>

        <section class="min-h-0 overflow-y-auto px-5 py-4" aria-label="Reach map" aria-busy={!!places.busy}>
          <div class="flex items-baseline gap-3">
            <h1 class="text-xl whitespace-nowrap">Reach map</h1>
            {#if places.reach}
              <p class="text-sm text-muted">
                {places.reach.covered} of {places.reach.possible} covered for {places.reach.client}
              </p>
            {/if}
            <button
              class="ml-auto rounded-full border border-line bg-panel px-3.5 py-1 text-sm font-semibold whitespace-nowrap"
              onclick={() => void places.shop()}>What to buy?</button
            >
          </div>
          {#if places.busy}<p class="mt-1 text-sm text-muted" role="status">{places.busy}</p>{/if}
          {#if places.purchases}
            <ol class="mt-2 space-y-1 rounded-lg border border-line bg-panel px-4 py-2 text-sm">
              {#each places.purchases.filter((q) => q.gain >= 10).slice(0, 4) as q (q.id)}
                <li>
                  <strong>{q.name.charAt(0).toUpperCase() + q.name.slice(1)}</strong>
                  {#if q.closes.length}closes {q.closes.length}
                    {q.closes.length === 1 ? 'gap' : 'gaps'}: {q.closes
                      .slice(0, 3)
                      .map((c) => `${c.name} (${c.zone})`)
                      .join(', ')}{q.closes.length > 3 ? ' …' : ''}{:else}closes no gap, but lifts the map by {Math.round(
                      q.gain,
                    )} points{/if}
                </li>
              {:else}
                <li>Nothing on the list would add much here.</li>
              {/each}
            </ol>
          {/if}
          {#if places.reach}
            <div class="mt-2 {places.busy ? 'opacity-60' : ''}"><ReachMap reach={places.reach} /></div>
            <p class="mt-2 text-[12px] text-muted">
              Each muscle over its own length, lengthened end first. Full bar: loaded evenly, heavily enough,
              and by the muscle itself. Hatched: under 50. Dash: no lift takes it there. A first look on a
              coarse grid; the match bench searches finer.
            </p>
          {/if}
        </section>
      {:else}
        <p class="p-8 text-muted" role="status">
          {places.list.length ? 'Reading …' : 'No places yet: begin one on the left.'}
        </p>
      {/if}
    </div>
  {/if}
</Shell>
