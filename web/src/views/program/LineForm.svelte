<!-- One line in a simple form: the movement with its figure and profile at once, then load, sets and repetitions. -->
<script lang="ts">
  import { Combobox } from 'bits-ui';
  import { untrack } from 'svelte';
  import type { LineDoc } from '../../lib/api/client';
  import Figure from '../../lib/draw/Figure.svelte';
  import { bestView, bounds, scaleOf } from '../../lib/draw/frame';
  import Lengths from '../../lib/draw/Lengths.svelte';
  import { typed } from '../../lib/ui/typed';
  import Field from '../../lib/ui/Field.svelte';
  import { matches } from '../library/library.svelte';
  import type { Units } from '../../lib/units/units.svelte';
  import { Form } from './form.svelte';

  type Props = { client: number; units: Units; does: string; ondone: (line: LineDoc) => void };
  let { client, units, does, ondone }: Props = $props();

  const form = new Form();
  $effect(() => {
    const who = client;
    untrack(() => void form.start(who));
  });
  let search = $state('');
  let wide = $state(0);
  let chart = $state(0);
  /** What begins with the words first, then what has them in its name. */
  const rank = (name: string) => {
    const [text, words] = [name.toLowerCase(), search.trim().toLowerCase()];
    return text.startsWith(words) ? 0 : text.includes(words) ? 1 : 2;
  };
  const found = $derived(
    form.movements
      .filter((m) => matches(m, search))
      .sort((a, b) => rank(a.name) - rank(b.name))
      .slice(0, 40),
  );
  const written = $derived(form.movement ? form.written : null);
  const profile = $derived(written?.example.profile ?? null);
  const view = $derived(profile ? bestView(profile) : 'side');
  const height = 210;
  const scale = $derived(profile && wide ? Math.min(scaleOf(bounds(profile, view), wide, height), 150) : 100);
  const curve = $derived(written ? profile?.targets[written.line.target] : undefined);
  const pose = $derived(curve ? Math.max(0, curve.effective_nm.indexOf(Math.max(...curve.effective_nm))) : 0);
  const whole = (text: string) => Math.round(typed(text)) || 0;
  const other = $derived(
    form.problem &&
      !form.problem.faults?.some((f) => FIELDS.some((n) => f.field === n || f.field.endsWith(n)))
      ? (form.problem.faults?.[0]?.limit ?? form.problem.detail)
      : '',
  );
  const FIELDS = ['kit', 'amount', 'target', 'name', 'sets', 'reps_low', 'reps_high', 'rir'];
</script>

