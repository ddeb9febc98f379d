<!-- The match bench: one line, one place. Above the axis what is prescribed, below it the swap. -->
<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import Undo from '@lucide/svelte/icons/undo-2';
  import Figure from '../../lib/draw/Figure.svelte';
  import { bounds, scaleOf } from '../../lib/draw/frame';
  import Ribbon from '../../lib/draw/Ribbon.svelte';
  import { poseAt, shapeOf } from '../../lib/draw/shape';
  import type { View } from '../../lib/draw/geometry';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import { Bench } from './match.svelte';
  import Parts from './Parts.svelte';
  import Rack from './Rack.svelte';
  import Words from './Words.svelte';

  const bench = new Bench();
  const wanted = $derived({ line: Number(route.params.line), place: Number(route.params.place) });
  $effect(() => {
    if (wanted.line && wanted.place) void bench.load(wanted.line, wanted.place);
  });

  let why = $state(false);
  let middle = $state(0);
  let tall = $state(0);
  let beside = $state(0);
  const half = $derived(Math.max(150, Math.floor(tall / 2)));

  const prescribed = $derived(bench.match?.prescribed ?? null);
  const target = $derived(prescribed?.target ?? '');
  const shapes = $derived({
    over: prescribed?.profile ? shapeOf(prescribed.profile, target) : null,
    under: bench.swap?.profile ? shapeOf(bench.swap.profile, target) : null,
  });
  const scale = $derived.by(() => {
    const both = [prescribed?.profile, bench.swap?.profile].flatMap((q) => (q ? [q] : []));
    return Math.min(...both.map((q) => scaleOf(bounds(q, bench.view), beside, half)), 230);
  });
  const poses = $derived({
    over: prescribed?.profile ? poseAt(prescribed.profile, target, bench.at) : 0,
    under: bench.swap?.profile ? poseAt(bench.swap.profile, target, bench.at) : 0,
  });

  function go(line: number | undefined, place: number) {
    if (line)
      void navigate('/lines/:line/at/:place', { params: { line: String(line), place: String(place) } });
  }
  const step = (by: number) => go(bench.lines[bench.index + by]?.id, bench.place);
  function nextPlace() {
    const places = bench.client?.places ?? [];
    const i = places.findIndex((q) => q.id === bench.place);
    go(bench.line?.id, places[(i + 1) % places.length]?.id ?? bench.place);
  }
  const shortcuts: Shortcut[] = [
    {
      keys: ['ArrowLeft'],
      shown: '←',
      does: 'Candidate to the left',
      run: () => bench.choose(bench.chosen - 1),
    },
    {
      keys: ['ArrowRight'],
      shown: '→',
      does: 'Candidate to the right',
      run: () => bench.choose(bench.chosen + 1),
    },
    { keys: ['ArrowUp'], shown: '↑', does: 'Line before', run: () => step(-1) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Line after', run: () => step(1) },
    { keys: ['Enter'], shown: 'Enter', does: 'Take this swap', run: () => void bench.accept() },
    { keys: ['u', 'Control+z'], shown: 'U', does: 'Undo what was taken here', run: () => void bench.undo() },
    {
      keys: ['Shift+ArrowLeft', ','],
      shown: ',',
      does: 'Plumb line toward the long end',
      run: () => bench.nudge(-0.04),
    },
    {
      keys: ['Shift+ArrowRight', '.'],
      shown: '.',
      does: 'Plumb line toward the short end',
      run: () => bench.nudge(0.04),
    },
    { keys: ['p'], shown: 'P', does: 'Next place', run: nextPlace },
    { keys: ['v'], shown: 'V', does: 'Look from the next side', run: () => bench.turnView() },
    {
      keys: ['s'],
      shown: 'S',
      does: 'Heights to own peak, or in N·m',
      run: () => (bench.absolute = !bench.absolute),
    },
    { keys: ['w'], shown: 'W', does: 'Why this match', run: () => (why = true) },
    { keys: ['Escape'], shown: 'Esc', does: 'Back to the roster', run: () => back() },
  ];
  function back() {
    if (bench.client) void navigate('/clients/:client', { params: { client: String(bench.client.id) } });
    else void navigate('/');
  }
  const views: { value: View; label: string }[] = [
    { value: 'side', label: 'side' },
    { value: 'front', label: 'front' },
    { value: 'top', label: 'top' },
  ];
</script>

<Shell title={bench.line?.name ?? 'Match bench'} {shortcuts}>
  {#snippet crumbs()}
    {#if bench.client && bench.line}
      <a class="hover:text-ink" href={p('/clients/:client', { params: { client: String(bench.client.id) } })}>
        {bench.client.client.name}
      </a>
      <span class="px-1.5" aria-hidden="true">/</span>{bench.line.session}<span
        class="px-1.5"
        aria-hidden="true">/</span
      >
      <span class="font-semibold text-ink">line {bench.index + 1} of {bench.lines.length}</span>
    {/if}
  {/snippet}
  {#snippet tools()}
    {#if bench.client}
      <Pick
        name="place"
        value={String(bench.place)}
        items={bench.client.places.map((q) => ({ value: String(q.id), label: q.name }))}
        onpick={(v) => go(bench.line?.id, Number(v))}
      />
    {/if}
    {#if bench.match}
      <span
        class="flex h-9 items-center gap-1.5 rounded-full border border-line bg-panel px-3.5 text-sm whitespace-nowrap"
      >
        <span class="text-muted">lens</span> <span class="font-semibold">{bench.match.lens_name}</span>
      </span>
      <Pick name="view" value={bench.view} items={views} onpick={(v) => (bench.fixedView = v as View)} />
      <Pick
        name="heights"
        value={bench.absolute ? 'common' : 'own'}
        items={[
          { value: 'own', label: 'own peak' },
          { value: 'common', label: 'N·m' },
        ]}
        onpick={(v) => (bench.absolute = v === 'common')}
      />
    {/if}
  {/snippet}

  <h1 class="sr-only">{bench.line?.name ?? 'Match bench'}</h1>
  {#if bench.problem}
    <Fault problem={bench.problem} retry={() => bench.load(wanted.line, wanted.place)} />
  {:else if !bench.match || !prescribed?.profile || !bench.swap?.profile || !shapes.over || !shapes.under}
    <div class="flex h-full flex-col items-center justify-center gap-3" role="status">
      <div class="h-1.5 w-56 overflow-hidden rounded-full bg-soft">
        <div class="working h-full w-1/3 bg-swap"></div>
      </div>
      <p class="text-muted">Trying every movement and placement at {bench.placeName || 'this place'} …</p>
    </div>
  {:else}
    <div class="flex h-full flex-col" class:opacity-60={bench.busy} aria-busy={bench.busy}>
      <div class="grid min-h-0 flex-1 grid-cols-[minmax(240px,25fr)_minmax(380px,43fr)_minmax(320px,32fr)]">
        <section class="relative" aria-label="Figures" bind:clientWidth={beside}>
          <div class="absolute inset-x-0 top-1/2 border-t border-line"></div>
          {#if beside}
            <div class="absolute inset-x-0 top-0 overflow-hidden" style:height="{half}px">
              <Figure
                profile={prescribed.profile}
                pose={poses.over}
                view={bench.view}
                colour="var(--prescribed)"
                width={beside}
                height={half}
                {scale}
                label="Prescribed: {prescribed.title}, {prescribed.profile.reading[
                  poses.over
                ]}, seen from the {bench.view}"
              />
            </div>
            <div class="absolute inset-x-0 bottom-0 overflow-hidden" style:height="{half}px">
              <Figure
                profile={bench.swap.profile}
                pose={poses.under}
                view={bench.view}
                colour="var(--swap)"
                width={beside}
                height={half}
                {scale}
                label="Swap: {bench.swap.title}, {bench.swap.profile.reading[
                  poses.under
                ]}, seen from the {bench.view}"
              />
            </div>
          {/if}
          <p
            class="absolute top-1.5 left-3 rounded bg-paper/85 px-1.5 text-[13px] font-semibold text-prescribed"
          >
            {prescribed.profile.reading[poses.over]}
          </p>
          <p
            class="absolute top-1/2 left-3 mt-1.5 rounded bg-paper/85 px-1.5 text-[13px] font-semibold text-swap"
          >
            {bench.swap.profile.reading[poses.under]}
          </p>
        </section>

        <section
          class="relative min-w-0"
          aria-label="Load shapes"
          bind:clientWidth={middle}
          bind:clientHeight={tall}
        >
          {#if middle && tall}
            <div class="absolute inset-0">
              <Ribbon
                prescribed={shapes.over}
                swap={shapes.under}
                width={middle}
                height={tall}
                absolute={bench.absolute}
                at={bench.at}
                onmove={(x) => (bench.at = x)}
                muscle={prescribed.target_name}
                label="Load on the {prescribed.target_name} over its own length: prescribed above, swap below"
              />
            </div>
          {/if}
        </section>

        <!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls, and must be reached by keyboard) -->
        <section
          class="words relative flex min-h-0 min-w-0 flex-col overflow-y-auto pt-3 pr-5 pb-8 pl-14"
          aria-label="In words"
          tabindex="0"
        >
          <Words {bench} {prescribed} swap={bench.swap} />
        </section>
      </div>
      <button
        class="absolute z-10 flex h-16 w-16 -translate-x-1/2 -translate-y-1/2 flex-col items-center justify-center rounded-full border-2 border-ink bg-panel hover:bg-soft"
        style:left="{beside + middle + 12}px"
        style:top="{52 + tall / 2}px"
        onclick={() => (why = true)}
        aria-label="{Math.round(bench.swap.match)} match of 100: why"
      >
        <span class="font-head text-2xl leading-none font-bold">{Math.round(bench.swap.match)}</span>
        <span class="text-[10px] font-semibold tracking-wider text-muted">MATCH</span>
      </button>
      {#if bench.match?.spared.length || bench.match?.strained}
        <p class="shrink-0 border-t border-line bg-panel px-5 py-1.5 text-[13px]" role="status">
          {#if bench.match.strained}<strong>The prescribed lift strains the {bench.match.strained}.</strong
            >{/if}
          {#if bench.match.spared.length}Spared: {bench.match.spared.join('; ')}. Pain that stays: to a
            physician or physiotherapist.{/if}
        </p>
      {/if}
      <Rack {bench} />
      <div class="flex h-11 shrink-0 items-center gap-3 border-t border-line bg-panel px-5 text-sm">
        <button
          class="flex items-center gap-2 rounded-md bg-swap px-4 py-1.5 font-semibold text-on-accent hover:opacity-90"
          onclick={() => void bench.accept()}
        >
          <Check size={16} /> Take this swap
        </button>
        <kbd class="rounded border border-line px-1.5 font-sans text-xs">Enter</kbd>
        {#if bench.taken}
          <span class="truncate">
            Taken for {bench.placeName}: <strong>{bench.taken.swap.title}</strong>, {bench.taken.swap.load
              .words}
          </span>
          <button
            class="flex items-center gap-1.5 rounded-md border border-line px-3 py-1 font-semibold hover:border-muted"
            onclick={() => void bench.undo()}
          >
            <Undo size={14} /> Undo
          </button>
        {:else}
          <span class="text-muted">Nothing taken for {bench.placeName} yet.</span>
        {/if}
        <span class="ml-auto truncate text-muted" role="status" aria-live="polite">{bench.note}</span>
      </div>
    </div>
    <Dialog
      bind:open={why}
      title="Why {Math.round(bench.swap.match)}"
      about="{bench.swap.title}, {bench.swap.kit}, against {prescribed.title}. Lens: {bench.match.lens_name}."
    >
      <Parts swap={bench.swap} lensFor={bench.match.lens_for} lensAgainst={bench.match.lens_against} />
    </Dialog>
  {/if}
</Shell>

<style>
  /* The last lines fade where there is more to scroll to. */
  .words {
    mask-image: linear-gradient(to bottom, black calc(100% - 26px), transparent);
  }
  .working {
    animation: to-and-fro 1.1s ease-in-out infinite alternate;
  }
  @keyframes to-and-fro {
    to {
      transform: translateX(200%);
    }
  }
</style>
