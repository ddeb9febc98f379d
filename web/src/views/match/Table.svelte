<!-- Ribbon and figures as a table, for who reads rather than looks. -->
<script lang="ts">
  import { sentence, twinRows } from '../../lib/draw/twin';
  import type { Bench } from './match.svelte';

  let { bench }: { bench: Bench } = $props();
  const target = $derived(bench.match?.prescribed.target ?? '');
  const name = $derived(bench.match?.prescribed.target_name ?? '');
  const rows = $derived(
    bench.above?.profile && bench.swap?.profile
      ? twinRows(bench.above.profile, bench.swap.profile, target)
      : [],
  );
</script>

{#if bench.above?.profile && bench.swap?.profile}
  <p class="text-sm">
    <strong class="text-prescribed">{bench.above.title}</strong>: {sentence(
      bench.above.profile,
      target,
      name,
    )}
  </p>
  <p class="mt-1 text-sm">
    <strong class="text-swap">{bench.swap.title}</strong>: {sentence(bench.swap.profile, target, name)}
  </p>
  <table class="mt-3 w-full text-sm">
    <caption class="pb-1 text-left text-small text-muted"
      >Load on the {name} over its own length, 0 % longest to 100 % shortest</caption
    >
    <thead class="text-left text-small text-muted">
      <tr
        ><th scope="col">Length</th><th scope="col">Prescribed</th><th scope="col">there</th><th scope="col"
          >Swap</th
        ><th scope="col">there</th></tr
      >
    </thead>
    <tbody>
      {#each rows as row (row.length)}
        <tr class="border-t border-line">
          <th scope="row" class="py-0.5 text-left font-normal">{Math.round(row.length * 100)} %</th>
          <td class="font-semibold text-prescribed">{row.over}</td>
          <td class="text-muted">{row.readings[0]}</td>
          <td class="font-semibold text-swap">{row.under}</td>
          <td class="text-muted">{row.readings[1]}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
