<!-- How was it? Load, repetitions, how many were left: three taps. The rest folds out. -->
<script lang="ts">
  import type { Card, Lift, SetDoc } from './card.svelte';
  import FeltWhere from './FeltWhere.svelte';

  let { card, lift, fixing, ondone }: { card: Card; lift: Lift; fixing: string; ondone: () => void } =
    $props();
  const way = $derived(card.way(lift));
  const done = $derived(card.sets(lift));
  // What was noted before is where the next begins; what is fixed begins as it was noted.
  const start = () => {
    const held = fixing ? done.find((k) => k.id === fixing) : done.at(-1);
    // Where sets differ, what is meant for this one comes before what the last one was.
    const meant = fixing ? undefined : way.plan?.[done.length];
    const set = meant ? undefined : held?.entry.set;
    return {
      amount: set?.amount ?? meant?.amount ?? way.amount,
      left: set?.left ?? set?.reps ?? meant?.aim ?? way.aim,
      right: set?.right ?? set?.reps ?? meant?.aim ?? way.aim,
      rir: fixing ? (set?.rir ?? null) : null,
      partials: fixing ? (set?.partials ?? 0) : 0,
      note: fixing ? (held?.entry.note ?? '') : '',
    };
  };
  const began = start();
  let amount = $state(began.amount);
  let left = $state(began.left);
  let right = $state(began.right);
  let rir: number | null = $state(began.rir);
  let partials = $state(began.partials);
  let hold = $state(0);
  let drops: { amount: number; reps: number }[] = $state([]);
  let felt: string[] = $state([]);
  let feel: '' | 'good' | 'bad' = $state('');
  let note = $state(began.note);
  let more = $state(false);

  const at = $derived(way.amounts.findIndex((a) => a.amount === amount));
  const words = $derived(way.amounts[at]?.words ?? `${amount} ${way.basis.unit}`);
  const near = $derived(
    way.amounts
      .slice(Math.max(0, at - 1), Math.max(0, at - 1) + 3)
      .map((a) => a.words.replace(/ (kg|lb).*/, '')),
  );
  const step = (by: number) => {
    const next = way.amounts[Math.min(way.amounts.length - 1, Math.max(0, at + by))];
    if (next) amount = next.amount;
  };
  const turn = (place: string) =>
    (felt = felt.includes(place) ? felt.filter((f) => f !== place) : [...felt, place].slice(-6));
  const big = 'h-14 rounded-xl border border-line bg-panel text-xl font-semibold';

  async function keep() {
    const set: SetDoc = {
      amount,
      reps: lift.each_side ? Math.min(left, right) : left,
      left: lift.each_side ? left : null,
      right: lift.each_side ? right : null,
      rir,
      partials,
      drops,
      hold_s: hold || null,
      felt,
      feel,
    };
    await card.logSet(lift, set, note, fixing || null);
    ondone();
  }
  /** Lighter by the card's part, as near as there is one. */
  function drop() {
    const part = card.card?.drop_part ?? 1;
    const from = drops.at(-1)?.amount ?? amount;
    const lower = way.amounts.filter((a) => a.amount < from);
    const next = lower.reduce<(typeof lower)[number] | null>(
      (best, a) =>
        !best || Math.abs(a.amount - part * from) < Math.abs(best.amount - part * from) ? a : best,
      null,
    );
    if (next) drops = [...drops, { amount: next.amount, reps: Math.max(1, Math.round(left / 2)) }];
  }
</script>

