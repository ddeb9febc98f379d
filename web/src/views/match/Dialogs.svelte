<!-- Why a match is what it is, both set-ups from three sides, and the weights of the lens. -->
<script lang="ts">
  import Dialog from '../../lib/ui/Dialog.svelte';
  import type { Bench } from './match.svelte';
  import Parts from './Parts.svelte';
  import Sides from './Sides.svelte';
  import Table from './Table.svelte';
  import Weights from './Weights.svelte';

  let {
    bench,
    why = $bindable(),
    sides = $bindable(),
    table = $bindable(),
    weights = $bindable(),
  }: { bench: Bench; why: boolean; sides: boolean; table: boolean; weights: boolean } = $props();
</script>

{#if bench.match && bench.swap && bench.above}
  <Dialog
    bind:open={why}
    title="Why {Math.round(bench.swap.match)}"
    about="{bench.swap.title}, {bench.swap.kit}, against {bench.match.prescribed.title}. Lens: {bench.match
      .lens_name}."
  >
    <Parts swap={bench.swap} lensFor={bench.match.lens_for} lensAgainst={bench.match.lens_against} />
    <button
      class="mt-4 rounded-md border border-line px-4 py-1.5 text-sm font-semibold hover:border-muted"
      onclick={() => {
        why = false;
        weights = true;
      }}>Weigh the parts otherwise</button
    >
  </Dialog>
  <Dialog
    bind:open={sides}
    wide
    title="From three sides"
    about="{bench.above.title} above, {bench.swap.title} below, at the same muscle length."
  >
    <Sides {bench} />
  </Dialog>
  <Dialog
    bind:open={table}
    wide
    title="As a table"
    about="What ribbon and figures show, in rows: {bench.above.title} above, {bench.swap.title} below."
  >
    <Table {bench} />
  </Dialog>
  <Dialog bind:open={weights} title="Weights of {bench.match.lens_name}" about="Kept for all your clients.">
    <Weights {bench} done={() => (weights = false)} />
  </Dialog>
{/if}
