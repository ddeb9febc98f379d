<!-- What hurts: avoided, never diagnosed. -->
<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { ClientDoc } from '../../lib/api/client';
  import type { Details } from './client.svelte';

  let { details, doc }: { details: Details; doc: ClientDoc } = $props();

  const JOINTS = ['neck', 'shoulder', 'elbow', 'wrist', 'lower back', 'hip', 'knee', 'ankle'] as const;
  const ACTIONS = [
    'any',
    'overhead',
    'behind the body',
    'wide',
    'bent deep',
    'straightened',
    'turned',
    'gripping',
    'under load',
  ] as const;
  let note = $state('');
</script>

<h2 class="section-title">What hurts</h2>
<p class="text-small text-muted">
  Odd Swap avoids it and never judges it. Pain that stays, or is new: to a physician or physiotherapist.
</p>
<ul class="mt-2 space-y-1.5">
  {#each doc.restrictions ?? [] as restriction, i (i)}
    <li class="flex items-center gap-2 rounded-md border border-line bg-panel px-3 py-1.5 text-sm">
      <span class="min-w-0 flex-1"
        ><strong>{restriction.side === 'both' ? 'both' : restriction.side} {restriction.joint}</strong>,
        {restriction.action === 'any' ? 'in any position' : restriction.action}{restriction.note
          ? `: ${restriction.note}`
          : ''}</span
      >
      <button
        class="text-muted hover:text-ink"
        aria-label="Remove {restriction.joint}"
        onclick={() => void details.edit({ restrictions: doc.restrictions?.filter((_, k) => k !== i) })}
        ><Trash size={15} /></button
      >
    </li>
  {:else}
    <li class="text-sm">Nothing noted.</li>
  {/each}
</ul>
<form
  class="mt-2 grid grid-cols-[1fr_1fr_1.2fr] gap-2 text-sm"
  onsubmit={(e) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    const joint = String(form.get('joint')) as (typeof JOINTS)[number];
    const side = String(form.get('side')) as 'left' | 'right' | 'both';
    const action = String(form.get('action')) as (typeof ACTIONS)[number];
    void details.edit({
      restrictions: [...(doc.restrictions ?? []), { joint, side, action, note }],
    });
    note = '';
  }}
>
  <select name="side" class="h-8 rounded-md border border-line bg-panel px-2" aria-label="Side">
    {#each ['both', 'left', 'right'] as v (v)}<option>{v}</option>{/each}
  </select>
  <select name="joint" class="h-8 rounded-md border border-line bg-panel px-2" aria-label="Joint">
    {#each JOINTS as v (v)}<option>{v}</option>{/each}
  </select>
  <select name="action" class="h-8 rounded-md border border-line bg-panel px-2" aria-label="When">
    {#each ACTIONS as v (v)}<option value={v}>{v === 'any' ? 'any position' : v}</option>{/each}
  </select>
  <input
    bind:value={note}
    class="col-span-2 h-8 rounded-md border border-line bg-panel px-2"
    placeholder="in the client's words"
    aria-label="Note"
    maxlength="200"
  />
  <button class="h-8 rounded-md bg-ink font-semibold text-paper">Add</button>
</form>
