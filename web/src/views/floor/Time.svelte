<!-- The session over time: a row a station, a block a set, high where the lift is heavy; dashed where one walks on. -->
<script lang="ts">
  import { label, type Plan, type Step } from './floor.svelte';

  let {
    plan,
    width,
    chosen,
    onpick,
  }: { plan: Plan; width: number; chosen: number; onpick: (line: number) => void } = $props();

  const LEFT = 132;
  const ROW = 86;
  const steps = $derived(
    plan.blocks.flatMap((block, at) =>
      block.steps.map((step, i) => ({ step, block, name: label(block, at, i), station: station(step) })),
    ),
  );
  function station(step: Step) {
    return step.stations[0] ?? 'anywhere';
  }
  const rows = $derived([...new Set(steps.map((s) => s.station))]);
  const minutes = $derived(Math.max(10, Math.ceil(plan.minutes / 5) * 5));
  const x = (seconds: number) => LEFT + 8 + (seconds / 60 / minutes) * (width - LEFT - 24);
  const y = (name: string) => 40 + rows.indexOf(name) * ROW + 52;
  const height = $derived(40 + rows.length * ROW + 16);
  const tall = (step: Step) => 18 + 26 * step.heaviness;
  /** From the last set of what comes before to the first of what follows, where that is at another station. */
  const moves = $derived(
    steps.slice(1).flatMap((to, i) => {
      const from = steps[i];
      if (!from || from.block === to.block || from.station === to.station) return [];
      const last = from.step.sets.at(-1);
      const first = to.step.sets[0];
      if (!last || !first) return [];
      return [
        {
          key: to.step.line,
          x1: x(last.begins_s + last.lasts_s),
          y1: y(from.station),
          x2: x(first.begins_s),
          y2: y(to.station),
        },
      ];
    }),
  );
</script>

<svg
  {width}
  {height}
  viewBox="0 0 {width} {height}"
  role="img"
  aria-label="The session over time, {Math.round(plan.minutes)} minutes"
>
  {#each Array.from({ length: minutes / 5 + 1 }, (_, i) => i * 5) as minute (minute)}
    <line x1={x(minute * 60)} x2={x(minute * 60)} y1="26" y2={height - 8} stroke="var(--line)" />
    <text x={x(minute * 60)} y="18" text-anchor="middle" class="fill-muted text-small">{minute}</text>
  {/each}
  <text x={LEFT - 8} y="18" text-anchor="end" class="fill-muted text-small">minutes</text>
  {#each rows as name (name)}
    <line x1={LEFT} x2={width - 12} y1={y(name)} y2={y(name)} stroke="var(--kit)" stroke-width="1.5" />
    <foreignObject x="0" y={y(name) - 44} width={LEFT - 8} height="46">
      <div class="flex h-full items-end pb-0.5 text-sm leading-tight font-semibold">{name}</div>
    </foreignObject>
  {/each}
  <rect
    x={x(0)}
    y={(rows[0] ? y(rows[0]) : 40) - 10}
    width={Math.max(0, x(plan.arrive_s) - x(0))}
    height="10"
    fill="var(--soft)"
  />
  {#each moves as m (m.key)}
    <path
      d="M{m.x1} {m.y1} C{m.x1 + 8} {(m.y1 + m.y2) / 2} {m.x2 - 8} {(m.y1 + m.y2) / 2} {m.x2} {m.y2}"
      fill="none"
      stroke="var(--muted)"
      stroke-dasharray="2 4"
    />
  {/each}
  {#each steps as { step, name, station: at } (step.line)}
    {@const first = step.sets[0]}
    <!-- svelte-ignore a11y_no_static_element_interactions, a11y_click_events_have_key_events (the list below does the same by keyboard) -->
    <g class="cursor-pointer" onclick={() => onpick(step.line)}>
      {#each step.sets as set, i (i)}
        <rect
          x={x(set.begins_s)}
          y={y(at) - tall(step)}
          width={Math.max(3, x(set.begins_s + set.lasts_s) - x(set.begins_s) - 1)}
          height={tall(step)}
          rx="2"
          fill={step.heaviness >= 0.6 ? 'var(--swap)' : 'var(--prescribed)'}
          stroke={chosen === step.line ? 'var(--ink)' : 'none'}
          stroke-width="2"
        />
      {/each}
      {#if first}<text
          x={x(first.begins_s)}
          y={y(at) - tall(step) - 6}
          class="fill-ink text-small font-semibold"
          stroke="var(--paper)"
          stroke-width="3"
          paint-order="stroke">{name}</text
        >{/if}
    </g>
  {/each}
</svg>
