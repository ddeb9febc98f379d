<!-- A line's swaps at all of a client's places side by side: what each is, how it loads the muscle, and what it asks. -->
<script lang="ts">
  import type { Client } from '../../lib/api/client';
  import Ribbon from '../../lib/draw/Ribbon.svelte';
  import { shapeInLittle } from '../../lib/draw/shape';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import { p } from '../../router';

  type Line = Client['programs'][number]['lines'][number];
  type Props = { client: Client; line: Line; open: boolean };
  let { client, line, open = $bindable() }: Props = $props();
  const held = $derived(
    client.places.map((place) => ({ place, swap: line.accepted.find((a) => a.place === place.id)?.swap })),
  );
</script>

<Dialog
  bind:open
  wide
  title={line.name}
  about="{line.target}, {line.scheme}, {line.load}. Above each line the prescribed resistance, below it the swap's, from the muscle's longest to its shortest."
>
  <ul class="grid gap-3" style:grid-template-columns="repeat(auto-fit, minmax(200px, 1fr))">
    {#each held as { place, swap } (place.id)}
      <li class="flex flex-col rounded-lg border border-line bg-paper p-3 text-sm">
        <span class="section-title">{place.name}</span>
        {#if swap}
          <span class="mt-2 flex items-end justify-between gap-2">
            <span class="font-head text-2xl leading-none font-bold text-swap"
              >{Math.round(swap.match)}<span class="sr-only"> of 100</span></span
            >
            {#if swap.shape && swap.asked}
              <Ribbon
                mini
                prescribed={shapeInLittle(swap.asked)}
                swap={shapeInLittle(swap.shape)}
                width={130}
                height={52}
                label="Prescribed resistance above, {swap.title} below"
              />
            {/if}
          </span>
          <span class="mt-2 font-semibold">{swap.title}</span>
          <span class="text-muted">{swap.kit}</span>
          <span class="mt-1">{swap.load.words}, {swap.load.reps} repetitions</span>
          {#if swap.reasons[0]}<span class="mt-2 text-small">{swap.reasons[0].text}</span>{/if}
        {:else}
          <span class="mt-2 text-muted">No swap yet.</span>
        {/if}
        <a
          class="mt-auto pt-2 font-semibold underline"
          href={p('/lines/:line/at/:place', {
            params: { line: String(line.id), place: String(place.id) },
          })}>{swap ? 'Pick another' : 'Find one'}</a
        >
      </li>
    {/each}
  </ul>
</Dialog>
