<!-- One cell of a form: its label, what is typed, its unit, and what is wrong with it. -->
<script lang="ts">
  type Props = {
    label: string;
    value: string;
    unit?: string;
    choices?: string[];
    hint?: string;
    fault?: string;
    /** Whether every key counts, not only what is typed when the field is left. */
    live?: boolean;
    onset: (value: string) => void;
  };
  let { label, value, unit = '', choices = [], hint = '', fault = '', live = false, onset }: Props = $props();
  const id = $props.id();
</script>

<div class="text-sm">
  <label class="block text-small leading-tight text-muted" for={id}>{label}</label>
  <span class="mt-0.5 flex items-center gap-1.5">
    {#if choices.length}
      <select
        {id}
        class="h-8 w-full rounded-md border bg-panel px-2 {fault ? 'border-swap' : 'border-line'}"
        {value}
        onchange={(e) => onset(e.currentTarget.value)}
      >
        {#if hint !== '' || value === ''}<option value="">{hint ? `${hint} (usual)` : ''}</option>{/if}
        {#each choices as choice (choice)}<option value={choice}>{choice.replaceAll('_', ' ')}</option>{/each}
      </select>
    {:else}
      <input
        {id}
        class="h-8 w-full min-w-0 rounded-md border bg-panel px-2 {fault ? 'border-swap' : 'border-line'}"
        {value}
        placeholder={hint}
        aria-invalid={!!fault}
        aria-describedby={fault ? `${id}-fault` : undefined}
        oninput={(e) => live && onset(e.currentTarget.value)}
        onchange={(e) => live || onset(e.currentTarget.value)}
      />
    {/if}
    {#if unit}<span class="shrink-0 text-muted">{unit}</span>{/if}
  </span>
  {#if fault}<span id="{id}-fault" class="mt-0.5 block text-small leading-tight text-swap" role="alert"
      >{fault}</span
    >{/if}
</div>
