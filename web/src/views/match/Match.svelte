<!-- The match bench: one line, one place. Above the axis what is prescribed, below it the swap. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import Ribbon from '../../lib/draw/Ribbon.svelte';
  import { poseAt, shapeOf } from '../../lib/draw/shape';
  import { sentence } from '../../lib/draw/twin';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import Accepted from './Accepted.svelte';
  import Dialogs from './Dialogs.svelte';
  import Figures from './Figures.svelte';
  import { Bench } from './match.svelte';
  import Rack from './Rack.svelte';
  import Filters from './Filters.svelte';
  import { shortcutsOf } from './shortcuts';
  import Waiting from './Waiting.svelte';
  import Nothing from './Nothing.svelte';
  import Words from './Words.svelte';

  const bench = new Bench();
  const wanted = $derived({ line: Number(route.params.line), place: Number(route.params.place) });
  $effect(() => {
    const { line, place } = wanted;
    // What loading reads and writes must not load again.
    if (line && place) untrack(() => void bench.load(line, place));
  });
  onDestroy(() => bench.leave());

  let why = $state(false);
  let sides = $state(false);
  let table = $state(false);
  let filters = $state(false);
  let weights = $state(false);
  let tab = $state<'set-up' | 'hands' | 'judgement'>('set-up');
  let middle = $state(0);
  let tall = $state(0);
  let beside = $state(0);
  const half = $derived(Math.max(150, Math.floor(tall / 2)));

  const prescribed = $derived(bench.match?.prescribed ?? null);
  const target = $derived(prescribed?.target ?? '');
  const shapes = $derived({
    over: bench.above?.profile ? shapeOf(bench.above.profile, target) : null,
    under: bench.swap?.profile ? shapeOf(bench.swap.profile, target) : null,
  });
  const poses = $derived({
    over: bench.above?.profile ? poseAt(bench.above.profile, target, bench.at) : 0,
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
  const shortcuts = shortcutsOf(bench, {
    step,
    nextPlace,
    back,
    tab: (to) => (tab = to),
    sides: () => (sides = true),
    table: () => (table = true),
    filters: () => (filters = true),
    why: () => (why = true),
  });
  function back() {
    if (bench.client) void navigate('/clients/:client', { params: { client: String(bench.client.id) } });
    else void navigate('/');
  }
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
      <Pick
        name="lens"
        value={bench.rank.lens ?? 'same_profile'}
        items={(bench.lenses?.lenses ?? []).map((l) => ({ value: l.id, label: l.name }))}
        onpick={(lens) => void bench.again({ lens })}
      />
      <button
        class="h-9 rounded-full border border-line bg-panel px-3 text-sm font-semibold whitespace-nowrap hover:border-muted"
        onclick={() => (filters = true)}
        aria-label="Leave out: {bench.filters} set"
        >leave out{bench.filters ? ` · ${bench.filters}` : ' …'}</button
      >
    {/if}
  {/snippet}

  <h1 class="sr-only">{bench.line?.name ?? 'Match bench'}</h1>
  {#if bench.problem?.faults?.[0]?.field.endsWith('kit')}
    <Nothing {bench} problem={bench.problem} go={(place) => go(bench.line?.id, place)} />
  {:else if bench.problem}
    <Fault problem={bench.problem} retry={() => bench.load(wanted.line, wanted.place)} />
  {:else if !bench.match || !prescribed?.profile || !bench.swap?.profile || !bench.above?.profile || !shapes.over || !shapes.under}
    <Waiting {bench} />
  {:else}
    <div
      class="relative flex h-full flex-col max-lg:overflow-y-auto"
      class:opacity-60={bench.busy}
      aria-busy={bench.busy}
    >
      <div
        class="min-h-0 flex-1 max-lg:flex max-lg:flex-none max-lg:flex-col lg:grid lg:grid-cols-[minmax(240px,25fr)_minmax(380px,43fr)_minmax(320px,32fr)]"
      >
        <Figures
          {bench}
          above={bench.above.profile}
          swap={bench.swap.profile}
          {poses}
          {half}
          bind:beside
          onhands={() => (tab = 'hands')}
          onsides={() => (sides = true)}
        />
        <section
          class="relative min-w-0 max-lg:h-[360px]"
          aria-label="Resistance profiles"
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
          <p class="sr-only">
            Prescribed: {sentence(bench.above.profile, target, prescribed.target_name)} Swap: {sentence(
              bench.swap.profile,
              target,
              prescribed.target_name,
            )}
          </p>
          <button
            class="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:right-2 focus:z-10 focus:rounded focus:bg-panel focus:px-3 focus:py-1"
            onclick={() => (table = true)}>Ribbon and figures as a table</button
          >
        </section>

        <!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls, and must be reached by keyboard) -->
        <section
          class="words relative flex min-h-0 min-w-0 flex-col pt-3 pr-5 pb-8 max-lg:order-first max-lg:pl-5 lg:overflow-y-auto lg:pl-14"
          aria-label="In words"
          tabindex="0"
        >
          <Words {bench} {prescribed} swap={bench.swap} bind:tab />
        </section>
      </div>
      <button
        class="absolute z-10 hidden h-16 w-16 -translate-x-1/2 -translate-y-1/2 flex-col items-center justify-center rounded-full border-2 border-ink bg-panel hover:bg-soft lg:flex"
        style:left="{beside + middle + 12}px"
        style:top="{tall / 2}px"
        onclick={() => (why = true)}
        aria-label="{Math.round(bench.swap.match)} match of 100: why"
      >
        <span class="font-head text-2xl leading-none font-bold">{Math.round(bench.swap.match)}</span>
        <span class="text-mark font-semibold tracking-wider text-muted">MATCH</span>
      </button>
      {#if bench.match?.excluded.length || bench.match?.strained || bench.match?.too_hard}
        <p class="shrink-0 border-t border-line bg-panel px-5 py-1.5 text-small" role="status">
          {#if bench.match.strained}<strong>The prescribed lift strains the {bench.match.strained}.</strong
            >{/if}
          {#if bench.match.too_hard}<strong>{bench.match.too_hard}</strong>{/if}
          {#if bench.match.excluded.length}Left out: {bench.match.excluded.join('; ')}.{/if}
          {#if bench.client?.client.restrictions?.length}Pain that stays: to a physician or physiotherapist.{/if}
        </p>
      {/if}
      <button
        class="mx-5 my-2 shrink-0 self-start text-sm font-semibold underline lg:hidden"
        onclick={() => (why = true)}>{Math.round(bench.swap.match)} of 100: why?</button
      >
      <Rack {bench} />
      <Accepted {bench} />
    </div>
    <Dialogs {bench} bind:why bind:sides bind:table bind:weights />
  {/if}
  <Dialog bind:open={filters} title="Leave out" about="For this line here, until you change it.">
    <Filters {bench} />
  </Dialog>
</Shell>

<style>
  /* The last lines fade where there is more to scroll to. */
  .words {
    @media (min-width: 1024px) {
      mask-image: linear-gradient(to bottom, black calc(100% - 26px), transparent);
    }
  }
</style>
