<!-- All readings; those left out are struck through. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import { counted } from '../../lib/ui/typed';
  import type { Run } from './measure.svelte';
  import { shownUnits, tenths } from './readings';

  let { run }: { run: Run } = $props();

  const u = $derived(shownUnits(run.what));
  const earlier = $derived(run.runs.filter((r) => r.id !== run.id));
  const when = (at: string) =>
    new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
</script>

<section class="min-h-0 overflow-y-auto px-5 py-4" aria-label="Readings">
  <div class="flex items-baseline">
    <h2 class="section-title">Readings</h2>
    <span class="ml-auto flex gap-3">
      {#if run.canUndo}<button class="text-sm font-semibold underline" onclick={() => void run.back()}
          >Undo</button
        >{/if}
      {#if run.rows.length}<button class="text-sm text-muted underline" onclick={() => run.clear()}
          >Begin again</button
        >{/if}
    </span>
  </div>
  {#if run.what === 'joint'}
    <p class="mt-1 text-sm text-muted">
      {run.rows.length} angles over {Math.round(run.rows.at(-1)?.at ?? 0)} s
    </p>
  {:else}
    <table class="mt-1 w-full text-sm">
      <thead class="text-left text-small text-muted"
        ><tr
          ><th class="font-normal">{u.at}</th><th class="text-right font-normal">N</th
          >{#if run.what === 'column'}<th class="text-right font-normal">N, sinking</th>{/if}<th
            class="text-right font-normal">off</th
          ><th class="sr-only">remove</th></tr
        ></thead
      >
      <tbody>
        {#each run.rows as r, i (i)}
          <tr class="border-t border-line {run.fit?.outliers[i] ? 'text-muted line-through' : ''}">
            <td>{u.text(r.at)}</td>
            <td class="text-right">{tenths(r.value - r.zero)}</td>
            {#if run.what === 'column'}<td class="text-right">{tenths((r.down ?? 0) - r.zero)}</td>{/if}
            <td class="text-right"
              >{run.fit?.residuals[i] === undefined ? '' : tenths(run.fit.residuals[i]!)}</td
            >
            <td class="text-right"
              ><button
                class="text-muted hover:text-ink"
                aria-label="Remove reading {i + 1}"
                onclick={() => void run.drop(i)}><Trash size={13} /></button
              ></td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#if earlier.length}
    <h2 class="mt-6 section-title">Kept runs</h2>
    <ul class="mt-1 text-sm">
      {#each earlier as r (r.id)}
        <li class="flex items-baseline gap-3 border-t border-line py-1">
          <span
            >{when(r.changed_at)}<span class="block text-small text-muted"
              >{counted(r.run.measurement.readings.length, 'reading')}{r.run.kept
                ? ', in use'
                : ', not used yet'}</span
            ></span
          >
          <button class="ml-auto font-semibold underline" onclick={() => void run.resume(r.id)}>Go on</button>
        </li>
      {/each}
    </ul>
  {/if}
</section>
