<!-- A client to scale, seen from the front, with the heights that levers and pulleys hang on. -->
<script lang="ts">
  import type { Size } from '../../lib/api/client';
  type Props = { size: Size; stature: number; sex: string; show: (cm: number) => string };
  let { size, stature, sex, show }: Props = $props();
  const tall = 478;
  const scale = $derived(tall / (stature * 1.05));
  const y = (cm: number) => tall - cm * scale;
  const h = $derived(stature);
  const wide = $derived(sex === 'male' ? 0.118 : 0.106);
  const hips = $derived(sex === 'male' ? 0.082 : 0.092);
  const limb = (x1: number, y1: number, x2: number, y2: number) =>
    `M${130 + x1 * h * scale} ${y(y1)}L${130 + x2 * h * scale} ${y(y2)}`;
  const at = $derived(size.heights_cm);
  const rows = $derived(Object.entries(at).sort((a, b) => b[1] - a[1]));
</script>

<svg viewBox="0 0 312 500" class="h-full w-full" role="img" aria-label="Landmark heights of the client">
  {#each [0, 50, 100, 150, 200].filter((cm) => cm < stature * 1.05) as cm (cm)}
    <line x1="24" x2="296" y1={y(cm)} y2={y(cm)} stroke="var(--line)" stroke-dasharray={cm ? '2 5' : ''} />
    <text x="2" y={y(cm) + 4} class="fill-muted text-mark">{show(cm)}</text>
  {/each}
  <g stroke="var(--body)" stroke-linecap="round" stroke-linejoin="round" fill="none">
    {#each [-1, 1] as s (s)}
      <path d={limb(s * 0.046, at['hip']! + 6, s * 0.052, at['knee']!)} stroke-width={0.078 * h * scale} />
      <path d={limb(s * 0.052, at['knee']!, s * 0.055, at['ankle']!)} stroke-width={0.05 * h * scale} />
      <path d={limb(s * 0.055, at['ankle']! * 0.6, s * 0.075, 2)} stroke-width={0.036 * h * scale} />
      <path
        d={limb(s * wide, at['shoulder']! - 2, s * (wide + 0.025), at['shoulder']! - 0.186 * h)}
        stroke-width={0.042 * h * scale}
      />
      <path
        d={limb(
          s * (wide + 0.025),
          at['shoulder']! - 0.186 * h,
          s * (wide + 0.035),
          at['shoulder']! - 0.36 * h,
        )}
        stroke-width={0.034 * h * scale}
      />
      <circle
        cx={130 + s * (wide + 0.037) * h * scale}
        cy={y(at['shoulder']! - 0.385 * h)}
        r={0.02 * h * scale}
        fill="var(--body)"
        stroke="none"
      />
    {/each}
    <path
      d="M{130 - wide * h * scale} {y(at['shoulder']! - 1)}
         L{130 + wide * h * scale} {y(at['shoulder']! - 1)}
         L{130 + hips * 0.8 * h * scale} {y(at['navel']!)}
         L{130 + hips * h * scale * 0.9} {y(at['hip']!)}
         L{130 - hips * h * scale * 0.9} {y(at['hip']!)}
         L{130 - hips * 0.8 * h * scale} {y(at['navel']!)}Z"
      fill="var(--body)"
      stroke-width={0.03 * h * scale}
    />
    <path d={limb(0, at['shoulder']!, 0, at['chin']!)} stroke-width={0.055 * h * scale} />
    <ellipse
      cx="130"
      cy={y((h + at['chin']!) / 2)}
      rx={0.044 * h * scale}
      ry={((h - at['chin']!) / 2) * scale}
      fill="var(--body)"
      stroke="none"
    />
  </g>
  {#each rows as [name, cm] (name)}
    <line x1="130" x2="204" y1={y(cm)} y2={y(cm)} stroke="var(--ink)" stroke-width="0.8" />
    <circle cx="130" cy={y(cm)} r="2.6" fill="var(--ink)" />
    <text x="208" y={y(cm) + 4} class="fill-ink text-small"
      >{name} <tspan class="font-semibold">{show(cm)}</tspan></text
    >
  {/each}
</svg>
