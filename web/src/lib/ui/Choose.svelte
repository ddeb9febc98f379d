<!-- A button that asks for a file; the same one may be chosen again. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  type Props = {
    /** What is chosen, for who cannot see the button. */
    label: string;
    accept: string;
    look?: string;
    onfile: (file: File) => void;
    children: Snippet;
  };
  let { label, accept, look = 'font-semibold underline', onfile, children }: Props = $props();
  let input: HTMLInputElement | undefined = $state();
</script>

<button type="button" class={look} onclick={() => input?.click()}>{@render children()}</button>
<input
  bind:this={input}
  type="file"
  {accept}
  class="hidden"
  aria-label={label}
  onchange={(e) => {
    const chosen = e.currentTarget.files?.[0];
    e.currentTarget.value = '';
    if (chosen) onfile(chosen);
  }}
/>
