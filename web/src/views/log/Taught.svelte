<!-- What the log taught: how far kit and lifts are off what is computed, what has shifted, what hurt, side against side. -->
<script lang="ts">
  import { scaleLog } from 'd3-scale';
  import { p } from '../../router';
  import type { LiftLog, LogDoc } from './log.svelte';

  type Props = {
    log: LogDoc;
    lift: LiftLog | null;
    /** Joints that are avoided already. */
    avoided: string[];
    ontakeback: (id: string) => void;
    onavoid: (id: string, where: string) => void;
  };
  let { log, lift, avoided, ontakeback, onavoid }: Props = $props();
  const JOINTS = ['neck', 'shoulder', 'elbow', 'wrist', 'lower back', 'hip', 'knee', 'ankle'];
  const WIDE = 250;
  const x = scaleLog()
    .domain([0.7, 1.4])
    .range([6, WIDE - 6])
    .clamp(true);
  const percent = (f: number) => `${Math.abs(Math.round((f - 1) * 100))} %`;
  const words = (t: LogDoc['taught'][number]) =>
    t.sure
      ? `${percent(t.factor)} ${t.factor > 1 ? 'more' : 'less'} is moved than computed`
      : 'as computed, as far as is known';
  const range = (t: LogDoc['taught'][number]) =>
    `${Math.round((t.low - 1) * 100)} to ${Math.round((t.high - 1) * 100)} %, ${t.sets} sets`;
  const day = (at: string) => new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short' });
  const sides = $derived(lift?.sides ?? null);
</script>

{#if log.shifts.length}
  {#each log.shifts as s (s.item)}
    <section class="border-b border-line pb-3">
      <h3 class="font-semibold text-swap">Looks shifted since {day(s.since as string)}</h3>
      <p class="text-sm">
        {s.name}: {percent(1 + s.by)}
        {s.by > 0 ? 'more' : 'less'} is moved on it than before. Measure it again?
      </p>
      <a
        class="mt-2 inline-block rounded-full border border-line bg-panel px-3.5 py-1 text-sm font-semibold hover:border-muted"
        href={p('/measuring/:place/:item', { params: { place: String(s.place), item: s.item } })}
        >To the measuring bench</a
      >
    </section>
  {/each}
{/if}
{#each log.pains as pain (pain.key)}
  <section class="border-b border-line py-2 text-sm">
    <h3 class="font-semibold text-swap">{pain.where} hurt, {day(pain.at as string)}</h3>
    <p>
      {pain.lift}, {pain.when}{pain.note ? `: “${pain.note}”` : ''}. Ranked down for this client until you
      take it back.
      <button class="font-semibold underline" onclick={() => ontakeback(pain.key)}>Take it back</button>
      {#if avoided.includes(pain.where)}
        <span class="text-muted">The {pain.where} is avoided everywhere.</span>
      {:else if JOINTS.includes(pain.where)}
        <button class="ml-2 font-semibold underline" onclick={() => onavoid(pain.key, pain.where)}
          >Avoid the {pain.where} from now on</button
        >
      {/if}
    </p>
  </section>
{/each}
<h2 class="mt-3 section-title">What the log taught</h2>
{#each log.taught as t (t.title + t.kit + t.place)}
  <section class="border-b border-line py-2 text-sm">
    <h3 class="font-semibold">{t.title}</h3>
    <p class="text-muted">{t.kit}, {t.place}</p>
    <p>{words(t)} <span class="text-muted">{range(t)}</span></p>
    <svg width={WIDE} height="20" role="img" aria-label="{words(t)}, {range(t)}">
      <line x1="0" x2={WIDE} y1="10" y2="10" stroke="var(--line)" />
      <line x1={x(1)} x2={x(1)} y1="2" y2="18" stroke="var(--muted)" />
      <rect
        x={x(t.low)}
        y="5"
        width={Math.max(2, x(t.high) - x(t.low))}
        height="10"
        fill="var(--swap)"
        opacity="0.35"
      />
      <circle cx={x(t.factor)} cy="10" r="4.5" fill="var(--swap)" />
    </svg>
  </section>
{:else}
  <p class="text-sm text-muted">Nothing yet: sets in swaps teach.</p>
{/each}
{#if log.taught.length}<p class="mt-1 text-small text-muted">
    The upright line is what is computed; the bar holds the truth four times of five. It is in the loads of
    new swaps.
  </p>{/if}
{#if sides}
  <h2 class="mt-4 section-title">Left against right</h2>
  <p class="text-sm">
    {#if Math.abs(sides.left_ahead) < 0.5}Even within half a repetition.{:else}{sides.left_ahead > 0
        ? 'Right'
        : 'Left'}
      {Math.abs(sides.left_ahead)} repetitions behind: it goes first, the other matches it.{/if}
    {#if sides.before != null}<span class="text-muted">Before that {Math.abs(sides.before)}.</span>{/if}
  </p>
{/if}
