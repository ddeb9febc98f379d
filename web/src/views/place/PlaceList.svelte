<!-- All places, and beginning a new one. -->
<script lang="ts">
  import type { PlaceDoc } from '../../lib/api/client';
  import type { Places } from './place.svelte';

  let { places, onfile }: { places: Places; onfile: () => void } = $props();

  const EMPTY: PlaceDoc = {
    format: 'odd-swap/place/2',
    name: 'New place',
    room: { length_cm: 400, width_cm: 300, ceiling_cm: 250 },
    kit: [],
    busy: [],
    plan: [],
    note: '',
  };
  let fresh = $state('');
  function begin(kind: string) {
    if (kind === 'file') onfile();
    else void places.add(kind === 'empty' ? EMPTY : places.ready[Number(kind)]!);
    fresh = '';
  }
</script>

<nav class="flex flex-col border-line p-3 lg:min-h-0 lg:overflow-y-auto lg:border-r" aria-label="Places">
  <ul class="flex gap-2 overflow-x-auto lg:block lg:space-y-1">
    {#each places.list as place (place.id)}
      <li class="shrink-0">
        <button
          class="w-full rounded-md px-2.5 py-1.5 text-left text-sm {place.id === places.id
            ? 'bg-ink font-semibold text-paper'
            : 'hover:bg-soft'}"
          aria-current={place.id === places.id}
          data-shortcut-through
          onclick={() => void places.open(place.id)}
          >{place.name}<span class="block text-small opacity-75">{place.items} items</span></button
        >
      </li>
    {/each}
  </ul>
  <label class="mt-4 text-small text-muted"
    >New place from
    <select
      class="mt-1 h-8 w-full rounded-md border border-line bg-panel px-2 text-sm text-ink"
      bind:value={fresh}
      onchange={() => begin(fresh)}
    >
      <option value="" disabled>pick …</option>
      <option value="empty">nothing</option>
      {#each places.ready as kit, i (kit.name)}<option value={String(i)}>{kit.name.toLowerCase()}</option
        >{/each}
      <option value="file">a file …</option>
    </select>
  </label>
  {#if places.removed}
    <button
      class="mt-3 rounded-md border border-line bg-panel px-2 py-1.5 text-left text-sm"
      onclick={() => void places.restore()}>Put back {places.removed.name}</button
    >
  {/if}
</nav>
