<!-- The measuring bench: a guided run from readings to figures that go into the kit or the client. -->
<script lang="ts">
  import type { Shortcut } from '../../lib/ui/keys';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, route } from '../../router';
  import Guide from './Guide.svelte';
  import { Run } from './measure.svelte';
  import type { What } from './readings';
  import Readings from './Readings.svelte';
  import Result from './Result.svelte';

  const run = new Run();
  const params = route.params as { place?: string; item?: string };
  void run.start(Number(params.place) || 0, params.item ?? '');
  const names: Record<What, string> = {
    band: 'band',
    column: 'pulley column',
    cam: 'machine cam',
    joint: 'joint range',
  };
  const shortcuts: Shortcut[] = [
    {
      keys: [' '],
      shown: 'Space',
      does: 'Read the next point',
      run: () => void (run.next !== null && run.way === 'stand-in' && run.read(run.next)),
    },
    { keys: ['a'], shown: 'A', does: 'Read all that is left', run: () => void run.readAll() },
    {
      keys: ['Escape'],
      shown: 'Esc',
      does: 'To the place',
      run: () => void navigate('/places/:place', { params: { place: String(run.place) } }),
    },
  ];
</script>

<Shell title="Measuring bench" {shortcuts}>
  {#snippet crumbs()}<span class="font-semibold text-ink">Measuring bench</span>{/snippet}
  {#snippet tools()}
    <Pick
      name="measure"
      value={run.what}
      items={Object.entries(names).map(([v, label]) => ({ value: v, label }))}
      onpick={(v) => run.choose(v as What)}
    />
    {#if run.what === 'joint'}
      <Pick
        name="of"
        value={String(run.client)}
        items={run.clients.map((c) => ({ value: String(c.id), label: c.client.name }))}
        onpick={(v) => (run.client = Number(v))}
      />
      <Pick
        name="joint"
        value={run.joint}
        items={run.ranges.map((r) => ({ value: r.name, label: r.name.replaceAll('_', ' ') }))}
        onpick={(v) => {
          run.joint = v;
          run.clear();
        }}
      />
    {:else}
      <Pick
        name="at"
        value={String(run.place)}
        items={run.places.map((q) => ({ value: String(q.id), label: q.name }))}
        onpick={(v) => void run.at(Number(v))}
      />
      {#if run.item}
        <Pick
          name="item"
          value={run.item.id}
          items={run.items.map((k) => ({ value: k.id, label: k.name }))}
          onpick={(v) => {
            run.itemId = v;
            run.clear();
          }}
        />
      {/if}
    {/if}
  {/snippet}

  <div class="h-full overflow-y-auto lg:grid lg:grid-cols-[290px_minmax(380px,1fr)_320px] lg:overflow-hidden">
    <Guide {run} {names} />
    <Result {run} />
    <Readings {run} />
  </div>
</Shell>
