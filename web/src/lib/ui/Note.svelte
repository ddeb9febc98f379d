<!-- Words of the coach's own; kept when the field is left. -->
<script lang="ts">
  type Props = {
    label: string;
    value: string;
    fault?: string;
    rows?: number;
    onset: (value: string) => void;
  };
  let { label, value, fault = '', rows = 2, onset }: Props = $props();
  const id = $props.id();
</script>

<div class="text-sm">
  <label class="block text-small text-muted" for={id}>{label}</label>
  <textarea
    {id}
    {rows}
    class="mt-0.5 w-full rounded-md border bg-panel px-2 py-1 {fault ? 'border-swap' : 'border-line'}"
    {value}
    maxlength="2000"
    aria-invalid={!!fault}
    aria-describedby={fault ? `${id}-fault` : undefined}
    onchange={(e) => onset(e.currentTarget.value)}></textarea>
  {#if fault}<span id="{id}-fault" class="block text-small text-swap" role="alert">{fault}</span>{/if}
</div>
