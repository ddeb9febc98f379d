<!-- Stature, mass, segments and joint ranges. -->
<script lang="ts">
  import type { ClientDoc } from '../../lib/api/client';
  import Field from '../../lib/ui/Field.svelte';
  import { p } from '../../router';
  import { typed } from '../../lib/ui/typed';
  import type { Details } from './client.svelte';
  import type { Units } from '../../lib/units/units.svelte';

  let {
    details,
    doc,
    size,
    units,
  }: { details: Details; doc: ClientDoc; size: NonNullable<Details['size']>; units: Units } = $props();

  const segments = ['upper_arm', 'forearm', 'hand', 'thigh', 'shank', 'foot'];
  function segment(name: string, text: string) {
    const measured = { ...doc.measured_cm };
    if (text.trim()) measured[name] = Math.round(units.asCm(text) * 10) / 10;
    else delete measured[name];
    void details.edit({ measured_cm: measured });
  }
  function range(name: string, end: 'low' | 'high', text: string) {
    const norm = details.ranges.find((r) => r.name === name);
    if (!norm) return;
    const own = { ...(doc.ranges_deg?.[name] ?? { low: norm.low, high: norm.high }) };
    own[end] = text.trim() ? typed(text) : norm[end];
    const ranges = { ...doc.ranges_deg, [name]: own };
    if (own.low === norm.low && own.high === norm.high) delete ranges[name];
    void details.edit({ ranges_deg: ranges });
  }
</script>

<section class="border-line px-5 py-4 lg:min-h-0 lg:overflow-y-auto lg:border-r" aria-label="Size">
  <h2 class="section-title">Size</h2>
  <div class="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
    <Field
      label="Stature"
      unit={units.length}
      value={units.lengthText(doc.stature_cm)}
      fault={details.faults['stature_cm']}
      onset={(v) => void details.edit({ stature_cm: units.asCm(v) })}
    />
    <Field
      label="Body mass"
      unit={units.mass}
      value={units.massText(doc.mass_kg)}
      fault={details.faults['mass_kg']}
      onset={(v) => void details.edit({ mass_kg: units.asKg(v) })}
    />
    <Field
      label="Segment table"
      value={doc.sex}
      choices={['female', 'male']}
      onset={(v) => void details.edit({ sex: v as 'female' | 'male' })}
    />
    <Field
      label="Weaker side, which goes first"
      value={doc.weaker_side ?? 'even'}
      choices={['even', 'left', 'right']}
      onset={(v) => void details.edit({ weaker_side: v as 'even' })}
    />
    <Field
      label="Experience"
      value={doc.experience ?? 'trained'}
      choices={['new', 'trained', 'advanced']}
      onset={(v) => void details.edit({ experience: v as 'trained' })}
    />
  </div>
  <h2 class="mt-5 section-title">Segments, joint to joint</h2>
  <p class="text-small text-muted">Empty: from the table, for this stature. Measure what looks unusual.</p>
  <div class="mt-2 grid grid-cols-3 gap-x-4 gap-y-2">
    {#each segments as name (name)}
      <Field
        label={name.replace('_', ' ')}
        unit={units.length}
        value={doc.measured_cm?.[name] ? units.lengthText(doc.measured_cm[name]!) : ''}
        hint={units.lengthText(size.lengths_cm[name] ?? 0)}
        fault={details.faults[`measured.${name}`] ?? details.faults[`measured_cm.${name}`]}
        onset={(v) => segment(name, v)}
      />
    {/each}
  </div>
  <h2 class="mt-5 section-title">Joint ranges, degrees</h2>
  <p class="text-small text-muted">
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
      {#if bad}<span class="col-span-3 text-small text-swap" role="alert">{bad}</span>{/if}
    {/each}
  </div>
</section>
