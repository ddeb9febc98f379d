<!-- A client: size, limits, restrictions, weaker side, what is known, bodyweight. Every change is kept and can be undone. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import Fault from '../../lib/ui/Fault.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import { Details, typed } from './client.svelte';
  import Stature from './Stature.svelte';

  const details = new Details();
  $effect(() => {
    const id = Number((route.params as { client?: string }).client);
    if (id && id !== details.id) void details.load(id);
  });
  const doc = $derived(details.doc);
  const inches = $derived(doc?.length_unit === 'in');
  const pounds = $derived(doc?.mass_unit === 'lb');
  const length = (cm: number) => (inches ? `${(cm / 2.54).toFixed(1)} in` : `${Math.round(cm)} cm`);
  const lengthText = (cm: number) => String(inches ? +(cm / 2.54).toFixed(2) : cm);
  const massText = (kg: number) => String(pounds ? +(kg / 0.45359237).toFixed(1) : kg);
  const asCm = (text: string) => typed(text) * (inches ? 2.54 : 1);
  const asKg = (text: string) => typed(text) * (pounds ? 0.45359237 : 1);
  const segments = ['upper_arm', 'forearm', 'hand', 'thigh', 'shank', 'foot'];
  const JOINTS = ['neck', 'shoulder', 'elbow', 'wrist', 'lower back', 'hip', 'knee', 'ankle'] as const;
  const ACTIONS = [
    'any',
    'overhead',
    'behind the body',
    'wide',
    'bent deep',
    'straightened',
    'turned',
    'gripping',
    'under load',
  ] as const;
  let weighing = $state('');
  let note = $state('');

  function segment(name: string, text: string) {
    const measured = { ...doc?.measured_cm };
    if (text.trim()) measured[name] = Math.round(asCm(text) * 10) / 10;
    else delete measured[name];
    void details.change({ measured_cm: measured });
  }
  function range(name: string, end: 'low' | 'high', text: string) {
    const norm = details.ranges.find((r) => r.name === name);
    if (!norm) return;
    const own = { ...(doc?.ranges_deg?.[name] ?? { low: norm.low, high: norm.high }) };
    own[end] = text.trim() ? typed(text) : norm[end];
    const ranges = { ...doc?.ranges_deg, [name]: own };
    if (own.low === norm.low && own.high === norm.high) delete ranges[name];
    void details.change({ ranges_deg: ranges });
  }
  function weigh() {
    const kg = Math.round(asKg(weighing) * 100) / 100;
    const day = new Date().toISOString().slice(0, 10);
    const others = (doc?.weights ?? []).filter((w) => w.day !== day);
    void details.change({ weights: [...others, { day, mass_kg: kg }], mass_kg: kg });
    weighing = '';
  }
  const weights = $derived([...(doc?.weights ?? [])].sort((a, b) => a.day.localeCompare(b.day)));
  const line = $derived.by(() => {
    const late = weights.slice(-60);
    if (late.length < 2) return '';
    const days = late.map((w) => Date.parse(w.day));
    const masses = late.map((w) => w.mass_kg);
    const [low, high] = [Math.min(...masses) - 0.3, Math.max(...masses) + 0.3];
    const [a, b] = [days[0] ?? 0, days.at(-1) ?? 1];
    return late
      .map(
        (w, i) => `${((days[i]! - a) / (b - a || 1)) * 280},${70 - ((w.mass_kg - low) / (high - low)) * 64}`,
      )
      .join(' ');
  });
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
        onpick={(v) => void details.change({ length_unit: v as 'cm' | 'in' })}
      />
      <Pick
        name="masses"
        value={doc.mass_unit ?? 'kg'}
        items={['kg', 'lb'].map((v) => ({ value: v, label: v }))}
        onpick={(v) => void details.change({ mass_unit: v as 'kg' | 'lb' })}
      />
      <button
        class="rounded-full border border-line bg-panel px-3.5 py-1.5 text-sm font-semibold disabled:opacity-40"
        disabled={!details.undo.past.length}
        onclick={() => void details.back()}>Undo</button
      >
    {/if}
  {/snippet}

  {#if details.problem}
    <Fault problem={details.problem} retry={() => void details.load(details.id)} />
  {:else if !doc || !details.size}
    <p class="p-8 text-muted" role="status">Reading …</p>
  {:else}
    <div class="grid h-full grid-cols-[300px_minmax(330px,1fr)_minmax(360px,1.1fr)]">
      <section class="flex min-h-0 flex-col border-r border-line p-4" aria-label="Figure">
        <h1 class="sr-only">{doc.name}, size and limits</h1>
        <input
          class="w-full border-b border-transparent bg-transparent font-head text-2xl font-semibold hover:border-line"
          value={doc.name}
          aria-label="Name of the client"
          maxlength="80"
          onchange={(e) => void details.change({ name: e.currentTarget.value })}
        />
        {#if details.faults['name']}<p class="text-[13px] text-swap" role="alert">
            {details.faults['name']}
          </p>{/if}
        <p class="text-sm text-muted">{length(doc.stature_cm)} tall, heights above the floor</p>
        <div class="min-h-0 flex-1">
          <Stature size={details.size} stature={doc.stature_cm} sex={doc.sex} show={length} />
        </div>
      </section>

      <section class="min-h-0 overflow-y-auto border-r border-line px-5 py-4" aria-label="Size">
        <h2 class="font-sans text-xs font-bold tracking-[0.1em] uppercase">Size</h2>
        <div class="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          <Field
            label="Stature"
            unit={inches ? 'in' : 'cm'}
            value={lengthText(doc.stature_cm)}
            fault={details.faults['stature_cm']}
            onset={(v) => void details.change({ stature_cm: asCm(v) })}
          />
          <Field
            label="Body mass"
            unit={pounds ? 'lb' : 'kg'}
            value={massText(doc.mass_kg)}
            fault={details.faults['mass_kg']}
            onset={(v) => void details.change({ mass_kg: asKg(v) })}
          />
          <Field
            label="Segment table"
            value={doc.sex}
            choices={['female', 'male']}
            onset={(v) => void details.change({ sex: v as 'female' | 'male' })}
          />
          <Field
            label="Weaker side, which goes first"
            value={doc.weaker_side ?? 'even'}
            choices={['even', 'left', 'right']}
            onset={(v) => void details.change({ weaker_side: v as 'even' })}
          />
          <Field
            label="Experience"
            value={doc.experience ?? 'trained'}
            choices={['new', 'trained', 'advanced']}
            onset={(v) => void details.change({ experience: v as 'trained' })}
          />
        </div>
        <h2 class="mt-5 font-sans text-xs font-bold tracking-[0.1em] uppercase">Segments, joint to joint</h2>
        <p class="text-[13px] text-muted">
          Empty: from the table, for this stature. Measure what looks unusual.
        </p>
        <div class="mt-2 grid grid-cols-3 gap-x-4 gap-y-2">
          {#each segments as name (name)}
            <Field
              label={name.replace('_', ' ')}
              unit={inches ? 'in' : 'cm'}
              value={doc.measured_cm?.[name] ? lengthText(doc.measured_cm[name]!) : ''}
              hint={lengthText(details.size.lengths_cm[name] ?? 0)}
              fault={details.faults[`measured.${name}`] ?? details.faults[`measured_cm.${name}`]}
              onset={(v) => segment(name, v)}
            />
          {/each}
        </div>
        <h2 class="mt-5 font-sans text-xs font-bold tracking-[0.1em] uppercase">Joint ranges, degrees</h2>
        <p class="text-[13px] text-muted">
          Grey: the published norm. Narrow it to what this client has.
          <a class="font-semibold text-ink underline" href={p('/measuring')}>Measure one</a>
        </p>
        <div class="mt-2 grid grid-cols-[1fr_78px_78px] items-center gap-x-2 gap-y-1 text-sm">
          {#each details.ranges as r (r.name)}
            {@const own = doc.ranges_deg?.[r.name]}
            {@const bad = details.faults[`ranges.${r.name}`] ?? details.faults[`ranges_deg.${r.name}`]}
            <span class={own ? 'font-semibold' : ''}>{r.name.replaceAll('_', ' ')}</span>
            {#each ['low', 'high'] as const as end (end)}
              <input
                class="h-7 rounded-md border bg-panel px-2 text-right {bad ? 'border-swap' : 'border-line'}"
                value={own ? String(own[end]) : ''}
                placeholder={String(r[end])}
                aria-label="{r.name.replaceAll('_', ' ')}, {end} end"
                onchange={(e) => range(r.name, end, e.currentTarget.value)}
              />
            {/each}
            {#if bad}<span class="col-span-3 text-[13px] text-swap" role="alert">{bad}</span>{/if}
          {/each}
        </div>
      </section>

      <section class="min-h-0 overflow-y-auto px-5 py-4" aria-label="Limits">
        <h2 class="font-sans text-xs font-bold tracking-[0.1em] uppercase">What hurts</h2>
        <p class="text-[13px] text-muted">
          Odd Swap avoids it and never judges it. Pain that stays, or is new: to a physician or
          physiotherapist.
        </p>
        <ul class="mt-2 space-y-1.5">
          {#each doc.restrictions ?? [] as restriction, i (i)}
            <li class="flex items-center gap-2 rounded-md border border-line bg-panel px-3 py-1.5 text-sm">
              <span class="min-w-0 flex-1"
                ><strong>{restriction.side === 'both' ? 'both' : restriction.side} {restriction.joint}</strong
                >,
                {restriction.action === 'any' ? 'in any position' : restriction.action}{restriction.note
                  ? `: ${restriction.note}`
                  : ''}</span
              >
              <button
                class="text-muted hover:text-ink"
                aria-label="Remove {restriction.joint}"
                onclick={() =>
                  void details.change({ restrictions: doc.restrictions?.filter((_, k) => k !== i) })}
                ><Trash size={15} /></button
              >
            </li>
          {:else}
            <li class="text-sm">Nothing noted.</li>
          {/each}
        </ul>
        <form
          class="mt-2 grid grid-cols-[1fr_1fr_1.2fr] gap-2 text-sm"
          onsubmit={(e) => {
            e.preventDefault();
            const form = new FormData(e.currentTarget);
            const joint = String(form.get('joint')) as (typeof JOINTS)[number];
            const side = String(form.get('side')) as 'left' | 'right' | 'both';
            const action = String(form.get('action')) as (typeof ACTIONS)[number];
            void details.change({
              restrictions: [...(doc?.restrictions ?? []), { joint, side, action, note }],
            });
            note = '';
          }}
        >
          <select name="side" class="h-8 rounded-md border border-line bg-panel px-2" aria-label="Side">
            {#each ['both', 'left', 'right'] as v (v)}<option>{v}</option>{/each}
          </select>
          <select name="joint" class="h-8 rounded-md border border-line bg-panel px-2" aria-label="Joint">
            {#each JOINTS as v (v)}<option>{v}</option>{/each}
          </select>
          <select name="action" class="h-8 rounded-md border border-line bg-panel px-2" aria-label="When">
            {#each ACTIONS as v (v)}<option value={v}>{v === 'any' ? 'any position' : v}</option>{/each}
          </select>
          <input
            bind:value={note}
            class="col-span-2 h-8 rounded-md border border-line bg-panel px-2"
            placeholder="in the client's words"
            aria-label="Note"
            maxlength="200"
          />
          <button class="h-8 rounded-md bg-ink font-semibold text-paper">Add</button>
        </form>

        <h2 class="mt-6 font-sans text-xs font-bold tracking-[0.1em] uppercase">Bodyweight</h2>
        <div class="mt-1 flex items-end gap-4">
          <svg viewBox="0 0 280 74" class="h-[74px] w-[280px]" role="img" aria-label="Bodyweight over time">
            <line x1="0" x2="280" y1="73" y2="73" stroke="var(--line)" />
            {#if line}<polyline points={line} fill="none" stroke="var(--swap)" stroke-width="2" />{/if}
          </svg>
          <p class="text-sm">
            <strong>{massText(doc.mass_kg)} {pounds ? 'lb' : 'kg'}</strong><br />{details.size.trend}
          </p>
        </div>
        <form
          class="mt-2 flex items-center gap-2 text-sm"
          onsubmit={(e) => {
            e.preventDefault();
            weigh();
          }}
        >
          <input
            bind:value={weighing}
            class="h-8 w-28 rounded-md border border-line bg-panel px-2"
            placeholder={pounds ? 'lb today' : 'kg today'}
            aria-label="Bodyweight today"
          />
          <button class="h-8 rounded-md bg-ink px-3 font-semibold text-paper" disabled={!weighing}
            >Weigh in</button
          >
          <span class="text-muted">{weights.length} weighings</span>
        </form>
        {#each Object.entries(details.faults).filter(([f]) => f.startsWith('weights') || f.startsWith('restrictions')) as [f, words] (f)}
          <p class="mt-1 text-[13px] text-swap" role="alert">{words}</p>
        {/each}

        <h2 class="mt-6 font-sans text-xs font-bold tracking-[0.1em] uppercase">
          Loads learned from the log
        </h2>
        <p class="text-[13px] text-muted">
          What {doc.name.split(' ')[0]} moves against what is computed. Few sets correct little, many all of it.
        </p>
        <ul class="mt-2 space-y-1 text-sm">
          {#each doc.learned ?? [] as lift, i (i)}
            {@const off = Math.round((lift.factor - 1) * 100)}
            <li class="flex items-center gap-2 rounded-md border border-line bg-panel px-3 py-1.5">
              <span class="min-w-0 flex-1"
                ><strong
                  >{details.movements.find((m) => m.id === lift.movement)?.name ?? lift.movement}</strong
                >,
                {lift.kit.replaceAll('+', ' and ')}: {off > 0 ? '+' : off < 0 ? '−' : ''}{Math.abs(off)} % from
                {lift.sets}
                {lift.sets > 1 ? 'sets' : 'set'}</span
              >
              <button
                class="text-muted hover:text-ink"
                aria-label="Forget what was learned of {lift.movement}, {lift.kit}"
                onclick={() => void details.change({ learned: doc.learned?.filter((_, k) => k !== i) })}
                ><Trash size={15} /></button
              >
            </li>
          {:else}
            <li>Nothing logged yet.</li>
          {/each}
        </ul>

        <h2 class="mt-6 font-sans text-xs font-bold tracking-[0.1em] uppercase">Lifts known</h2>
        <div class="mt-2 flex flex-wrap gap-1.5">
          {#each details.movements as m (m.id)}
            {@const on = doc.knows?.includes(m.id)}
            <button
              class="rounded-full border px-2.5 py-0.5 text-[13px] {on
                ? 'border-ink bg-ink text-paper'
                : 'border-line bg-panel text-muted hover:border-muted'}"
              aria-pressed={on}
              onclick={() =>
                void details.change({
                  knows: on ? doc.knows?.filter((k) => k !== m.id) : [...(doc.knows ?? []), m.id],
                })}>{m.name}</button
            >
          {/each}
        </div>
        <h2 class="mt-6 font-sans text-xs font-bold tracking-[0.1em] uppercase">Trains at</h2>
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
