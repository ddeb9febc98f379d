<!-- One session: its lines are changed, moved, copied and removed where they stand. -->
<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Trash from '@lucide/svelte/icons/trash-2';
  import LineRow from './LineRow.svelte';
  import Typed from './Typed.svelte';
  import type { Desk, KeptSession, Spot } from './program.svelte';

  type Props = {
    desk: Desk;
    session: KeptSession;
    at: number;
    count: number;
    lifted: Spot | null;
    onwrite: () => void;
  };
  let { desk, session, at, count, lifted = $bindable(), onwrite }: Props = $props();

  const tool = 'rounded p-1 text-muted hover:text-ink disabled:opacity-30';
</script>

<section class="mt-6" aria-label="Session {session.name}">
  <div class="flex items-center gap-2 border-b border-line pb-1">
    <input
      class="min-w-0 flex-1 border-b border-transparent bg-transparent font-head text-lg font-semibold hover:border-line"
      value={session.name}
      aria-label="Name of session {at + 1}"
      maxlength="80"
      onchange={(e) => void desk.renameSession(at, e.currentTarget.value)}
    />
    <button
      class={tool}
      disabled={at === 0}
      aria-label="Session {session.name} earlier"
      onclick={() => void desk.moveSession(at, -1)}><ArrowUp size={16} /></button
    >
    <button
      class={tool}
      disabled={at === count - 1}
      aria-label="Session {session.name} later"
      onclick={() => void desk.moveSession(at, 1)}><ArrowDown size={16} /></button
    >
    <button
      class={tool}
      aria-label="Remove session {session.name}"
      onclick={() => void desk.removeSession(at)}><Trash size={16} /></button
    >
  </div>
  <ol
    ondragover={(e) => lifted && e.preventDefault()}
    ondrop={(e) => {
      e.preventDefault();
      if (lifted) void desk.dropLine(lifted, { session: at, line: session.lines.length });
      lifted = null;
    }}
  >
    {#each session.lines as held, i (held.id ?? `new-${i}`)}
      <LineRow {desk} {session} {at} {i} {held} {count} bind:lifted />
    {:else}
      <li class="py-2 text-sm text-muted">No line yet.</li>
    {/each}
  </ol>
  <Typed
    {desk}
    session={session.name}
    labels={session.lines.map((held) => held.line.label ?? '')}
    onlines={(lines) => void desk.addLines(at, lines)}
  />
  <button class="mt-2 text-sm font-semibold underline" onclick={onwrite}>Pick it from a form instead</button>
</section>
