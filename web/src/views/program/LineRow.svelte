<!-- One line of a session, changed where it stands; dragged by its handle, or moved by its arrows. -->
<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Copy from '@lucide/svelte/icons/copy';
  import ListOrdered from '@lucide/svelte/icons/list-ordered';
  import Grip from '@lucide/svelte/icons/grip-vertical';
  import NotebookPen from '@lucide/svelte/icons/notebook-pen';
  import Trash from '@lucide/svelte/icons/trash-2';
  import Note from '../../lib/ui/Note.svelte';
  import OneByOne from './OneByOne.svelte';
  import { typed } from '../../lib/ui/typed';
  import type { Desk, KeptLine, KeptSession, Spot } from './program.svelte';

  type Props = {
    desk: Desk;
    session: KeptSession;
    at: number;
    i: number;
    held: KeptLine;
    count: number;
    /** The line that is being dragged. */
    lifted: Spot | null;
  };
  let { desk, session, at, i, held, count, lifted = $bindable() }: Props = $props();

  let rejected = $state('');
  let over = $state(false);
  let noting = $state(false);
  let one_by_one = $state(false);
  const words = $derived(held.id ? desk.words[String(held.id)] : undefined);
  const whole = (text: string) => Math.round(typed(text));
  const fault = (field: string) => desk.faults[`sessions.${at}.lines.${i}.line.${field}`] ?? '';
  const bad = $derived(
    Object.entries(desk.faults)
      .filter(([f]) => f.startsWith(`sessions.${at}.lines.${i}.`))
      .map(([, told]) => told)[0] ?? '',
  );
  const differs = $derived(!!held.line.sets_as?.length || !!held.line.hold_s || !!held.line.amrap);
  /** What else the coach wrote, in a few words. */
  const extras = $derived(
    [
      differs ? (words?.scheme ?? '') : held.line.each_side ? 'each side' : '',
      held.line.tempo?.length ? `tempo ${held.line.tempo.join('-')}` : '',
      held.line.rest_s ? `${held.line.rest_s} s rest` : '',
      ...(held.line.methods ?? []),
    ]
      .filter(Boolean)
      .join(' · '),
  );
  const cell = 'h-8 w-full min-w-0 rounded-md border bg-panel px-2 text-sm';
  const tool = 'rounded p-1 text-muted hover:text-ink disabled:opacity-30';
</script>

