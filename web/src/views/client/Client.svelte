<!-- A client: size, limits, restrictions, weaker side, what is known, bodyweight. Every change is kept and can be undone. -->
<script lang="ts">
  import Fault from '../../lib/ui/Fault.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import Conflict from '../../lib/records/Conflict.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import Note from '../../lib/ui/Note.svelte';
  import { navigate, p, route } from '../../router';
  import Bodyweight from './Bodyweight.svelte';
  import { Details } from './client.svelte';
  import Learned from './Learned.svelte';
  import Restrictions from './Restrictions.svelte';
  import Size from './Size.svelte';
  import Stature from './Stature.svelte';
  import { unitsOf } from '../../lib/units/units.svelte';

  const details = new Details();
  $effect(() => {
    const id = Number((route.params as { client?: string }).client);
    if (id && id !== details.id) void details.start(id);
  });
  const doc = $derived(details.doc);
  const units = $derived(unitsOf(doc));
  const shortcuts: Shortcut[] = [
    { keys: ['u'], shown: 'U', does: 'Undo the last change', run: () => void details.back() },
    { keys: ['r'], shown: 'R', does: 'Do it again', run: () => void details.forward() },
    {
      keys: ['Escape'],
      shown: 'Esc',
      does: 'To the roster',
      run: () => void navigate('/clients/:client', { params: { client: String(details.id) } }),
    },
  ];
</script>

<Shell title={doc?.name ?? 'Client'} {shortcuts}>
  {#snippet crumbs()}
    {#if doc}<a
        class="hover:text-ink"
        href={p('/clients/:client', { params: { client: String(details.id) } })}>{doc.name}</a
      >
      › <span class="font-semibold text-ink">size and limits</span>{/if}
  {/snippet}
  {#snippet tools()}
    {#if doc}
      <Pick
        name="lengths"
        value={doc.length_unit ?? 'cm'}
        items={['cm', 'in'].map((v) => ({ value: v, label: v }))}
        onpick={(v) => void details.edit({ length_unit: v as 'cm' | 'in' })}
      />
      <Pick
        name="masses"
        value={doc.mass_unit ?? 'kg'}
        items={['kg', 'lb'].map((v) => ({ value: v, label: v }))}
        onpick={(v) => void details.edit({ mass_unit: v as 'kg' | 'lb' })}
      />
      <button
        class="rounded-full border border-line bg-panel px-3.5 py-1.5 text-sm font-semibold disabled:opacity-40"
        disabled={!details.canUndo}
        onclick={() => void details.back()}>Undo</button
      >
    {/if}
  {/snippet}

  <Conflict record={details} name={doc?.name ?? 'The client'} />
  {#if details.problem}
    <Fault problem={details.problem} retry={() => void details.load(details.id)} />
  {:else if !doc || !details.size}
    <p class="p-8 text-muted" role="status">Reading …</p>
  {:else}
    <div
      class="h-full overflow-y-auto lg:grid lg:grid-cols-[300px_minmax(330px,1fr)_minmax(360px,1.1fr)] lg:overflow-hidden"
    >
      <section class="flex flex-col border-line p-4 lg:min-h-0 lg:border-r" aria-label="Figure">
        <h1 class="sr-only">{doc.name}, size and limits</h1>
        <input
          class="w-full border-b border-transparent bg-transparent font-head text-2xl font-semibold hover:border-line"
          value={doc.name}
          aria-label="Name of the client"
          maxlength="80"
          onchange={(e) => void details.edit({ name: e.currentTarget.value })}
        />
        {#if details.faults['name']}<p class="text-small text-swap" role="alert">
            {details.faults['name']}
          </p>{/if}
        {#if details.rejected && !details.rejected.faults?.length}<Faults problem={details.rejected} />{/if}
        <p class="text-sm text-muted">{units.show(doc.stature_cm)} tall, heights above the floor</p>
        <div class="max-lg:h-[420px] lg:min-h-0 lg:flex-1">
          <Stature size={details.size} stature={doc.stature_cm} sex={doc.sex} show={units.show} />
        </div>
      </section>

      <Size {details} {doc} size={details.size} {units} />
      <section class="px-5 py-4 lg:min-h-0 lg:overflow-y-auto" aria-label="Limits">
        <Restrictions {details} {doc} />
        <Bodyweight {details} {doc} trend={details.size.trend} {units} />
        {#each Object.entries(details.faults).filter(([f]) => f.startsWith('weights') || f.startsWith('restrictions')) as [f, words] (f)}
          <p class="mt-1 text-small text-swap" role="alert">{words}</p>
        {/each}

        <div class="mt-5">
          <Note
            label="Notes on {doc.name}"
            rows={3}
            value={doc.note ?? ''}
            fault={details.faults['note']}
            onset={(note) => void details.edit({ note })}
          />
        </div>
        <Learned {details} {doc} />
        <h2 class="mt-6 section-title">Lifts known</h2>
        <div class="mt-2 flex flex-wrap gap-1.5">
          {#each details.movements as m (m.id)}
            {@const on = doc.knows?.includes(m.id)}
            <button
              class="rounded-full border px-2.5 py-0.5 text-small {on
                ? 'border-ink bg-ink text-paper'
                : 'border-line bg-panel text-muted hover:border-muted'}"
              aria-pressed={on}
              onclick={() =>
                void details.edit({
                  knows: on ? doc.knows?.filter((k) => k !== m.id) : [...(doc.knows ?? []), m.id],
                })}>{m.name}</button
            >
          {/each}
        </div>
        <h2 class="mt-6 section-title">Trains at</h2>
        <div class="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-sm">
          {#each details.everywhere as place (place.id)}
            <label class="flex items-center gap-1.5"
              ><input
                type="checkbox"
                checked={details.places.some((q) => q.id === place.id)}
                onchange={(e) => void details.trains(place.id, e.currentTarget.checked)}
              /><a
                class="font-semibold underline"
                href={p('/places/:place', { params: { place: String(place.id) } })}>{place.name}</a
              ></label
            >
          {/each}
        </div>
      </section>
    </div>
  {/if}
</Shell>
