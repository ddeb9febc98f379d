<!-- The frame of every screen: mark, where we are, tools, theme, and the list of shortcuts on one key. -->
<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import Moon from '@lucide/svelte/icons/moon';
  import Search from '@lucide/svelte/icons/search';
  import Sun from '@lucide/svelte/icons/sun';
  import { DropdownMenu } from 'bits-ui';
  import type { Snippet } from 'svelte';
  import { navigate, p } from '../../router';
  import Dialog from './Dialog.svelte';
  import Find from './Find.svelte';
  import { handler, type Shortcut } from './keys';
  import { theme } from './theme.svelte';
  import { tour } from './tour.svelte';
  import Tour from './Tour.svelte';

  const VIEWS = [
    ['/places', 'Places'],
    ['/measuring', 'Measuring'],
    ['/movements', 'Movements'],
    ['/calculators', 'Calculators'],
    ['/workspace', 'Workspace'],
  ] as const;
  type Props = { title: string; shortcuts: Shortcut[]; crumbs?: Snippet; tools?: Snippet; children: Snippet };
  let main: HTMLElement | undefined = $state();
  let { title, shortcuts, crumbs, tools, children }: Props = $props();
  let help = $state(false);
  let finding = $state(false);
  const all = $derived<Shortcut[]>([
    ...shortcuts,
    { keys: ['/'], shown: '/', does: 'Find anything', run: () => (finding = true) },
    { keys: ['m'], shown: 'M', does: 'Movement library', run: () => void navigate('/movements') },
    { keys: ['l'], shown: 'L', does: 'Places', run: () => void navigate('/places') },
    { keys: ['d'], shown: 'D', does: 'Dark or light', run: () => theme.toggle() },
    { keys: ['?'], shown: '?', does: 'This list', run: () => (help = true) },
  ]);
  const onkeydown = handler(() => all);
</script>

<svelte:head><title>{title} · Odd Swap</title></svelte:head>
<svelte:window {onkeydown} />

<a
  href="#main"
  class="sr-only z-50 rounded-md bg-ink px-4 py-2 font-semibold text-paper focus:not-sr-only focus:absolute focus:top-2 focus:left-2"
  onclick={(e) => {
    e.preventDefault();
    main?.focus();
  }}>Skip to the content</a
>
<div class="flex h-full flex-col">
  <header
    class="flex min-h-13 shrink-0 flex-wrap items-center gap-x-3.5 gap-y-1 border-b border-line px-5 max-lg:px-3 max-lg:py-1.5"
  >
    <a href={p('/')} class="flex items-center gap-2.5" aria-label="Odd Swap: to the roster">
      <svg viewBox="0 0 32 32" width="28" height="28" aria-hidden="true">
        <path d="M3 15C7 5 13 4 18 5s8 5 10 10z" fill="var(--prescribed)" />
        <path d="M5 17c2 8 7 11 12 10s7-5 9-10z" fill="var(--swap)" />
        <path d="M1 16h30" stroke="var(--ink)" stroke-width="2" />
      </svg>
      <span class="font-head text-lg font-bold">Odd Swap</span>
    </a>
    <nav class="min-w-0 flex-1 truncate text-sm text-muted" aria-label="Where we are">
      {@render crumbs?.()}
    </nav>
    {#if tools}
      <div
        class="flex items-center gap-3.5 max-lg:order-last max-lg:w-full max-lg:gap-2 max-lg:overflow-x-auto max-lg:py-1"
      >
        {@render tools()}
      </div>
    {/if}
    {#if tools}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          class="flex items-center gap-1 text-sm font-semibold text-muted hover:text-ink max-xl:hidden 2xl:hidden"
          >Go to <ChevronDown size={14} /></DropdownMenu.Trigger
        >
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            class="z-50 min-w-40 rounded-lg border border-line bg-panel p-1 shadow-lg"
            sideOffset={6}
          >
            {#each VIEWS as [to, name] (to)}
              <DropdownMenu.Item
                class="cursor-pointer rounded-md px-3 py-1.5 text-sm data-highlighted:bg-soft"
                onSelect={() => void navigate(to)}>{name}</DropdownMenu.Item
              >
            {/each}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    {/if}
    <div
      class="flex gap-3.5 max-xl:order-last max-xl:w-full max-xl:overflow-x-auto max-xl:py-1 {tools
        ? 'xl:max-2xl:hidden'
        : ''}"
    >
      {#each VIEWS as [to, name] (to)}
        <a class="text-sm font-semibold text-muted hover:text-ink" href={p(to)}>{name}</a>
      {/each}
    </div>
    <button
      class="rounded p-1.5 text-muted hover:text-ink"
      onclick={() => (finding = true)}
      aria-label="Find anything"
    >
      <Search size={18} />
    </button>
    <button
      class="rounded p-1.5 text-muted hover:text-ink"
      onclick={() => theme.toggle()}
      aria-label={theme.dark ? 'Use the light theme' : 'Use the dark theme'}
    >
      {#if theme.dark}<Sun size={18} />{:else}<Moon size={18} />{/if}
    </button>
    <button
      class="h-7 w-7 rounded border border-line bg-panel text-sm font-semibold text-muted hover:text-ink"
      onclick={() => (help = true)}
      aria-label="Keyboard shortcuts">?</button
    >
  </header>
  <main id="main" tabindex="-1" class="min-h-0 flex-1 outline-none" bind:this={main}>
    {@render children()}
  </main>
</div>

<Tour />
<Find bind:open={finding} />
<Dialog bind:open={help} title="Keys" about="Everything on this screen works without a mouse.">
  <dl class="grid grid-cols-[auto_1fr] items-center gap-x-5 gap-y-2">
    {#each all as shortcut (shortcut.shown)}
      <dt class="flex gap-1">
        {#each shortcut.shown.split(' ') as key (key)}
          <kbd class="rounded border border-line bg-soft px-2 py-0.5 font-sans text-sm font-semibold"
            >{key}</kbd
          >
        {/each}
      </dt>
      <dd>{shortcut.does}</dd>
    {/each}
  </dl>
  <p class="mt-4">
    <button
      class="font-semibold underline"
      onclick={() => {
        help = false;
        tour.to(0);
        void navigate('/');
      }}>Show me around</button
    >, by the real controls, from the roster to a client's card.
  </p>
</Dialog>
