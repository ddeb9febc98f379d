<!-- A pill that names a choice and opens a list of the others. -->
<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import { Select } from 'bits-ui';

  type Item = { value: string; label: string };
  type Props = { name: string; value: string; items: Item[]; onpick: (value: string) => void };
  let { name, value, items, onpick }: Props = $props();
  const shown = $derived(items.find((i) => i.value === value)?.label ?? '');
</script>

<Select.Root type="single" {value} {items} onValueChange={onpick}>
  <Select.Trigger
    class="flex h-9 items-center gap-1.5 rounded-full border border-line bg-panel px-3 text-sm whitespace-nowrap hover:border-muted"
    aria-label="{name}: {shown}"
  >
    <span class="text-muted">{name}</span>
    <span class="font-semibold">{shown}</span>
    <ChevronDown size={14} class="text-muted" />
  </Select.Trigger>
  <Select.Portal>
    <Select.Content class="z-50 min-w-40 rounded-lg border border-line bg-panel p-1 shadow-lg" sideOffset={6}>
      {#each items as item (item.value)}
        <Select.Item
          value={item.value}
          label={item.label}
          class="cursor-pointer rounded-md px-3 py-1.5 text-sm data-highlighted:bg-soft data-[state=checked]:font-semibold"
        >
          {item.label}
        </Select.Item>
      {/each}
    </Select.Content>
  </Select.Portal>
</Select.Root>
