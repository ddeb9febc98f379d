<!-- What asks for a coach, over all clients; each opens where it is dealt with. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../../lib/api/client';
  import { Latest } from '../../lib/api/latest';
  import { navigate } from '../../router';

  let { changed }: { changed: unknown } = $props();
  let items: Schemas['AttentionItemDoc'][] = $state.raw([]);
  let all = $state(false);
  const latest = new Latest();
  $effect(() => {
    void changed;
    void latest.of(ask(api.GET('/api/attention'))).then((answer) => (items = answer?.data?.items ?? items));
  });
  const NAMES: Record<string, string> = {
    pain: 'Hurts',
    conflict: 'Disagree',
    shift: 'Shifted',
    stale: 'Stale',
    unopened: 'Unopened',
    falling: 'Falling',
    plateau: 'Stuck',
    sides: 'Sides',
    rotation: 'Rotate',
    clock: 'Clock',
  };
  /** A path with what of it is meant behind a #. */
  function open(to: string) {
    const [path, hash] = to.split('#');
    void navigate(path as '/', hash ? { hash } : {});
  }
  const shown = $derived(items.slice(0, all ? undefined : 5));
  const day = (at: string | null | undefined) =>
    at ? new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short' }) : '';
</script>

{#if items.length}
  <section class="mb-4 rounded-lg border border-line bg-panel p-3" aria-label="Wants a look">
    <h2 class="section-title">Wants a look: {items.length}</h2>
    <ul class="mt-1">
      {#each shown as item, i (i)}
        <li class="border-t border-line">
          <button class="w-full py-1.5 text-left text-sm hover:bg-soft" onclick={() => open(item.path)}>
            <span class="flex justify-between gap-2"
              ><strong class={item.what === 'pain' ? 'text-swap' : ''}>{NAMES[item.what] ?? item.what}</strong
              ><span class="text-muted"
                >{item.client_name}{item.since ? `, ${day(item.since as string)}` : ''}</span
              ></span
            >
            <span class="block">{item.words}</span>
          </button>
        </li>
      {/each}
    </ul>
    {#if items.length > 5}<button class="mt-1 text-small underline" onclick={() => (all = !all)}
        >{all ? 'Fewer' : `All ${items.length}`}</button
      >{/if}
  </section>
{/if}
