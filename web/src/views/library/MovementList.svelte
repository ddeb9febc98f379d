<!-- All movements by family, narrowed by name, muscle or kit. -->
<script lang="ts">
  import Search from '@lucide/svelte/icons/search';
  import type { Library } from './library.svelte';

  let { library, field = $bindable() }: { library: Library; field: HTMLInputElement | undefined } = $props();
</script>

<nav class="flex flex-col border-line max-lg:max-h-56 lg:min-h-0 lg:border-r" aria-label="Movements">
  <label class="m-3 flex items-center gap-2 rounded-full border border-line bg-panel px-3 py-1.5">
    <Search size={15} class="shrink-0 text-muted" />
    <input
      bind:this={field}
      bind:value={library.search}
      class="min-w-0 flex-1 bg-transparent text-sm outline-none"
      placeholder="name, muscle or kit"
      aria-label="Search movements"
      onkeydown={(e) => {
        if (e.key === 'Enter' && library.order[0]) library.open(library.order[0].id);
        if (e.key === 'Enter' || e.key === 'Escape') field?.blur();
      }}
    />
  </label>
  <div class="min-h-0 flex-1 overflow-y-auto px-3 pb-4">
    {#each library.families as family (family.name)}
      <h2 class="mt-3 mb-1 section-title text-muted">
        {family.name}
      </h2>
      <ul>
        {#each family.movements as m (m.id)}
          <li>
            <button
              id="movement-{m.id}"
              class="w-full rounded-md px-2.5 py-1 text-left text-sm {m.id === library.id
                ? 'bg-ink font-semibold text-paper'
                : 'hover:bg-soft'}"
              aria-current={m.id === library.id}
              data-shortcut-through
              onclick={() => library.open(m.id)}>{m.name}</button
            >
          </li>
        {/each}
      </ul>
    {:else}
      <p class="p-2 text-sm text-muted">
        {library.search ? 'Nothing found: try a muscle, such as lats, or a kit, such as cable.' : 'Reading …'}
      </p>
    {/each}
  </div>
</nav>
