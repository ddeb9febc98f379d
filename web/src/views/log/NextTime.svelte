<!-- Next time, by rule, with its reason; another choice is one press. -->
<script lang="ts">
  import type { LiftLog, Log } from './log.svelte';

  let { log, lift }: { log: Log; lift: LiftLog } = $props();
  const NAMES: Record<string, string> = {
    hold: 'hold',
    add_load: 'a step up',
    back_off: 'back off',
    add_reps: 'more reps',
    deload: 'an easy session',
    swap: 'another lift',
    first: 'a test set',
  };
</script>

<h2 class="mt-5 section-title">Next time</h2>
<ul class="mt-1 border-t border-line text-sm">
  {#each lift.next as one (one.like)}
    <li
      class="grid grid-cols-1 gap-x-4 border-b border-line py-2 sm:grid-cols-[minmax(0,3fr)_104px_minmax(0,4fr)_150px]"
    >
      <span class="min-w-0"
        ><strong>{one.title}</strong><span class="block text-muted">{one.kit}, {one.place}</span></span
      >
      <strong class="text-lg whitespace-nowrap text-swap"
        >{#if one.unit}{one.amount} {one.unit} × {one.reps}{:else}{one.reps} reps{/if}</strong
      >
      <span
        >{one.reason}<span class="block text-muted"
          >{Math.max(0, Math.round(one.expected[1] ?? 0))} to {Math.max(0, Math.round(one.expected[2] ?? 0))} expected,
          leaving
          {one.rir}</span
        ></span
      >
      <span class="flex flex-wrap items-start gap-x-3">
        {#each one.others as other (other.kind + String(other.amount))}
          <button
            class="font-semibold underline disabled:opacity-40"
            disabled={log.busy}
            title="{other.amount} {one.unit} × {other.reps}: {other.why}"
            onclick={() => void log.choose(one, other)}>{NAMES[other.kind] ?? other.kind}</button
          >
        {/each}
      </span>
    </li>
  {/each}
</ul>
