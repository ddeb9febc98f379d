<!-- Curves and lengths as a table, for who reads rather than looks. -->
<script lang="ts">
  import type { Example } from '../../lib/api/client';

  let { example }: { example: Example } = $props();
  const joints = $derived(Object.keys(example.resistance));
  const poses = $derived(example.profile.reading.map((_, i) => i).filter((i) => i % 3 === 0));
  const muscles = $derived(
    Object.values(example.profile.targets)
      .filter((t) => Math.max(...t.effective_nm) > 0.5)
      .sort((a, b) => Math.max(...b.effective_nm) - Math.max(...a.effective_nm))
      .slice(0, 8),
  );
</script>

<table class="w-full text-sm">
  <caption class="pb-1 text-left text-small text-muted"
    >Torque at each joint, and how hard the muscle asked most works</caption
  >
  <thead class="text-left text-small text-muted">
    <tr>
      <th scope="col">Pose</th>
      {#each joints as joint (joint)}<th scope="col" class="text-right">{joint}, N·m</th>{/each}
      <th scope="col" class="text-right">effort, %</th>
    </tr>
  </thead>
  <tbody>
    {#each poses as i (i)}
      <tr class="border-t border-line">
        <th scope="row" class="py-0.5 text-left font-normal">{example.profile.reading[i]}</th>
        {#each joints as joint (joint)}<td class="text-right">{example.resistance[joint]![i]!.toFixed(1)}</td
          >{/each}
        <td class="text-right">{Math.round(100 * example.relative_effort[i]!)}</td>
      </tr>
    {/each}
  </tbody>
</table>
<table class="mt-4 w-full text-sm">
  <caption class="pb-1 text-left text-small text-muted"
    >Muscles over their own length, 0 % longest to 100 % shortest</caption
  >
  <thead class="text-left text-small text-muted">
    <tr
      ><th scope="col">Muscle</th><th scope="col">From</th><th scope="col">To</th><th scope="col"
        >Peak, N·m</th
      ></tr
    >
  </thead>
  <tbody>
    {#each muscles as m (m.name)}
      <tr class="border-t border-line">
        <th scope="row" class="py-0.5 text-left font-normal">{m.name}</th>
        <td>{Math.round(100 * Math.min(...m.length))} %</td>
        <td>{Math.round(100 * Math.max(...m.length))} %</td>
        <td>{Math.max(...m.effective_nm).toFixed(1)}</td>
      </tr>
    {/each}
  </tbody>
</table>
