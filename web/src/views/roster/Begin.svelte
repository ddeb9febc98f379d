<!-- From nothing to the first swap, one step after the other: a client, a place, a line. What is there is not asked again. -->
<script lang="ts">
  import { api, ask, type Client, type ClientDoc, type PlaceDoc } from '../../lib/api/client';
  import { typed } from '../../lib/ui/typed';
  import Faults from '../../lib/ui/Faults.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import { known, unitsOf } from '../../lib/units/units.svelte';
  import { navigate } from '../../router';
  import LineForm from '../program/LineForm.svelte';
  import type { Roster } from './roster.svelte';

  type Props = { roster: Roster; client: Client | null; onpick: (client: number) => void };
  let { roster, client, onpick }: Props = $props();

  const step = $derived(!client ? 0 : !client.places.length ? 1 : 2);
  const STEPS = ['Who trains', 'Where they train', 'What you prescribe'];

  let metric = $state(true);
  $effect(() => {
    if (known.coach) metric = known.coach.mass_unit === 'kg';
  });
  const units = $derived(unitsOf(metric ? null : { mass_unit: 'lb', length_unit: 'in' }));
  let who = $state({ name: '', stature: '', mass: '', sex: 'female' });
  let tried = $state(false);
  /** What is missing or no number is told at its field; how tall and heavy people are the server knows. */
  const told = (field: string) => {
    const found = tried && roster.rejected?.faults?.find((f) => f.field === field);
    return found ? `${found.limit}. ${found.way_out}.` : '';
  };
  const missing = (text: string, words: string) => (tried && Number.isNaN(typed(text)) ? words : '');
  const faults = $derived({
    name: tried && !who.name.trim() ? 'A name, so that you find them again.' : told('name'),
    stature: missing(who.stature, `A number, ${units.length}, standing without shoes.`) || told('stature_cm'),
    mass: missing(who.mass, `A number, ${units.mass}.`) || told('mass_kg'),
  });
  async function addClient() {
    tried = true;
    roster.rejected = null;
    if (faults.name || faults.stature || faults.mass) return;
    const doc = {
      name: who.name.trim(),
      stature_cm: units.asCm(who.stature),
      mass_kg: units.asKg(who.mass),
      sex: who.sex,
      mass_unit: units.mass,
      length_unit: units.length,
    } as ClientDoc;
    const made = await roster.addClient(doc);
    if (!made) return;
    tried = false;
    onpick(made);
  }

  let ready: PlaceDoc[] = $state.raw([]);
  let there: { id: number; name: string; items: number }[] = $state.raw([]);
  async function rooms() {
    const [kits, places] = await Promise.all([ask(api.GET('/api/ready-kits')), ask(api.GET('/api/places'))]);
    ready = kits.data ?? [];
    there = places.data ?? [];
  }
  void rooms();
  const about = (kit: PlaceDoc) => {
    const names = kit.kit.map((k) => k.name);
    return names.length > 5
      ? `${names.slice(0, 4).join(', ')} and ${names.length - 4} more`
      : names.join(', ');
  };
  const EMPTY = {
    name: 'New place',
    room: { length_cm: 400, width_cm: 300, ceiling_cm: 250 },
    kit: [],
  } as unknown as PlaceDoc;
  async function anEmptyPlace() {
    if (!client) return;
    await roster.addPlace(client, EMPTY);
    const made = roster.clients.find((c) => c.id === client.id)?.places[0];
    if (made) void navigate('/places/:place', { params: { place: String(made.id) } });
  }
</script>

