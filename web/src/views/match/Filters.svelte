<!-- What to leave out and how loads are equal. -->
<script lang="ts">
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench };
  let { bench }: Props = $props();
  const ways = [
    {
      id: 'hardest',
      name: 'equal effort at the hardest point',
      about: 'what decides the reps; the usual way',
    },
    {
      id: 'mean',
      name: 'equal effort on average over the range',
      about: 'heavier where a swap has a sharp peak',
    },
    {
      id: 'lengthened',
      name: 'equal effort in the stretched half',
      about: 'for lifts prescribed for the stretch',
    },
  ] as const;
  function toggle(id: string) {
    const now = bench.rank.without ?? [];
    void bench.again({ without: now.includes(id) ? now.filter((x) => x !== id) : [...now, id] });
  }
  /** Leaves out what is usually busy at some hours, or no longer. */
  function during(items: string[]) {
    const now = bench.rank.without ?? [];
    const all = items.every((id) => now.includes(id));
    const others = now.filter((id) => !items.includes(id));
    void bench.again({ without: all ? others : [...others, ...items] });
  }
</script>

<div class="space-y-5 text-sm">
  <fieldset>
    <legend class="mb-1.5 font-semibold">Loads are converted to</legend>
    {#each ways as way (way.id)}
      <label class="flex gap-2 py-0.5">
        <input
          type="radio"
          name="equivalence"
          value={way.id}
          checked={bench.rank.equivalence === way.id}
          onchange={() => void bench.again({ equivalence: way.id })}
        />
        <span>{way.name} <span class="text-muted">· {way.about}</span></span>
      </label>
    {/each}
  </fieldset>
  <fieldset>
    <legend class="mb-1.5 font-semibold">Repetitions are restated by</legend>
    {#each [{ id: 'epley', name: 'Epley 1985' }, { id: 'brzycki', name: 'Brzycki 1993' }] as const as law (law.id)}
      <label class="mr-5 inline-flex gap-2">
        <input
          type="radio"
          name="law"
          checked={bench.rank.law === law.id}
          onchange={() => void bench.again({ law: law.id })}
        />
        {law.name}
      </label>
    {/each}
  </fieldset>
  <fieldset>
    <legend class="mb-1.5 font-semibold">Show</legend>
    <label class="flex gap-2 py-0.5">
      <input
        type="checkbox"
        checked={bench.rank.one_side}
        onchange={() => void bench.again({ one_side: !bench.rank.one_side })}
      /> only lifts for one side at a time
    </label>
    <label class="flex gap-2 py-0.5">
      <input
        type="checkbox"
        checked={bench.rank.known_only}
        onchange={() => void bench.again({ known_only: !bench.rank.known_only })}
      />
      only lifts that {bench.client?.client.name ?? 'the client'} knows
    </label>
    <label class="flex gap-2 py-0.5">
      <input
        type="checkbox"
        checked={bench.rank.unlike}
        onchange={() => void bench.again({ unlike: !bench.rank.unlike })}
      />
      also what is hardly alike
    </label>
  </fieldset>
  <fieldset>
    <legend class="mb-1.5 font-semibold">In use by others</legend>
    {#if bench.crowds.length}
      <p class="mb-2 flex flex-wrap items-center gap-2">
        <span class="text-muted">Usually busy:</span>
        {#each bench.crowds as crowd (crowd.when)}
          <button
            class="rounded border border-line px-2 py-0.5 hover:border-ink aria-pressed:bg-ink aria-pressed:text-panel"
            aria-pressed={crowd.items.every((id) => bench.rank.without?.includes(id))}
            onclick={() => during(crowd.items)}>{crowd.when}</button
          >
        {/each}
      </p>
    {/if}
    <div class="grid max-h-64 grid-cols-2 gap-x-4 overflow-y-auto">
      {#each bench.items as item (item.id)}
        <label class="flex gap-2 py-0.5">
          <input
            type="checkbox"
            checked={bench.rank.without?.includes(item.id)}
            onchange={() => toggle(item.id)}
          />
          <span class="truncate" title={item.name}>{item.name}</span>
        </label>
      {/each}
    </div>
  </fieldset>
  {#if bench.client?.client.banned?.length}
    <section>
      <h3 class="mb-1 font-sans font-semibold">Never for {bench.client.client.name}</h3>
      {#each bench.client.client.banned as movement (movement)}
        <p class="flex justify-between gap-3 py-0.5">
          <span>{movement.replaceAll('_', ' ')}</span>
          <button class="font-semibold underline" onclick={() => void bench.mark('banned', movement)}
            >Allow again</button
          >
        </p>
      {/each}
    </section>
  {/if}
</div>
