<!-- A line typed as on paper: what was understood stands below it, with figure and profile; doubts are said, not guessed away. -->
<script lang="ts">
  import type { LineDoc } from '../../lib/api/client';
  import Figure from '../../lib/draw/Figure.svelte';
  import { bestView, bounds, scaleOf } from '../../lib/draw/frame';
  import Ribbon from '../../lib/draw/Ribbon.svelte';
  import { shapeOf } from '../../lib/draw/shape';
  import type { Desk } from './program.svelte';
  import { Typing } from './typed.svelte';

  type Props = { desk: Desk; session: string; labels: string[]; onlines: (lines: LineDoc[]) => void };
  let { desk, session, labels, onlines }: Props = $props();

  const typing = new Typing(
    () => desk.client,
    () => [...new Set(labels.filter(Boolean).map((l) => l.slice(0, 1)))],
  );
  const read = $derived(typing.read);
  const profile = $derived(read?.example?.profile ?? null);
  /** From the front a column that stands ahead would hide who is looked at. */
  const hidden = $derived(
    profile?.pulls.some((q) => q.prop['kind'] === 'column' && (q.ends_m[0]?.[0] ?? 0) > 0.05) ?? false,
  );
  const view = $derived(profile && !hidden ? bestView(profile) : 'side');
  const curve = $derived(read?.line ? profile?.targets[read.line.target] : undefined);
  const pose = $derived(curve ? Math.max(0, curve.effective_nm.indexOf(Math.max(...curve.effective_nm))) : 0);
  const scale = $derived(profile ? Math.min(scaleOf(bounds(profile, view), 150, 130), 90) : 60);
  const reps = $derived(read?.scheme ?? '');
  const usual = (field: string) => read?.assumed.includes(field);
  const more = $derived(
    [
      read?.line?.tempo?.length ? `tempo ${read.line.tempo.join('-')}` : '',
      read?.line?.rest_s ? `${read.line.rest_s} s rest` : '',
      ...(read?.line?.methods ?? []),
      read?.line?.label ? `in ${read.line.label}` : '',
    ].filter(Boolean),
  );

  async function enter() {
    const lines = await typing.finish();
    if (lines.length) onlines(lines);
  }
  async function paste(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text') ?? '';
    if (!text.includes('\n')) return;
    event.preventDefault();
    const lines = await typing.paste(text);
    if (lines.length) onlines(lines);
  }
  function key(event: KeyboardEvent) {
    if (event.key === 'Enter') {
      event.preventDefault();
      void enter();
    } else if (event.key === 'ArrowDown' && (read?.readings.length ?? 0) > 1) {
      event.preventDefault();
      typing.other();
    } else if (event.key === 'Escape' && typing.text) {
      event.stopPropagation();
      typing.type('');
    }
  }
</script>

