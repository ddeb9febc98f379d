<!-- One session: its lines are changed, moved, copied and removed where they stand. -->
<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Copy from '@lucide/svelte/icons/copy';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { typed } from '../../lib/ui/typed';
  import type { Desk, KeptSession } from './program.svelte';

  type Props = { desk: Desk; session: KeptSession; at: number; count: number; onwrite: () => void };
  let { desk, session, at, count, onwrite }: Props = $props();

  let loads: Record<number, string> = $state({});
  const whole = (text: string) => Math.round(typed(text));
  const fault = (i: number, field: string) => desk.faults[`sessions.${at}.lines.${i}.line.${field}`] ?? '';
  const bad = (i: number) =>
    Object.entries(desk.faults)
      .filter(([f]) => f.startsWith(`sessions.${at}.lines.${i}.`))
      .map(([, words]) => words)[0] ?? '';
  const cell = 'h-8 w-full min-w-0 rounded-md border bg-panel px-2 text-sm';
  const tool = 'rounded p-1 text-muted hover:text-ink disabled:opacity-30';
</script>

<section class="mt-6" aria-label="Session {session.name}">
  <div class="flex items-center gap-2 border-b border-line pb-1">
    <input
      class="min-w-0 flex-1 border-b border-transparent bg-transparent font-head text-lg font-semibold hover:border-line"
      value={session.name}
      aria-label="Name of session {at + 1}"
      maxlength="80"
      onchange={(e) => void desk.renameSession(at, e.currentTarget.value)}
    />
    <button
      class={tool}
      disabled={at === 0}
      aria-label="Session {session.name} earlier"
      onclick={() => void desk.moveSession(at, -1)}><ArrowUp size={16} /></button
    >
    <button
      class={tool}
      disabled={at === count - 1}
      aria-label="Session {session.name} later"
      onclick={() => void desk.moveSession(at, 1)}><ArrowDown size={16} /></button
    >
    <button
      class={tool}
      aria-label="Remove session {session.name}"
      onclick={() => void desk.removeSession(at)}><Trash size={16} /></button
    >
  </div>
  <ol>
    {#each session.lines as held, i (held.id ?? `new-${i}`)}
      {@const words = held.id ? desk.words[String(held.id)] : undefined}
      <li class="border-b border-line py-2">
        <div
          class="grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1.5 lg:grid-cols-[minmax(0,1.5fr)_140px_60px_110px_90px_auto]"
        >
          <div class="min-w-0">
            <input
              class="w-full border-b border-transparent bg-transparent font-semibold hover:border-line"
              value={held.line.name}
              aria-label="Name of line {i + 1} of {session.name}"
              maxlength="80"
              onchange={(e) => void desk.editLine(at, i, { name: e.currentTarget.value })}
            />
            <span class="block truncate text-[13px] text-muted"
              >{words?.title}, for the {words?.target}, {words?.load}</span
            >
          </div>
          <div
            class="col-span-2 row-start-2 grid grid-cols-[1.2fr_0.7fr_1.2fr_0.8fr] gap-2 lg:col-span-4 lg:col-start-2 lg:row-start-1 lg:grid-cols-[140px_60px_110px_90px] lg:gap-3"
          >
            {#if words?.amount}
              <label class="flex items-center gap-1.5 text-[13px] text-muted"
                ><input
                  class="{cell} text-ink {loads[i] ? 'border-swap' : 'border-line'}"
                  value={String(words.amount)}
                  aria-label="Load of {held.line.name}, {words.unit || 'bands'}"
                  aria-invalid={!!loads[i]}
                  onchange={async (e) => {
                    loads[i] = await desk.setLoad(at, i, typed(e.currentTarget.value));
                  }}
                />{words.unit || 'bands'}</label
              >
            {:else}<span class="self-center text-[13px] text-muted">bodyweight</span>{/if}
            <label class="flex items-center gap-1.5 text-[13px] text-muted"
              ><input
                class="{cell} text-ink {fault(i, 'sets') ? 'border-swap' : 'border-line'}"
                value={String(held.line.sets)}
                aria-label="Sets of {held.line.name}"
                onchange={(e) => void desk.editLine(at, i, { sets: whole(e.currentTarget.value) })}
              />×</label
            >
            <span class="flex items-center gap-1 text-[13px] text-muted">
              <input
                class="{cell} text-ink {fault(i, 'reps_low') ? 'border-swap' : 'border-line'}"
                value={String(held.line.reps_low)}
                aria-label="Fewest repetitions of {held.line.name}"
                onchange={(e) => void desk.editLine(at, i, { reps_low: whole(e.currentTarget.value) })}
              />–<input
                class="{cell} text-ink {fault(i, 'reps_high') ? 'border-swap' : 'border-line'}"
                value={String(held.line.reps_high)}
                aria-label="Most repetitions of {held.line.name}"
                onchange={(e) => void desk.editLine(at, i, { reps_high: whole(e.currentTarget.value) })}
              />
            </span>
            <label class="flex items-center gap-1.5 text-[13px] whitespace-nowrap text-muted"
              ><input
                class="{cell} text-ink {fault(i, 'rir') ? 'border-swap' : 'border-line'}"
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
            <button class={tool} aria-label="Copy {held.line.name}" onclick={() => void desk.copyLine(at, i)}
              ><Copy size={16} /></button
            >
            <button
              class={tool}
              aria-label="Remove {held.line.name}"
              onclick={() => void desk.removeLine(at, i)}><Trash size={16} /></button
            >
          </div>
        </div>
        {#if loads[i] || bad(i)}<p class="mt-1 text-[13px] text-swap" role="alert">
            {loads[i] || bad(i)}
          </p>{/if}
      </li>
    {:else}
      <li class="py-2 text-sm text-muted">No line yet.</li>
    {/each}
  </ol>
  <button class="mt-2 text-sm font-semibold underline" onclick={onwrite}>Write a line</button>
</section>
