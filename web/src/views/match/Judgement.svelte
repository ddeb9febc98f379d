<!-- What a coach weighs: who works, who limits the set, what helps, who would choose otherwise. -->
<script lang="ts">
  import type { Swap } from '../../lib/api/client';
  import type { Bench } from './match.svelte';

  type Props = { bench: Bench; swap: Swap };
  let { bench, swap }: Props = $props();
  const detail = $derived(bench.detail);
  const bands = { main: 'mainly', strong: 'strongly', some: 'some', little: 'a little' };
  const equal: Record<string, string> = {
    hardest: 'at the hardest point',
    mean: 'on average',
    lengthened: 'in the stretched half',
  };
  /** Calculators that this set-up's kit calls for, with its figures put in. */
  const calculators = $derived.by(() => {
    const [first] = swap.set_up.sources;
    const link = (name: string, sum: string, values: Record<string, string | number>) => ({
      name,
      href: `/calculators/${sum}?${new URLSearchParams(Object.entries(values).map(([k, v]) => [k, String(v)]))}`,
    });
    const out = [];
    if (first?.kind === 'barbell') {
      const plates = first.bar.plates.map((q) => `${q.count}x${q.mass_kg}`).join(' ');
      out.push(link('plates a side', 'plates', { mass_kg: first.mass_kg, bar_kg: first.bar.bar_kg, plates }));
    }
    if (first?.kind === 'cable' && first.use === 'rope')
      out.push(link('spread of the rope', 'split', { load_kg: first.stack_kg }));
    if (first?.kind === 'lever') out.push(link('the lever', 'lever', { plates_kg: first.plates_kg }));
    if (first?.kind === 'band') out.push(link('band stretch', 'band', {}));
    if (detail?.amounts.length && first && first.kind !== 'band')
      out.push(link('drop ladder', 'drops', { start_kg: swap.load.amount, loads: detail.amounts.join(' ') }));
    return out;
  });
  const completes = $derived(bench.hand ? null : (bench.match?.completes?.[bench.chosen] ?? null));
</script>

<div class="space-y-3 text-sm" role="group" aria-label="Judgement">
  {#if !detail}
    <p class="text-muted">Weighing muscles and tolerances …</p>
  {:else}
    <section>
      <h4 class="mb-1 font-semibold">Who works</h4>
      <ul class="space-y-0.5">
        {#each detail.helpers.slice(0, 6) as h (h.group + h.joint)}
          <li class="grid grid-cols-[1fr_70px_64px] items-center gap-2">
            <span>{h.name} <span class="text-muted">at the {h.joint}</span></span>
            <span class="h-1.5 rounded-full bg-soft"
              ><span class="block h-1.5 rounded-full bg-swap" style:width="{h.share * 100}%"></span></span
            >
            <span class="text-right text-small text-muted">{bands[h.band]}</span>
          </li>
        {/each}
      </ul>
      <p class="mt-1.5" class:text-swap={!detail.target_first}>{detail.limits_set}</p>
      {#if detail.won.length}<p>More work than prescribed: {detail.won.join(', ')}.</p>{/if}
      {#if detail.lost.length}<p>Less work: {detail.lost.join(', ')}.</p>{/if}
    </section>
    {#if detail.to_see.length || detail.after_failure}
      <section>
        <h4 class="mb-1 font-semibold">To see and to do</h4>
        {#each detail.to_see as check (check)}<p>{check}</p>{/each}
        {#if detail.after_failure}<p>{detail.after_failure}</p>{/if}
      </section>
    {/if}
    <section>
      <h4 class="mb-1 font-semibold">Load</h4>
      {#if swap.load.equivalents && Object.keys(swap.load.equivalents).length}
        <p>
          Equal effort {#each Object.entries(swap.load.equivalents) as [name, words], i (name)}{i
              ? '; '
              : ''}{equal[name]}: <strong>{words}</strong>{/each}.
        </p>
      {/if}
      {#if swap.load.drops?.length}
        <p>
          Drop set: {#each swap.load.drops as drop, i (drop.words)}{i ? ', ' : ''}<strong>{drop.words}</strong
            >{drop.coarse ? ` (${Math.round(100 - 100 * drop.part)} % off: reps rise)` : ''}{/each}.
        </p>
      {/if}
      {#each detail.remedies as text (text)}<p>· {text}</p>{/each}
      {#if calculators.length}
        <p class="text-muted">
          Calculators: {#each calculators as one, i (one.name)}{i ? ', ' : ''}<a
              class="underline hover:text-ink"
              href={one.href}>{one.name}</a
            >{/each}
        </p>
      {/if}
    </section>
  {/if}
  {#if detail?.elsewhere.length}
    <section>
      <h4 class="mb-1 font-semibold">When it is in use</h4>
      {#each detail.elsewhere as other (other.id)}
        <p><strong>{Math.round(other.match)}</strong> {other.name}, {other.load}</p>
      {/each}
    </section>
  {/if}
  {#if completes}
    {@const other = bench.match?.swaps[completes.swap]}
    <section>
      <h4 class="mb-1 font-semibold">Complete the range</h4>
      <p>
        <button class="font-semibold underline" onclick={() => bench.choose(completes.swap)}
          >{other?.title}</button
        >
        loads {Math.round(completes.part * 100)} % of what this leaves empty: a second lift for it.
      </p>
    </section>
  {/if}
  {#if bench.match?.dissents?.length && !bench.hand}
    <section>
      <h4 class="mb-1 font-semibold">Who would choose otherwise</h4>
      {#each bench.match.dissents as d (d.lens)}
        <p>
          <button class="font-semibold underline" onclick={() => void bench.again({ lens: d.lens })}
            >{d.lens_name}</button
          >: {d.text}
        </p>
      {/each}
    </section>
  {/if}
</div>
