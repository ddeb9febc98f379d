<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { Dialog } from 'bits-ui';
  import type { Snippet } from 'svelte';

  type Props = {
    open: boolean;
    title: string;
    about: string;
    wide?: boolean;
    onclose?: () => void;
    children: Snippet;
  };
  let { open = $bindable(), title, about, wide = false, onclose, children }: Props = $props();
</script>

<Dialog.Root bind:open onOpenChange={(now) => now || onclose?.()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-1/2 left-1/2 z-50 max-h-[92vh] {wide
        ? 'w-[min(960px,96vw)]'
        : 'w-[min(560px,94vw)]'} -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-xl border border-line bg-panel p-6 text-ink shadow-xl"
    >
      <div class="mb-1 flex items-start justify-between gap-4">
        <Dialog.Title class="font-head text-xl font-semibold">{title}</Dialog.Title>
        <Dialog.Close class="-m-1 rounded p-1 text-muted hover:text-ink" aria-label="Close"
          ><X size={18} /></Dialog.Close
        >
      </div>
      <Dialog.Description class="mb-4 text-sm text-muted">{about}</Dialog.Description>
      {@render children()}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
