<!-- Sets a week by muscle and third of its length: written above the line, at a place below it; what is lost is said. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../../lib/api/client';
  import { Latest } from '../../lib/api/latest';
  import { navigate } from '../../router';
  import { typed } from '../../lib/ui/typed';
  import Mends from './Mends.svelte';

  type Week = Schemas['WeekDoc'];
  let { client, changed, onchanged }: { client: number; changed: unknown; onchanged: () => void } = $props();
  let week = $state.raw<Week | null>(null);
  let place = $state(0);
  let all = $state(false);
  const latest = new Latest();
  async function read() {
    const path = { params: { path: { client } } };
    const answer = await latest.of(ask(api.GET('/api/clients/{client}/week', path)));
    if (answer) week = answer.data ?? null;
  }
  $effect(() => {
    void changed;
    void read();
  });
  let rejected = $state('');
  let wishing = $state('');
  /** Sets wanted for a muscle, typed as 10-16 or 12; empty for none. */
  async function wish(group: string, text: string) {
    const numbers = [...text.matchAll(/\d+(?:[.,]\d+)?/g)].map((n) => typed(n[0]));
    const wanted = Object.fromEntries(
      (week?.muscles ?? []).flatMap((m) => (m.wanted && m.group !== group ? [[m.group, m.wanted]] : [])),
    );
    const [low, high] = numbers;
    if (low !== undefined) wanted[group] = { low, high: high ?? low };
    const path = { params: { path: { client } }, body: { wanted } };
    const answer = await ask(api.PUT('/api/clients/{client}/weekly-sets', path));
    rejected = answer.problem
      ? (answer.problem.faults?.map((f) => `${f.limit}. ${f.way_out}.`)[0] ?? answer.problem.detail)
      : '';
    wishing = rejected ? group : '';
    if (!answer.data) return;
    week = answer.data;
    await read(); // what was asked meanwhile may know nothing of it
  }
  const span = (m: Week['muscles'][number]) =>
    m.wanted ? (m.wanted.low === m.wanted.high ? `${m.wanted.low}` : `${m.wanted.low}–${m.wanted.high}`) : '';
  const sum = (thirds: number[] | undefined) => (thirds ?? []).reduce((a, b) => a + b, 0);
  const at = $derived(week?.places.find((p) => p.place === place) ?? week?.places[0] ?? null);
  const rows = $derived((week?.muscles ?? []).filter((m) => all || m.meant));
  const most = $derived(
    Math.max(1, ...(week?.muscles ?? []).map((m) => Math.max(sum(m.written), sum(at?.sets[m.group])))),
  );
  const lost = $derived(new Set(at?.losses.map((l) => l.group) ?? []));
  const round = (v: number) => (Math.round(v * 2) / 2).toString();
  const WIDE = 190;
  /** The thirds of a bar: where each begins and how long it is. */
  function bars(thirds: number[] | undefined) {
    let x = 0;
    return (thirds ?? []).map((v) => {
      const part = { x, w: (v / most) * WIDE };
      x += part.w;
      return part;
    });
  }
</script>

{#snippet thirds(sets: number[] | undefined, y: number, fill: string)}
  {#each bars(sets) as part, i (i)}<rect
      x={part.x}
      {y}
      width={Math.max(0, part.w - 1)}
      height="9"
      {fill}
    />{/each}
{/snippet}

{#if week && rows.length && at}
  <section class="mt-8" aria-label="The week">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h2 class="text-lg">The week, sets by muscle and third</h2>
      <div class="flex flex-wrap gap-1.5" role="group" aria-label="At which place">
        {#each week.places as p (p.place)}
          <button
            class="rounded-full border px-3 py-0.5 text-small font-semibold {p.place === at.place
              ? 'border-ink bg-ink text-paper'
              : 'border-line bg-panel hover:border-muted'}"
            aria-pressed={p.place === at.place}
            onclick={() => (place = p.place)}>{p.name}, {p.filled} of {p.lines}</button
          >
        {/each}
      </div>
      <button class="text-small text-muted underline" aria-pressed={all} onclick={() => (all = !all)}
        >{all ? 'without helpers' : 'helpers too'}</button
      >
    </div>
    <p class="text-small text-muted">
      <span class="font-semibold text-prescribed">Above: written.</span>
      <span class="font-semibold text-swap">Below: at {at.name}, by the swaps accepted there.</span> Each bar from
      the stretched third to the short one. A helper counts by how hard it works beside the line's own muscle.
    </p>
    {#each at.losses as loss (loss.words)}
      <div class="mt-2 max-w-2xl rounded-md border-l-4 border-swap bg-panel px-3 py-1.5 text-sm">
        <strong>{loss.words}</strong>
        <Mends {client} place={at.place} {loss} {onchanged} />
        <button
          class="ml-2 font-semibold underline"
          onclick={() => void navigate('/places/:place', { params: { place: String(at.place) } })}
          >What loads it there?</button
        >
      </div>
    {/each}
    <table class="mt-3 text-sm">
      <thead class="sr-only">
        <tr
          ><th>Muscle</th><th>Thirds</th><th>Sets written</th><th>Sets at {at.name}</th><th>Times a week</th
          ><th>Sets wanted</th></tr
        >
      </thead>
      <tbody>
        {#each rows as m (m.group)}
          <tr>
            <th
              scope="row"
              class="py-0.5 pr-4 text-left {lost.has(m.group) ? 'font-bold text-swap' : 'font-normal'}"
              >{m.name}</th
            >
            <td>
              <svg width={WIDE} height="20" aria-hidden="true">
                {@render thirds(m.written, 0, 'var(--prescribed)')}
                {@render thirds(at.sets[m.group], 11, 'var(--swap)')}
                <line x1="0" x2={WIDE} y1="10" y2="10" stroke="var(--line)" />
              </svg>
            </td>
            <td class="pl-3 text-right text-muted">{round(sum(m.written))}</td>
            <td class="pl-1 text-right font-semibold whitespace-nowrap"
              >→ {round(sum(at.sets[m.group]))} sets</td
            >
            <td class="pl-3 text-right text-muted" title="sessions with at least one set">{m.times}×</td>
            <td class="pl-4 whitespace-nowrap"
              ><input
                class="h-7 w-20 rounded-md border bg-panel px-2 text-sm {wishing === m.group
                  ? 'border-swap'
                  : 'border-line'}"
                value={span(m)}
                placeholder="wanted"
                aria-label="Sets wanted a week for {m.name}"
                aria-invalid={wishing === m.group}
                onchange={(e) => void wish(m.group, e.currentTarget.value)}
              />
              {#if m.off}<strong class="text-swap">{m.off}</strong>{:else if m.wanted}<span class="text-muted"
                  >as wanted</span
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#if rejected}<p class="mt-1 text-small text-swap" role="alert">{rejected}</p>{/if}
  </section>
{/if}
