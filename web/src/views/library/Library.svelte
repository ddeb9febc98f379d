<!-- The movement library: every movement with its figure, range, muscles over length, resistance and effort curves. -->
<script lang="ts">
  import Dialog from '../../lib/ui/Dialog.svelte';
  import { unitsOf } from '../../lib/units/units.svelte';
  import Carriers from './Carriers.svelte';
  import Table from './Table.svelte';
  import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
  import Curves from '../../lib/draw/Curves.svelte';
  import Figure from '../../lib/draw/Figure.svelte';
  import { bounds, scaleOf } from '../../lib/draw/frame';
  import type { View } from '../../lib/draw/geometry';
  import Lengths, { type Row } from '../../lib/draw/Lengths.svelte';
  import Fault from '../../lib/ui/Fault.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, route } from '../../router';
  import { Library } from './library.svelte';
  import MovementList from './MovementList.svelte';

  const library = new Library();
  void library.start((route.params as { movement?: string }).movement ?? '');
  $effect(() => {
    if (library.id && (route.params as { movement?: string }).movement !== library.id)
      void navigate('/movements/:movement', { params: { movement: library.id }, replace: true });
    document.getElementById(`movement-${library.id}`)?.scrollIntoView({ block: 'nearest' });
  });

  let field: HTMLInputElement | undefined = $state();
  let wide = $state(0);
  let tall = $state(0);
  let column = $state(0);
  const example = $derived(library.example);
  const profile = $derived(example?.profile ?? null);
  const scale = $derived(
    profile && wide ? Math.min(scaleOf(bounds(profile, library.view), wide, tall), 260) : 100,
  );
  const shown = $derived(
    example ? [...new Set([example.target, ...example.helpers.map((h) => h.group)])] : [],
  );
  const rows: Row[] = $derived(
    shown.slice(0, 5).flatMap((id) => {
      const curve = profile?.targets[id];
      return curve
        ? [
            {
              id,
              name: curve.name,
              lengths: curve.length,
              load: curve.effective_nm,
              target: id === example?.target,
            },
          ]
        : [];
    }),
  );
  const joints = $derived([...new Set(example?.helpers.map((h) => h.joint) ?? [])]);
  const kits = $derived(library.movement?.kits[library.variant] ?? []);

  let table = $state(false);
  const shortcuts: Shortcut[] = [
    { keys: ['ArrowUp'], shown: '↑', does: 'Movement before', run: () => library.step(-1) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Movement after', run: () => library.step(1) },
    { keys: [','], shown: ',', does: 'Toward the lengthened end', run: () => library.nudge(-1) },
    { keys: ['.'], shown: '.', does: 'Toward the shortened end', run: () => library.nudge(1) },
    { keys: ['w'], shown: 'W', does: 'Next variant', run: () => library.nextVariant() },
    { keys: ['k'], shown: 'K', does: 'Next kit', run: () => library.nextKit() },
    { keys: ['v'], shown: 'V', does: 'Look from the next side', run: () => library.turnView() },
    { keys: ['/'], shown: '/', does: 'Search', run: () => field?.focus() },
    { keys: ['Escape'], shown: 'Esc', does: 'To the roster', run: () => void navigate('/') },
  ];
</script>

<Shell title={library.movement?.name ?? 'Movements'} {shortcuts}>
  {#snippet crumbs()}<span class="font-semibold text-ink">Movements</span>{/snippet}
  {#snippet tools()}
    {#if library.movement}
      <Pick
        name="for"
        value={String(library.client)}
        items={library.clients.map((c) => ({ value: String(c.id), label: c.client.name }))}
        onpick={(v) => library.choose({ client: Number(v) })}
      />
      {#if library.movement.ways.length > 1}
        <Pick
          name="variant"
          value={String(library.variant)}
          items={library.movement.ways.map((w, i) => ({ value: String(i), label: w }))}
          onpick={(v) => library.choose({ variant: Number(v) })}
        />
      {/if}
      <Pick
        name="kit"
        value={example?.kit ?? library.kit}
        items={kits.map((k) => ({ value: k.id, label: k.name }))}
        onpick={(v) => library.choose({ kit: v })}
      />
      <Pick
        name="view"
        value={library.view}
        items={['side', 'front', 'top'].map((v) => ({ value: v, label: v }))}
        onpick={(v) => (library.fixedView = v as View)}
      />
    {/if}
  {/snippet}

  <div class="h-full overflow-y-auto lg:grid lg:grid-cols-[230px_1fr] lg:overflow-hidden">
    <MovementList {library} bind:field />
    {#if library.problem && !example}
      <div>
        <Fault problem={library.problem} retry={() => library.choose({ kit: '' })} />
      </div>
    {:else if !example || !profile}
      <p class="self-center text-center text-muted" role="status">Computing …</p>
    {:else}
      <div
        class="lg:grid lg:min-h-0 lg:grid-cols-[minmax(330px,1fr)_minmax(400px,1.15fr)]"
        class:opacity-60={library.busy}
        aria-busy={library.busy}
      >
        <section class="flex flex-col border-line lg:min-h-0 lg:border-r" aria-label="Figure">
          <div class="px-5 pt-3">
            <h1 class="text-xl">{example.title}</h1>
            <p class="text-sm text-muted">
              For the {example.target_name} · {example.load} · {profile.reading[library.pose]}
            </p>
          </div>
          <div class="max-lg:h-[340px] lg:min-h-0 lg:flex-1" bind:clientWidth={wide} bind:clientHeight={tall}>
            {#if wide && tall}
              <Figure
                {profile}
                pose={library.pose}
                view={library.view}
                colour="var(--swap)"
                width={wide}
                height={tall}
                {scale}
                length={unitsOf(library.clients.find((c) => c.id === library.client)?.client).show}
                label="{example.title}, {profile.reading[library.pose]}, seen from the {library.view}"
              />
            {/if}
          </div>
          <label class="flex items-center gap-3 px-5 py-2 text-small text-muted">
            lengthened end
            <input
              type="range"
              min="0"
              max={library.poses - 1}
              bind:value={library.pose}
              class="flex-1 accent-swap"
              aria-label="Place in the movement"
            />
            shortened end
          </label>
          <dl class="grid grid-cols-[80px_1fr] gap-x-3 gap-y-0.5 border-t border-line px-5 py-2.5 text-small">
            {#each example.rows as row, i (i)}
              <dt class="text-muted">{row.what}</dt>
              <dd class="font-medium">{row.value}</dd>
            {/each}
            <dt class="text-muted">Look at</dt>
            <dd>{example.cues.join('; ')}.</dd>
          </dl>
        </section>

        <section
          class="px-5 py-3 lg:min-h-0 lg:overflow-y-auto"
          aria-label="Curves"
          bind:clientWidth={column}
        >
          <Carriers {example} {joints} ontable={() => (table = true)} />
          {#if column}
            <div class="mt-2 rounded-lg border border-line bg-panel p-2.5">
              <Curves
                title="Resistance"
                unit="N·m"
                curves={Object.entries(example.resistance)
                  .filter(([joint], _, all) => all.length === 1 || (joint !== 'trunk' && joint !== 'scapula'))
                  .map(([name, values], i) => ({ name, values, strong: i === 0 }))}
                width={column - 62}
                height={150}
                pose={library.pose}
                colour="var(--swap)"
                onmove={(p) => (library.pose = p)}
              />
              <Curves
                title="Effort of the muscle asked most"
                unit="%"
                curves={[{ name: 'how hard', values: example.relative_effort.map((v) => v * 100) }]}
                doubtful={example.doubtful}
                most={100}
                width={column - 62}
                height={128}
                pose={library.pose}
                colour="var(--swap)"
                onmove={(p) => (library.pose = p)}
              />
              {#if example.doubtful.some(Boolean)}
                <p class="text-mark text-muted">
                  Shaded: poses at which shares and effort are not to be believed.
                </p>
              {/if}
            </div>
            <div class="mt-2.5 rounded-lg border border-line bg-panel p-2.5">
              <Lengths {rows} width={column - 62} pose={library.pose} />
            </div>
          {/if}
          <ul class="mt-2.5 space-y-1 text-small" aria-label="Cautions">
            {#each example.cautions as caution (caution)}
              <li class="grid grid-cols-[14px_1fr] gap-1.5">
                <TriangleAlert size={13} class="mt-[3px] text-swap" aria-label="Caution" /><span
                  >{caution}</span
                >
              </li>
            {/each}
          </ul>
        </section>
      </div>
    {/if}
  </div>
  <Dialog
    bind:open={table}
    wide
    title="As a table"
    about="{example?.title ?? ''}: what the curves show, in rows."
  >
    {#if example}<Table {example} />{/if}
  </Dialog>
</Shell>