<li
  class="border-b py-2 {over ? 'border-t-2 border-t-ink border-b-line' : 'border-line'} {lifted?.session ===
    at && lifted.line === i
    ? 'opacity-50'
    : ''}"
  ondragover={(e) => {
    if (!lifted) return;
    e.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={(e) => {
    e.preventDefault();
    e.stopPropagation();
    over = false;
    if (lifted) void desk.dropLine(lifted, { session: at, line: i });
    lifted = null;
  }}
>
  <div
    class="grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1.5 lg:grid-cols-[minmax(0,1.5fr)_140px_60px_110px_90px_auto]"
  >
    <div class="flex min-w-0 gap-2">
      <span
        class="hidden cursor-grab self-center text-muted lg:block"
        draggable="true"
        role="img"
        aria-label="Drag {held.line.name} to another place; the arrows do the same by key"
        ondragstart={(e) => {
          e.dataTransfer?.setData('text/plain', held.line.name);
          lifted = { session: at, line: i };
        }}
        ondragend={() => (lifted = null)}><Grip size={16} /></span
      >
      <div class="min-w-0 flex-1">
        <input
          class="w-full border-b border-transparent bg-transparent font-semibold hover:border-line"
          value={held.line.name}
          aria-label="Name of line {i + 1} of {session.name}"
          maxlength="80"
          onchange={(e) => void desk.editLine(at, i, { name: e.currentTarget.value })}
        />
        <span class="block truncate text-small text-muted"
          >{[held.line.label, extras, `${words?.title}, for the ${words?.target}, ${words?.load}`]
            .filter(Boolean)
            .join(' · ')}</span
        >
      </div>
    </div>
    <div
      class="col-span-2 row-start-2 grid grid-cols-[1.2fr_0.7fr_1.2fr_0.8fr] gap-2 lg:col-span-4 lg:col-start-2 lg:row-start-1 lg:grid-cols-[140px_60px_110px_90px] lg:gap-3"
    >
      {#if words?.amount}
        <label class="flex items-center gap-1.5 text-small text-muted"
          ><input
            class="{cell} text-ink {rejected ? 'border-swap' : 'border-line'}"
            value={String(words.amount)}
            aria-label="Load of {held.line.name}, {words.unit || 'bands'}"
            aria-invalid={!!rejected}
            onchange={async (e) => {
              rejected = await desk.setLoad(at, i, typed(e.currentTarget.value));
            }}
          />{words.unit || 'bands'}</label
        >
      {:else}<span class="self-center text-small text-muted">bodyweight</span>{/if}
      <label class="flex items-center gap-1.5 text-small text-muted"
        ><input
          class="{cell} text-ink {fault('sets') ? 'border-swap' : 'border-line'}"
          value={String(held.line.sets)}
          aria-label="Sets of {held.line.name}"
          onchange={(e) => void desk.setSets(at, i, whole(e.currentTarget.value))}
        />×</label
      >
      <span class="flex items-center gap-1 text-small text-muted">
        <input
          class="{cell} text-ink {fault('reps_low') ? 'border-swap' : 'border-line'}"
          value={String(held.line.reps_low)}
          aria-label="Fewest repetitions of {held.line.name}"
          onchange={(e) => void desk.editLine(at, i, { reps_low: whole(e.currentTarget.value) })}
        />–<input
          class="{cell} text-ink {fault('reps_high') ? 'border-swap' : 'border-line'}"
          value={String(held.line.reps_high)}
          aria-label="Most repetitions of {held.line.name}"
          onchange={(e) => void desk.editLine(at, i, { reps_high: whole(e.currentTarget.value) })}
        />
      </span>
      <label class="flex items-center gap-1.5 text-small whitespace-nowrap text-muted"
        ><input
          class="{cell} text-ink {fault('rir') ? 'border-swap' : 'border-line'}"
          value={String(held.line.rir)}
          aria-label="Repetitions in reserve of {held.line.name}"
          onchange={(e) => void desk.editLine(at, i, { rir: whole(e.currentTarget.value) })}
        />RIR</label
      >
    </div>
    <div class="col-start-2 row-start-1 flex lg:col-start-6">
      <button
        class={tool}
        disabled={at === 0 && i === 0}
        aria-label="{held.line.name} up"
        onclick={() => void desk.moveLine(at, i, -1)}><ArrowUp size={16} /></button
      >
      <button
        class={tool}
        disabled={at === count - 1 && i === session.lines.length - 1}
        aria-label="{held.line.name} down"
        onclick={() => void desk.moveLine(at, i, 1)}><ArrowDown size={16} /></button
      >
      <button
        class={tool}
        aria-label="One by one: the sets of {held.line.name}"
        aria-expanded={one_by_one}
        onclick={() => (one_by_one = !one_by_one)}><ListOrdered size={16} /></button
      >
      <button
        class={tool}
        aria-label="Note on {held.line.name}"
        aria-expanded={noting}
        onclick={() => (noting = !noting)}><NotebookPen size={16} /></button
      >
      <button class={tool} aria-label="Copy {held.line.name}" onclick={() => void desk.copyLine(at, i)}
        ><Copy size={16} /></button
      >
      <button class={tool} aria-label="Remove {held.line.name}" onclick={() => void desk.removeLine(at, i)}
        ><Trash size={16} /></button
      >
    </div>
  </div>
  {#if rejected || bad}<p class="mt-1 text-small text-swap" role="alert">
      {rejected || bad}
    </p>{/if}
  {#if one_by_one}
    <OneByOne
      line={held.line}
      load={words?.load ?? ''}
      fault={(field) => fault(field)}
      onset={(part) => void desk.editLine(at, i, part)}
      onclose={() => (one_by_one = false)}
    />
  {/if}
  {#if noting || held.line.note}
    <div class="mt-1.5 lg:pl-6">
      <Note
        label="Note"
        rows={1}
        value={held.line.note ?? ''}
        fault={fault('note')}
        onset={(note) => void desk.editLine(at, i, { note })}
      />
    </div>
  {/if}
</li>