<div class="mx-auto max-w-[900px] px-5 py-6">
  {#if !client}
    <h1 class="text-3xl">Prescribe once. Train it anywhere.</h1>
    <p class="mt-2 max-w-2xl text-muted">
      Write a lift as you always do; Odd Swap works out what does the same job on the kit that is there: which
      hole, how far off, how heavy.
    </p>
  {:else}
    <h1 class="text-2xl">{client.client.name}</h1>
  {/if}
  <ol class="mt-5 flex flex-wrap gap-x-6 gap-y-1 text-sm" aria-label="Steps">
    {#each STEPS as name, i (name)}
      <li class={i === step ? 'font-semibold' : 'text-muted'} aria-current={i === step ? 'step' : undefined}>
        {i + 1}. {name}{i < step ? ', done' : ''}
      </li>
    {/each}
  </ol>
  {#if roster.rejected && (step || !roster.rejected.faults?.length)}<div class="mt-4">
      <Faults problem={roster.rejected} />
    </div>{/if}

  {#if step === 0}
    <form
      class="mt-5 grid max-w-xl gap-4 rounded-xl border border-line bg-panel p-5 sm:grid-cols-2"
      novalidate
      onsubmit={(e) => {
        e.preventDefault();
        void addClient();
      }}
    >
      <Field live label="Name" value={who.name} fault={faults.name} onset={(v) => (who.name = v)} />
      <label class="block text-sm">
        <span class="block text-small leading-tight text-muted">Sex, for body segments</span>
        <select class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2" bind:value={who.sex}>
          <option value="female">female</option>
          <option value="male">male</option>
        </select>
      </label>
      <Field
        live
        label="Standing height"
        unit={units.length}
        value={who.stature}
        fault={faults.stature}
        onset={(v) => (who.stature = v)}
      />
      <Field
        live
        label="Bodyweight"
        unit={units.mass}
        value={who.mass}
        fault={faults.mass}
        onset={(v) => (who.mass = v)}
      />
      <label class="flex items-center gap-2 text-sm sm:col-span-2"
        ><input
          type="checkbox"
          checked={!metric}
          onchange={(e) => (metric = !e.currentTarget.checked)}
        />inches and pounds</label
      >
      <p class="text-small text-muted sm:col-span-2">
        Limbs are estimated from height until you measure them; what hurts and how far joints go can be noted
        afterwards.
      </p>
      <button class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper sm:col-span-2">Next</button>
    </form>
    <p class="mt-6 text-sm">
      Only looking?
      <button
        class="font-semibold underline"
        disabled={!!roster.busy}
        onclick={() => void roster.withDemo(true)}>{roster.busy || 'Bring made-up demo data'}</button
      >
      <span class="text-muted">It can be removed again.</span>
    </p>
  {:else if step === 1 && client}
    <p class="mt-4 text-sm text-muted">
      Begin with the nearest of these rooms and change its kit to what is really there, or with an empty one.
    </p>
    <ul class="mt-3 grid gap-3 sm:grid-cols-2">
      {#each there as place (place.id)}
        <li>
          <button
            class="h-full w-full rounded-lg border border-line bg-panel p-4 text-left hover:border-ink"
            onclick={() => void roster.trainAt(client, place.id)}
            ><strong>{place.name}</strong><span class="block text-sm text-muted"
              >one of your places, {place.items} items of kit</span
            ></button
          >
        </li>
      {/each}
      {#each ready as kit (kit.name)}
        <li>
          <button
            class="h-full w-full rounded-lg border border-line bg-panel p-4 text-left hover:border-ink"
            onclick={() => void roster.addPlace(client, kit)}
            ><strong>{kit.name}</strong><span class="mt-0.5 block text-sm text-muted">{about(kit)}</span
            ></button
          >
        </li>
      {/each}
      <li>
        <button
          class="h-full w-full rounded-lg border border-dashed border-line p-4 text-left hover:border-ink"
          onclick={() => void anEmptyPlace()}
          ><strong>An empty room</strong><span class="mt-0.5 block text-sm text-muted"
            >put its kit in yourself, by hand, from a file or pasted</span
          ></button
        >
      </li>
    </ul>
  {:else if client}
    <p class="mt-4 text-sm text-muted">
      The first line of {client.client.name}'s program. Its swaps at {client.places
        .map((q) => q.name)
        .join(', ')} are found next.
    </p>
    <div class="mt-3 rounded-xl border border-line bg-panel p-5">
      <LineForm
        client={client.id}
        units={unitsOf(client.client)}
        does="Prescribe it and find its swaps"
        ondone={async (line) => {
          const place = client.places[0];
          const made = await roster.addProgram(client, line);
          if (made.line && place)
            void navigate('/lines/:line/at/:place', {
              params: { line: String(made.line), place: String(place.id) },
            });
        }}
      />
    </div>
  {/if}
</div>