{#snippet counter(name: string, value: number, set: (to: number) => void)}
  <div>
    <p class="text-sm text-muted">{name}</p>
    <div class="grid grid-cols-[64px_1fr_64px] items-center">
      <button class={big} aria-label="{name}: one fewer" onclick={() => set(Math.max(0, value - 1))}>−</button
      >
      <p class="text-center font-head text-3xl font-semibold" aria-live="polite">{value}</p>
      <button class={big} aria-label="{name}: one more" onclick={() => set(value + 1)}>+</button>
    </div>
  </div>
{/snippet}

<div class="flex min-h-0 flex-1 flex-col">
  <div class="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-4 py-3">
    <div class="mb-auto">
      <p class="text-small text-muted">
        {way.title} · {fixing ? 'put right' : `set ${done.length + 1} of ${lift.sets}`}
      </p>
      <h1 class="text-2xl">How was it?</h1>
    </div>
    {#if way.amounts.length > 1}
      <div>
        <p class="text-sm text-muted">load</p>
        <div class="grid grid-cols-[64px_1fr_64px] items-center">
          <button class={big} aria-label="lighter" disabled={at <= 0} onclick={() => step(-1)}>−</button>
          <p class="text-center font-head text-3xl font-semibold" aria-live="polite">{words}</p>
          <button
            class={big}
            aria-label="heavier"
            disabled={at >= way.amounts.length - 1}
            onclick={() => step(1)}>+</button
          >
        </div>
        <p class="text-center text-small text-muted">here: {near.join(', ')}</p>
      </div>
    {/if}
    {#if lift.each_side}
      {@render counter('repetitions, left', left, (to) => (left = to))}
      {@render counter('repetitions, right', right, (to) => (right = to))}
    {:else}
      {@render counter('repetitions', left, (to) => (left = to))}
    {/if}
    <div>
      <p class="text-sm text-muted" id="reserve">how many were left?</p>
      <div class="grid grid-cols-5 gap-2" role="group" aria-labelledby="reserve">
        {#each ['none', '1', '2', '3', '4+'] as name, i (name)}
          <button
            class="h-14 rounded-xl border text-base font-semibold {rir === i
              ? 'border-ink bg-ink text-paper'
              : 'border-line bg-panel'}"
            aria-pressed={rir === i}
            onclick={() => (rir = rir === i ? null : i)}>{name}</button
          >
        {/each}
      </div>
    </div>
    <button class="min-h-11 font-semibold underline" aria-expanded={more} onclick={() => (more = !more)}
      >{more ? 'Less' : 'More: half reps, drops, holds, felt where, a note'}</button
    >
    {#if more}
      {@render counter('half reps after it', partials, (to) => (partials = to))}
      {@render counter('held at the end, seconds', hold, (to) => (hold = to))}
      <div>
        <p class="text-sm text-muted">lighter, straight on</p>
        {#each drops as one, i (i)}
          <div class="mt-1 grid grid-cols-[1fr_56px_56px_56px] items-center gap-2">
            <span>{way.amounts.find((a) => a.amount === one.amount)?.words} × {one.reps}</span>
            <button
              class="h-11 rounded-xl border border-line"
              aria-label="drop {i + 1}: one fewer"
              onclick={() => (one.reps = Math.max(0, one.reps - 1))}>−</button
            >
            <button
              class="h-11 rounded-xl border border-line"
              aria-label="drop {i + 1}: one more"
              onclick={() => (one.reps += 1)}>+</button
            >
            <button
              class="h-11 rounded-xl border border-line"
              aria-label="drop {i + 1}: away"
              onclick={() => (drops = drops.filter((_, k) => k !== i))}>×</button
            >
          </div>
        {/each}
        <button class="mt-1 h-11 rounded-xl border border-line px-4" onclick={drop}>A drop</button>
      </div>
      <div>
        <p class="mb-1 text-sm text-muted">felt where?</p>
        <FeltWhere meant={lift.target_name} {felt} onturn={turn} />
        <p class="mt-2 text-sm text-muted" id="feel">and the lift itself?</p>
        <div class="flex gap-2" role="group" aria-labelledby="feel">
          {#each ['good', 'bad'] as const as word (word)}
            <button
              class="h-11 rounded-xl border px-3 {feel === word
                ? 'border-ink bg-ink text-paper'
                : 'border-line bg-panel'}"
              aria-pressed={feel === word}
              onclick={() => (feel = feel === word ? '' : word)}>feels {word}</button
            >
          {/each}
        </div>
      </div>
      <label class="block text-sm text-muted"
        >note<textarea
          class="mt-1 w-full rounded-xl border border-line bg-panel p-2 text-base text-ink"
          rows="2"
          maxlength="2000"
          bind:value={note}></textarea></label
      >
    {/if}
  </div>
  <footer class="grid grid-cols-[auto_1fr] gap-2 border-t border-line bg-panel px-4 pt-3 pb-4">
    <button class="h-14 rounded-xl border border-line px-5 text-base font-semibold" onclick={ondone}
      >Back</button
    >
    <button class="h-14 rounded-xl bg-swap text-lg font-semibold text-on-accent" onclick={() => void keep()}
      >{fixing ? 'Put right' : 'Keep'}</button
    >
  </footer>
</div>