<div class="mt-2">
  <input
    class="h-10 w-full rounded-md border border-line bg-panel px-3 text-base"
    value={typing.text}
    placeholder="write a line: incline db press 30 4x8-10 @1 14kg"
    aria-label="Write a line into {session}"
    autocomplete="off"
    spellcheck="false"
    oninput={(e) => typing.type(e.currentTarget.value)}
    onpaste={paste}
    onkeydown={key}
  />
  {#if read}
    <div
      class="mt-1.5 grid gap-4 rounded-md border border-line bg-panel p-3 sm:grid-cols-[minmax(0,1fr)_auto]"
      aria-busy={typing.busy}
    >
      <div class="min-w-0 text-sm" role="status">
        {#if read.unknown.length}
          <p>
            {#each typing.parts(read) as part, i (i)}<span
                class={part.odd ? 'font-semibold text-swap underline decoration-wavy' : 'text-muted'}
                >{part.text}</span
              >{/each}
          </p>
        {/if}
        {#if read.line}
          <p class="font-head text-lg font-semibold">{read.readings[read.reading]}</p>
          <p>
            for the <strong>{read.target}</strong> ·
            <span class={usual('sets') || usual('reps') ? 'text-muted' : 'font-semibold'}>{reps}</span> ·
            <span class={usual('rir') ? 'text-muted' : 'font-semibold'}>{read.line.rir} in reserve</span> ·
            <span class={usual('load') ? 'text-muted' : 'font-semibold'}>{read.load}</span>
          </p>
          {#if more.length}<p>{more.join(' · ')}</p>{/if}
          {#if read.assumed.length}<p class="text-small text-muted">
              Grey was not written, so the usual stands.
            </p>{/if}
        {:else if read.fault}
          <p class="font-semibold">{read.readings[read.reading]}</p>
          <p class="text-swap" role="alert">{read.fault.limit}. {read.fault.way_out}.</p>
        {:else}
          <p class="font-semibold">Which lift is that?</p>
        {/if}
        {#each read.unknown as span (span.start)}
          {#if span.nearest.length && !read.readings.length}
            <p class="mt-1.5 flex flex-wrap items-center gap-1.5">
              <span class="text-muted">“{span.text}” means</span>
              {#each span.nearest as known (known)}
                <button
                  class="rounded-full border border-line px-2.5 py-0.5 text-small font-semibold hover:border-muted"
                  onclick={() => void typing.means(span.text, known)}>{known}</button
                >
              {/each}
              <span class="text-small text-muted">remembered for all your lines</span>
            </p>
          {:else}
            <p class="mt-1 text-small text-swap">
              “{span.text}” is not understood: take it out, or say it otherwise.
            </p>
          {/if}
        {/each}
        {#if read.readings.length > 1}
          <p class="mt-1.5 flex flex-wrap items-center gap-1.5">
            <span class="text-small {read.sure ? 'text-muted' : 'font-semibold text-swap'}"
              >{read.sure ? 'or' : 'one of'}
              <kbd class="rounded border border-line px-1 font-sans">↓</kbd></span
            >
            {#each read.readings as name, i (i)}
              {#if i !== read.reading}
                <button
                  class="rounded-full border border-line px-2.5 py-0.5 text-small hover:border-muted"
                  onclick={() => void typing.look(i)}>{name}</button
                >
              {/if}
            {/each}
          </p>
        {/if}
        <p class="mt-2 flex flex-wrap items-center gap-3">
          <button
            class="rounded-md bg-ink px-3 py-1 font-semibold text-paper disabled:opacity-40"
            disabled={!read.line || !!read.unknown.length}
            onclick={() => void enter()}>Put it in</button
          >
          <kbd class="rounded border border-line px-1.5 font-sans text-small">Enter</kbd>
          {#if typing.waiting.length}
            <button class="text-muted underline" onclick={() => typing.next()}>Leave this one</button>
            <span class="text-small text-muted">{typing.waiting.length} more to look at</span>
          {/if}
        </p>
      </div>
      {#if profile && read.line}
        <div class="flex items-end gap-3">
          <Figure
            {profile}
            {pose}
            {view}
            colour="var(--prescribed)"
            width={150}
            height={130}
            {scale}
            length={desk.units.show}
            label="{read.readings[read.reading]}, at its hardest, seen from the {view}"
          />
          <Ribbon
            prescribed={shapeOf(profile, read.line.target)}
            swap={null}
            width={130}
            height={64}
            mini
            label="Where it loads the {read.target}: lengthened end left"
          />
        </div>
      {/if}
    </div>
  {/if}
  {#if typing.circuit.length}
    <div
      class="mt-1.5 rounded-md border border-line bg-panel p-3 text-sm"
      aria-busy={typing.busy}
      role="status"
    >
      <p class="font-head text-lg font-semibold">
        Circuit of {typing.circuit.length}, one after the other
      </p>
      <ol class="mt-1 divide-y divide-line">
        {#each typing.circuit as lift, i (i)}
          <li class="flex flex-wrap items-baseline gap-x-2 py-1">
            {#if lift.line && !lift.unknown.length}
              <span class="w-7 font-semibold text-muted">{lift.line.label}</span>
              <span class="font-semibold">{lift.readings[lift.reading]}</span>
              <span>{lift.scheme}</span>
              {#if lift.load !== 'bodyweight'}
                <span class={lift.assumed.includes('load') ? 'text-muted' : ''}>{lift.load}</span>
              {/if}
              {#if lift.line.rest_s}<span class="text-muted">then {lift.line.rest_s} s rest</span>{/if}
              {#if !lift.sure && lift.readings.length > 1}
                <span class="text-small text-swap">or {lift.readings[1]}: write it out if that is meant</span>
              {/if}
            {:else}
              <span>
                {#each typing.parts(lift) as part, k (k)}<span
                    class={part.odd ? 'font-semibold text-swap underline decoration-wavy' : 'text-muted'}
                    >{part.text}</span
                  >{/each}
              </span>
              <span class="text-small text-swap">
                {lift.fault
                  ? `${lift.fault.limit}. ${lift.fault.way_out}.`
                  : 'is not understood: say it otherwise above.'}
              </span>
            {/if}
          </li>
        {/each}
      </ol>
      <p class="mt-2 flex items-center gap-3">
        <button
          class="rounded-md bg-ink px-3 py-1 font-semibold text-paper disabled:opacity-40"
          disabled={!typing.clear}
          onclick={() => void enter()}>Put them in</button
        >
        <kbd class="rounded border border-line px-1.5 font-sans text-small">Enter</kbd>
        {#if typing.circuit.some((lift) => lift.assumed.includes('load'))}
          <span class="text-small text-muted">Grey was not written, so the usual stands.</span>
        {/if}
      </p>
    </div>
  {/if}
  {#if typing.told}<p class="mt-1 text-sm text-muted" role="status">{typing.told}</p>{/if}
</div>
