<!-- The tour: one real control after the other, pressed by whoever takes it. -->
<script lang="ts">
  import { STEPS, tour } from './tour.svelte';

  let box = $state.raw<DOMRect | null>(null);
  let path = $state(location.pathname);
  const step = $derived(tour.step === null ? null : STEPS[tour.step]!);
  const here = $derived(step !== null && step.path.test(path));
  /** The words stand where the control is not. */
  const low = $derived(box !== null && box.top + box.height / 2 > innerHeight * 0.5);
  const left = $derived(box !== null && box.left + box.width / 2 > innerWidth / 2);

  function control(): HTMLElement | null {
    for (const at of step && here ? step.at : []) {
      const found = document.querySelector<HTMLElement>(at);
      if (found) return found;
    }
    return null;
  }
  function look() {
    path = location.pathname;
    const found = control()?.getBoundingClientRect();
    box = found?.width ? found : null;
  }
  $effect(() => {
    if (!step) return;
    control()?.scrollIntoView({ block: 'nearest' });
    look();
    const often = setInterval(look, 200);
    const at = tour.step!;
    const pressed = (e: Event) => {
      // Any control of the kind will do.
      const kind = here ? STEPS[at]!.at.join(', ') : '';
      if (kind && e.target instanceof Element && e.target.closest(kind)) tour.to(at + 1);
    };
    document.addEventListener('click', pressed, true);
    document.addEventListener('change', pressed, true);
    return () => {
      clearInterval(often);
      document.removeEventListener('click', pressed, true);
      document.removeEventListener('change', pressed, true);
    };
  });
</script>

{#if step}
  {#if box}
    <div
      class="pointer-events-none fixed z-40 rounded-lg border-3 border-prescribed"
      style:left="{box.left - 5}px"
      style:top="{box.top - 5}px"
      style:width="{box.width + 10}px"
      style:height="{box.height + 10}px"
    ></div>
  {/if}
  <section
    class="fixed z-40 w-80 max-w-[calc(100vw-24px)] rounded-lg border border-ink bg-panel px-4 py-3 text-sm shadow-lg {low
      ? 'top-16'
      : 'bottom-16'} {left ? 'left-3' : 'right-3'}"
    aria-label="Tour"
    aria-live="polite"
  >
    <p class="flex items-baseline justify-between gap-3">
      <strong class="font-head text-lg">{step.title}</strong>
      <span class="whitespace-nowrap text-muted">{tour.step! + 1} of {STEPS.length}</span>
    </p>
    {#if here}
      <p class="mt-1">{step.words}</p>
      {#if !box}<p class="mt-1 text-muted">It is not on this screen just now.</p>{/if}
    {:else}
      <p class="mt-1">Go to {step.screen} to go on.</p>
    {/if}
    <p class="mt-2 flex gap-4">
      <button class="font-semibold underline" onclick={() => tour.to(tour.step! + 1)}
        >{tour.step! + 1 < STEPS.length ? 'Without pressing it' : 'Done'}</button
      >
      <button class="font-semibold underline" onclick={() => tour.to(null)}>End the tour</button>
    </p>
  </section>
{/if}