<div class="grid gap-5 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
  <div class="space-y-3">
    <div class="text-sm">
      <span class="block text-small text-muted" id="movement-label">Movement</span>
      <Combobox.Root
        type="single"
        items={found.map((m) => ({ value: m.id, label: m.name }))}
        onValueChange={(id) => {
          search = '';
          void form.pick(id);
        }}
        onOpenChange={(open) => {
          if (!open) search = '';
        }}
      >
        <Combobox.Input
          class="mt-0.5 h-9 w-full rounded-md border border-line bg-panel px-2"
          placeholder="type: curl, row, squat, chest …"
          aria-labelledby="movement-label"
          oninput={(e) => (search = e.currentTarget.value)}
        />
        <Combobox.Portal>
          <Combobox.Content
            class="z-[60] max-h-64 w-(--bits-combobox-anchor-width) overflow-y-auto rounded-lg border border-line bg-panel p-1 shadow-lg"
            sideOffset={4}
          >
            {#each found as m (m.id)}
              <Combobox.Item
                value={m.id}
                label={m.name}
                class="cursor-pointer rounded-md px-3 py-1.5 text-sm data-highlighted:bg-soft"
              >
                {m.name}
                <span class="text-muted">· {m.targets[0]?.name}</span>
              </Combobox.Item>
            {:else}
              <span class="block px-3 py-1.5 text-sm text-muted">No movement has these words.</span>
            {/each}
          </Combobox.Content>
        </Combobox.Portal>
      </Combobox.Root>
    </div>
    {#if form.movement && written}
      <label class="block text-sm">
        <span class="block text-small leading-tight text-muted">Way of it</span>
        <select
          class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2"
          value={String(form.fields.variant)}
          onchange={(e) =>
            void form.set({
              variant: Number(e.currentTarget.value),
              kit: '',
              amount: null,
              target: '',
              name: '',
            })}
        >
          {#each form.movement.ways as way, i (i)}<option value={String(i)}>{way}</option>{/each}
        </select>
      </label>
      <div class="grid grid-cols-2 gap-3">
        <label class="block text-sm">
          <span class="block text-small leading-tight text-muted">With</span>
          <select
            class="mt-0.5 h-8 w-full rounded-md border bg-panel px-2 {form.fault('kit')
              ? 'border-swap'
              : 'border-line'}"
            value={form.fields.kit || written.example.kit}
            onchange={(e) => void form.set({ kit: e.currentTarget.value, amount: null })}
          >
            {#each form.kits as k (k.id)}<option value={k.id}>{k.name}</option>{/each}
          </select>
          {#if form.fault('kit')}<span class="mt-0.5 block text-small text-swap" role="alert"
              >{form.fault('kit')}</span
            >{/if}
        </label>
        {#if written.amount && written.unit}
          <Field
            label="Load{written.load.includes('a hand') ? ', each hand' : ''}"
            unit={written.unit}
            value={String(written.amount)}
            fault={form.fault('amount')}
            onset={(v) => void form.set({ amount: typed(v) || null })}
          />
        {:else}
          <p class="self-end pb-1.5 text-sm text-muted">
            {written.amount ? `${written.load}, as it suits` : "the client's own weight"}
          </p>
        {/if}
        <label class="block text-sm">
          <span class="block text-small leading-tight text-muted">For</span>
          <select
            class="mt-0.5 h-8 w-full rounded-md border border-line bg-panel px-2"
            value={written.line.target}
            onchange={(e) => void form.set({ target: e.currentTarget.value })}
          >
            {#each form.movement.targets as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
          </select>
        </label>
        <Field
          label="Sets"
          value={String(form.fields.sets)}
          fault={form.fault('sets')}
          onset={(v) => void form.set({ sets: whole(v) })}
        />
        <Field
          label="Fewest repetitions"
          value={String(form.fields.reps_low)}
          fault={form.fault('reps_low')}
          onset={(v) => void form.set({ reps_low: whole(v) })}
        />
        <Field
          label="Most repetitions"
          value={String(form.fields.reps_high)}
          fault={form.fault('reps_high')}
          onset={(v) => void form.set({ reps_high: whole(v) })}
        />
        <Field
          label="Repetitions in reserve"
          value={String(form.fields.rir)}
          fault={form.fault('rir')}
          onset={(v) => void form.set({ rir: whole(v) })}
        />
        <Field
          label="What you call it"
          hint={written.example.title}
          value={form.fields.name ?? ''}
          fault={form.fault('name')}
          onset={(v) => void form.set({ name: v })}
        />
      </div>
    {/if}
    {#if other}<p class="text-sm text-swap" role="alert">{other}.</p>{/if}
  </div>

  <div class="rounded-lg border border-line bg-paper p-3" bind:clientWidth={chart} aria-busy={form.busy}>
    {#if written && profile}
      <p class="text-sm">
        <strong>{written.line.name}</strong>, {written.line.sets} × {written.line.reps_low}{written.line
          .reps_high > written.line.reps_low
          ? `–${written.line.reps_high}`
          : ''}, {written.load}
      </p>
      <div class="h-[210px]" bind:clientWidth={wide}>
        {#if wide}
          <Figure
            {profile}
            {pose}
            {view}
            colour="var(--prescribed)"
            width={wide}
            {height}
            {scale}
            length={units.show}
            label="{written.example.title}, at its hardest, seen from the {view}"
          />
        {/if}
      </div>
      {#if curve && chart}
        <Lengths
          rows={[
            {
              id: written.line.target,
              name: curve.name,
              lengths: curve.length,
              load: curve.effective_nm,
              target: true,
            },
          ]}
          width={chart - 26}
          {pose}
        />
      {/if}
      <p class="mt-1 text-small text-muted">
        At this load the {written.example.limits_set} is asked for {Math.round(
          written.example.limiting_relative_effort * 100,
        )} % of what a client of this size can give.
      </p>
    {:else}
      <p class="grid h-full min-h-40 place-items-center text-center text-sm text-muted">
        {form.busy ? 'Computing …' : 'Pick a movement: its figure and where it loads the muscle stand here.'}
      </p>
    {/if}
  </div>
</div>
<div class="mt-4 flex justify-end">
  <button
    class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper disabled:opacity-40"
    disabled={!written || form.busy || !!form.problem}
    onclick={() => written && ondone(written.line)}>{does}</button
  >
</div>
