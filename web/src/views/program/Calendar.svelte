<!-- A program's sessions as a file for a calendar: which weekday each is on, when they begin, for how many weeks. -->
<script lang="ts">
  import Dialog from '../../lib/ui/Dialog.svelte';
  import type { KeptSession } from './program.svelte';

  type Props = { program: number; name: string; sessions: KeptSession[]; open: boolean };
  let { program, name, sessions, open = $bindable() }: Props = $props();

  const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
  const NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
  const field = 'mt-0.5 h-9 w-full rounded-md border border-line bg-panel px-2';
  const written = $derived(sessions.filter((s) => s.lines?.length));
  /** Spread over the week as far apart as they go, until somebody chooses. */
  let chosen: Record<number, string> = $state({});
  const day = (at: number) => chosen[at] ?? DAYS[Math.floor((at * 7) / Math.max(1, written.length))] ?? 'mon';
  let first = $state(new Date().toISOString().slice(0, 10));
  let at = $state('18:00');
  let weeks = $state(8);
  let minutes = $state(60);
  const href = $derived(
    `/api/programs/${program}/calendar?first=${first}&days=${written.map((_, i) => day(i)).join(',')}` +
      `&clock=${encodeURIComponent(at)}&weeks=${weeks}&minutes=${minutes}`,
  );
</script>

<Dialog
  bind:open
  title="Sessions in a calendar"
  about="Saved as an iCalendar file; a calendar that has it already changes it."
>
  {#if written.length}
    <ul class="space-y-2 text-sm">
      {#each written as session, i (session.id ?? i)}
        <li class="flex items-center gap-3">
          <span class="flex-1 font-semibold">{session.name}</span>
          <select
            class="h-9 rounded-md border border-line bg-panel px-2"
            aria-label="Weekday of {session.name}"
            value={day(i)}
            onchange={(e) => (chosen = { ...chosen, [i]: e.currentTarget.value })}
          >
            {#each DAYS as value, k (value)}<option {value}>{NAMES[k]}</option>{/each}
          </select>
        </li>
      {/each}
    </ul>
    <div class="mt-4 grid grid-cols-2 gap-3 text-sm sm:grid-cols-4">
      <label>From<input type="date" class={field} bind:value={first} /></label>
      <label>Begins<input type="time" class={field} bind:value={at} /></label>
      <label>Weeks<input type="number" min="1" max="52" class={field} bind:value={weeks} /></label>
      <label>Minutes<input type="number" min="5" max="300" class={field} bind:value={minutes} /></label>
    </div>
    <a
      class="mt-5 block rounded-md bg-ink px-4 py-2 text-center text-sm font-semibold text-paper"
      {href}
      download="{name}.ics">Save the calendar file</a
    >
  {:else}
    <p class="text-sm">Write a line first: an empty session has nothing for a calendar.</p>
  {/if}
</Dialog>
