<!-- The log: every set on one scale, what it taught, next time by rule; cards beside it. -->
<script lang="ts">
  import Fault from '../../lib/ui/Fault.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import Bring from './Bring.svelte';
  import Cards from './Cards.svelte';
  import Due from './Due.svelte';
  import { Log } from './log.svelte';
  import NoteSets from './NoteSets.svelte';
  import NextTime from './NextTime.svelte';
  import Scale from './Scale.svelte';
  import Sets from './Sets.svelte';
  import Taught from './Taught.svelte';

  const log = new Log();
  $effect(() => {
    const client = Number((route.params as { client: string }).client);
    void log.load(client).then(() => {
      // Who comes from what wants a look sees the lift it is about.
      const line = Number(location.hash.slice(1));
      if (line) log.line = line;
    });
  });
  const doc = $derived(log.log);
  const lift = $derived(log.lift);
  let wide = $state(700);
  const turn = (by: number) => {
    const lifts = doc?.lifts ?? [];
    const next = lifts[lifts.findIndex((x) => x.line === lift?.line) + by];
    if (next) log.line = next.line;
  };
  const back = () => void navigate('/clients/:client', { params: { client: String(log.client) } });
  const shortcuts: Shortcut[] = [
    { keys: ['ArrowUp'], shown: '↑', does: 'Lift before', run: () => turn(-1) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Lift after', run: () => turn(1) },
    { keys: ['Escape'], shown: 'Esc', does: 'To the roster', run: back },
  ];
</script>

<Shell title="{doc?.client ?? 'Client'}: log" {shortcuts}>
  {#snippet crumbs()}{#if doc}<a
        class="hover:underline"
        href={p('/clients/:client', { params: { client: String(log.client) } })}>{doc.client}</a
      >
      / <strong class="text-ink">Log</strong>{/if}{/snippet}
  {#if log.problem && !doc}
    <Fault problem={log.problem} retry={() => void log.load(log.client)} />
  {:else if !doc}
    <p class="p-8 text-muted" role="status">Reading the log …</p>
  {:else}
    <div class="h-full overflow-y-auto lg:grid lg:grid-cols-[minmax(0,1fr)_320px] lg:overflow-hidden">
      <section class="px-5 py-4 lg:min-h-0 lg:overflow-y-auto" aria-label="Lifts" bind:clientWidth={wide}>
        <div class="flex flex-wrap items-baseline gap-x-4">
          <h1 class="text-2xl">{lift ? lift.name : 'Log'}</h1>
          {#if lift}<p class="text-sm text-muted">
              all set-ups on one scale: the load that would ask as much in the written lift
            </p>{/if}
        </div>
        <p class="mt-1 text-sm"><NoteSets {log} /></p>
        {#if log.rejected}<div class="mt-2"><Faults problem={log.rejected} /></div>{/if}
        {#if log.told}<p class="mt-2 text-sm" role="status">
            {log.told}
            {#if log.back}<button class="font-semibold underline" onclick={() => void log.back?.()}
                >Undo</button
              >{/if}
          </p>{/if}
        {#if doc.clock_off_h >= 1}<p class="mt-2 text-sm">
            A phone's clock was off by {doc.clock_off_h} h at worst; times are set right.
          </p>{/if}
        {#if doc.conflicts.length}
          <section
            class="mt-2 rounded-md border-l-4 border-swap bg-panel px-3 py-2 text-sm"
            aria-label="Entries that disagree"
          >
            <strong>These disagree: keep what is right, take back the rest.</strong>
            {#each doc.conflicts as c (c.key)}
              <p>
                {c.words}, from {c.device || 'a phone'}
                <button class="font-semibold underline" onclick={() => void log.takeBack(c.key.slice(0, 36))}
                  >Take back</button
                >
              </p>
            {/each}
          </section>
        {/if}
        {#if doc.lifts.length > 1}
          <div class="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="Which lift">
            {#each doc.lifts as one (one.line)}
              <button
                class="rounded-full border px-3 py-0.5 text-small font-semibold {one.line === lift?.line
                  ? 'border-ink bg-ink text-paper'
                  : 'border-line bg-panel hover:border-muted'}"
                aria-pressed={one.line === lift?.line}
                onclick={() => (log.line = one.line)}>{one.name}</button
              >
            {/each}
          </div>
        {/if}
        {#if lift}
          <div class="mt-3">
            <Scale {lift} width={Math.max(300, wide - 40)} height={300} unit={lift.unit || 'reps'} />
          </div>
          {#each lift.due as due (due.like)}<Due {log} line={lift.line} {due} />{/each}
          <NextTime {log} {lift} />
          <Sets {log} {lift} />
        {:else}
          <p class="mt-3 max-w-xl text-base">
            Nothing was logged yet. Hand a card over: what the client notes on a phone stands here, and makes
            every later load better.
          </p>
        {/if}
        <p class="mt-6 text-sm text-muted">
          To see it at work with made-up sets:
          <button
            class="font-semibold underline disabled:opacity-40"
            disabled={log.busy}
            onclick={() => void log.weeksPass(4)}>let a month pass</button
          >. A simulated client trains by the accepted swaps.
          <a class="underline" href="/api/clients/{log.client}/log/file?form=csv" download
            >Save the sets (CSV)</a
          >,
          <a class="underline" href="/api/clients/{log.client}/log/file?form=json" download
            >the whole log (JSON)</a
          >, or
          <Bring {log} />.
        </p>
      </section>
      <aside
        class="border-line bg-panel px-5 py-4 lg:min-h-0 lg:overflow-y-auto lg:border-l"
        aria-label="What the log taught"
      >
        <Cards {log} />
        <div class="mt-4">
          <Taught
            log={doc}
            {lift}
            avoided={(log.record?.client.restrictions ?? [])
              .filter((r) => r.action === 'any')
              .map((r) => r.joint)}
            ontakeback={(id) => void log.takeBack(id)}
            onavoid={(id, where) => void log.avoid(id, where)}
          />
        </div>
      </aside>
    </div>
  {/if}
</Shell>
