<!-- Asks before something that takes other things along. -->
<script lang="ts">
  import { AlertDialog } from 'bits-ui';

  type Props = { open: boolean; title: string; about: string; does: string; ondo: () => void };
  let { open = $bindable(), title, about, does, ondo }: Props = $props();
</script>

<AlertDialog.Root bind:open>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-1/2 left-1/2 z-50 w-[min(480px,94vw)] -translate-x-1/2 -translate-y-1/2 rounded-xl border border-line bg-panel p-6 text-ink shadow-xl"
    >
      <AlertDialog.Title class="font-head text-xl font-semibold">{title}</AlertDialog.Title>
      <AlertDialog.Description class="mt-2 text-sm">{about}</AlertDialog.Description>
      <div class="mt-5 flex justify-end gap-3">
        <AlertDialog.Cancel class="rounded-md border border-line bg-panel px-4 py-2 text-sm font-semibold"
          >Leave it</AlertDialog.Cancel
        >
        <AlertDialog.Action
          class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper"
          onclick={() => {
            open = false;
            ondo();
          }}>{does}</AlertDialog.Action
        >
      </div>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
