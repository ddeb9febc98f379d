<!-- Muscles down, zones of their own length across: how well this place loads this client. Fill and figure say the same. -->
<script lang="ts">
  import type { Reach, ReachCell } from '../../lib/api/client';
  type Props = { reach: Reach; fair?: number };
  let { reach, fair = 50 }: Props = $props();
  let at = $state({ row: 0, zone: 0 });
  const rows = $derived(reach.rows);
  const chosen = $derived(rows[Math.min(at.row, rows.length - 1)]);
  const cell = $derived(chosen?.cells[at.zone]);
  const halves = $derived([
    rows.slice(0, Math.ceil(rows.length / 2)),
    rows.slice(Math.ceil(rows.length / 2)),
  ]);
  const ends = {
    lengthened: 'in the stretch',
    mid: 'mid-range',
    shortened: 'at the shortened end',
  } as Record<string, string>;
  const words = (c: ReachCell) => (c.possible ? `${Math.round(c.score)} of 100` : 'no lift reaches here');
</script>

<div class="grid gap-x-5 sm:grid-cols-2 lg:grid-cols-1 xl:grid-cols-2">
  {#each halves as half, h (h)}
    <table class="w-full table-fixed border-separate border-spacing-x-0.5 border-spacing-y-[3px] text-small">
      <thead>
        <tr class="text-mark font-semibold tracking-tight text-muted">
          <th class="w-[43%] text-right"><span class="sr-only">muscle</span></th>
          {#each ['lengthened', 'mid', 'shortened'] as zone (zone)}<th class="font-semibold">{zone}</th
            >{/each}
        </tr>
      </thead>
      <tbody>
        {#each half as row, i (row.group)}
          {@const r = h * halves[0]!.length + i}
          <tr>
            <th scope="row" class="truncate pr-1.5 text-right text-small font-normal">{row.name}</th>
            {#each row.cells as c, z (z)}
              {@const on = at.row === r && at.zone === z}
              <td class="p-0">
                <button
                  class="relative block h-[21px] w-full overflow-hidden rounded-[4px] border text-left {on
                    ? 'border-ink outline-1 outline-ink'
                    : 'border-line'} {c.possible ? 'bg-panel' : 'border-transparent bg-transparent'}"
                  aria-label="{row.name}, {ends[c.zone]}: {words(c)}"
                  aria-pressed={on}
                  onclick={() => (at = { row: r, zone: z })}
                >
                  {#if c.possible}
                    <span
                      class="absolute inset-y-0 left-0 {c.score >= fair ? 'bg-swap' : 'weak'}"
                      style:width="{Math.max(2, c.score)}%"
                      style:opacity={c.score >= fair ? 0.35 + 0.5 * (c.score / 100) : 1}
                    ></span>
                    <span
                      class="figure absolute inset-y-0 right-1 text-small leading-[19px] font-semibold tabular-nums"
                      >{Math.round(c.score)}</span
                    >
                  {:else}
                    <span class="absolute inset-0 text-center text-small leading-[17px] text-muted">–</span>
                  {/if}
                </button>
              </td>
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  {/each}
</div>

{#if chosen && cell}
  <div
    class="mt-3 grid gap-5 rounded-lg border border-line bg-panel px-4 py-3 text-sm sm:grid-cols-[1fr_190px]"
    aria-live="polite"
  >
    <div>
      <p class="font-head text-lg font-semibold">{chosen.name}, {ends[cell.zone]}</p>
      {#if !cell.possible}
        <p>No lift takes this muscle into this part of its range.</p>
      {:else if cell.title}
        <p><strong>{cell.title}</strong>{cell.kit ? `: ${cell.kit}` : ', own bodyweight'}</p>
        <dl class="mt-1 grid grid-cols-[60px_1fr] gap-x-2 text-small">
          {#each cell.rows as [what, value], i (i)}
            <dt class="text-muted">{what}</dt>
            <dd>{value}</dd>
          {/each}
        </dl>
      {/if}
      {#if cell.gap}<p class="mt-1 font-semibold text-swap">
          {cell.gap.charAt(0).toUpperCase() + cell.gap.slice(1)}.
        </p>{/if}
    </div>
    {#if cell.possible}
      <dl class="grid grid-cols-[1fr_auto] content-start gap-x-3 gap-y-0.5">
        <dt class="text-muted">even load there</dt>
        <dd class="text-right font-semibold">{Math.round(cell.match)} %</dd>
        <dt class="text-muted">of the load needed</dt>
        <dd class="text-right font-semibold">{Math.round(cell.load * 100)} %</dd>
        <dt class="text-muted">own part of the work</dt>
        <dd class="text-right font-semibold">{Math.round(cell.share * 100)} %</dd>
        <dt class="border-t border-line pt-0.5">together</dt>
        <dd class="border-t border-line pt-0.5 text-right font-bold">{Math.round(cell.score)}</dd>
      </dl>
    {/if}
  </div>
{/if}

<style>
  .figure {
    text-shadow:
      0 0 3px var(--panel),
      0 0 3px var(--panel),
      0 0 2px var(--panel);
  }
  .weak {
    background: repeating-linear-gradient(135deg, var(--muted) 0 1.5px, transparent 1.5px 5px);
  }
</style>
