<!-- The fewest lifts that cover the muscles a coach picks, at this place for this client. -->
<script lang="ts">
  import { api, ask, type Problem, type Schemas } from '../../lib/api/client';
  import Dialog from '../../lib/ui/Dialog.svelte';
  import Faults from '../../lib/ui/Faults.svelte';
  import Pick from '../../lib/ui/Pick.svelte';
  import { counted } from '../../lib/ui/typed';

  type Row = Schemas['ReachRow'];
  type Props = { client: number; place: number; rows: Row[]; open: boolean };
  let { client, place, rows, open = $bindable() }: Props = $props();

  const REGIONS: [string, string][] = [
    ['arm', 'Arms, chest and back'],
    ['scapula', 'Shoulder blades'],
    ['leg', 'Legs'],
    ['trunk', 'Trunk'],
  ];
  const usual = ['chest', 'lats', 'side_delt', 'biceps', 'triceps_long', 'quads', 'hamstrings', 'glute_max'];
  let wanted: string[] = $state(usual);
  let sets = $state(3);
  let minutes = $state(0);
  let busy = $state(false);
  let found = $state.raw<Schemas['FewestDoc'] | null>(null);
  let problem = $state.raw<Problem | null>(null);

  async function find() {
    busy = true;
    const there = wanted.filter((g) => rows.some((r) => r.group === g));
    const wish = {
      wanted: there.map((group) => ({ group, sets, third: 'any' as const })),
      minutes: minutes || null,
    };
    const path = { params: { path: { client } } };
    const answer = await ask(api.POST('/api/clients/{client}/fewest', { ...path, body: { place, wish } }));
    found = answer.data ?? null;
    problem = answer.problem ?? null;
    busy = false;
  }
</script>

<Dialog
  bind:open
  wide
  title="Fewest lifts"
  about="Pick the muscles; the smallest set of lifts that gives each its sets here is worked out, exactly."
>
  <div class="grid gap-x-6 gap-y-3 text-sm sm:grid-cols-2">
    {#each REGIONS as [region, name] (region)}
      {@const own = rows.filter((r) => r.region === region)}
      {#if own.length}
        <fieldset>
          <legend class="section-title">{name}</legend>
          <div class="mt-1 flex flex-wrap gap-x-4 gap-y-0.5">
            {#each own as row (row.group)}
              <label class="flex items-center gap-1.5"
                ><input
                  type="checkbox"
                  checked={wanted.includes(row.group)}
                  onchange={(e) =>
                    (wanted = e.currentTarget.checked
                      ? [...wanted, row.group]
                      : wanted.filter((g) => g !== row.group))}
                />{row.name}</label
              >
            {/each}
          </div>
        </fieldset>
      {/if}
    {/each}
  </div>
  <div class="mt-4 flex flex-wrap items-center gap-2">
    <Pick
      name="each"
      value={String(sets)}
      items={[2, 3, 4, 6].map((n) => ({ value: String(n), label: `${n} sets` }))}
      onpick={(n) => (sets = Number(n))}
    />
    <Pick
      name="in"
      value={String(minutes)}
      items={[0, 20, 30, 45, 60].map((m) => ({
        value: String(m),
        label: m ? `${m} min` : 'as long as it takes',
      }))}
      onpick={(m) => (minutes = Number(m))}
    />
    <button
      class="rounded-md bg-ink px-4 py-2 text-sm font-semibold text-paper disabled:opacity-50"
      disabled={busy || !wanted.length}
      onclick={() => void find()}>{busy ? 'Working it out …' : 'Work it out'}</button
    >
  </div>
  {#if problem}<div class="mt-4"><Faults {problem} /></div>{/if}
  {#if found && !busy}
    <section class="mt-5 border-t border-line pt-3 text-sm" aria-label="The lifts">
      {#if found.lifts.length}
        <p>
          <strong>{counted(found.lifts.length, 'lift')}, {Math.round(found.minutes)} min</strong> of sets and
          rests{found.proven ? '; fewer cannot be.' : '; fewer might be.'}
        </p>
        <ol class="mt-2 space-y-1.5">
          {#each found.lifts as lift (lift.title + lift.kit)}
            <li class="grid grid-cols-[52px_minmax(0,1fr)] gap-x-3">
              <span class="font-head text-base font-bold text-swap">{lift.sets} ×</span>
              <span
                ><strong>{lift.title}</strong>, {lift.kit}<span class="block text-muted"
                  >for {lift.serves.join(', ')}</span
                ></span
              >
            </li>
          {/each}
        </ol>
      {/if}
      {#if found.nothing.length}
        <p class="mt-3 border-l-4 border-swap pl-2">
          <strong>Nothing here covers:</strong>
          {found.nothing.join('; ')}. Ask for less, or look what to buy.
        </p>
      {/if}
    </section>
  {/if}
</Dialog>
