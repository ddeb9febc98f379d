<!-- Guards a record that is edited: asks before leaving while it is stored, and shows what was typed here against what somebody else stored meanwhile; nothing is overwritten until one is picked. -->
<script lang="ts" generics="T">
  import { AlertDialog } from 'bits-ui';
  import type { Kept } from './kept.svelte';

  type Props = { record: Kept<T>; name: string };
  let { record, name }: Props = $props();
  const flat = (value: unknown, path = ''): [string, string][] =>
    value && typeof value === 'object'
      ? Object.entries(value).flatMap(([k, v]) => flat(v, path ? `${path} › ${k}` : k))
      : [[path, String(value ?? '')]];
  /** The fields in which the two differ, in words as far as the document has them. */
  const rows = $derived.by(() => {
    if (!record.conflict) return [];
    const mine = new Map(flat(record.conflict.mine));
    const theirs = new Map(flat(record.conflict.theirs));
    const fields = [...new Set([...mine.keys(), ...theirs.keys()])];
    return fields
      .filter((f) => mine.get(f) !== theirs.get(f))
      .map((f) => ({
        field: f.replaceAll('_', ' '),
        mine: mine.get(f) ?? 'nothing',
        theirs: theirs.get(f) ?? 'nothing',
      }));
  });
</script>

<svelte:window onbeforeunload={record.guard} />

<AlertDialog.Root open={!!record.conflict}>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(640px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-xl border border-line bg-panel p-6 text-ink shadow-xl"
    >
      <AlertDialog.Title class="font-head text-xl font-semibold"
        >{name} was changed elsewhere</AlertDialog.Title
      >
      <AlertDialog.Description class="mt-1 text-sm text-muted">
        Nothing was overwritten. Pick which of the two stays.
      </AlertDialog.Description>
      <table class="mt-4 w-full text-sm">
        <thead class="text-left text-muted">
          <tr><th class="pr-3 font-normal">Field</th><th class="pr-3">Yours</th><th>Stored meanwhile</th></tr>
        </thead>
        <tbody>
          {#each rows.slice(0, 12) as row (row.field)}
            <tr class="border-t border-line align-top">
              <td class="py-1 pr-3">{row.field}</td>
              <td class="py-1 pr-3 font-semibold">{row.mine}</td>
              <td class="py-1 font-semibold">{row.theirs}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      {#if rows.length > 12}<p class="mt-2 text-sm text-muted">And {rows.length - 12} more fields.</p>{/if}
      <div class="mt-5 flex justify-end gap-3">
        <AlertDialog.Cancel
          class="rounded-md border border-line bg-panel px-4 py-2 text-sm font-semibold"
          onclick={() => void record.settle('theirs')}>Keep what was stored</AlertDialog.Cancel
        >
        <AlertDialog.Action
          class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper"
          onclick={() => void record.settle('mine')}>Keep mine</AlertDialog.Action
        >
      </div>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
