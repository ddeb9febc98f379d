<!-- On the floor: one session at one place over time, the order with its reasons, and what could be otherwise. -->
<script lang="ts">
  import Fault from '../../lib/ui/Fault.svelte';
  import Pick from '../../lib/ui/Pick.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import Shell from '../../lib/ui/Shell.svelte';
  import { navigate, p, route } from '../../router';
  import { Floor, label } from './floor.svelte';
  import Otherwise from './Otherwise.svelte';
  import Time from './Time.svelte';

  const floor = new Floor();
  const params = $derived(route.params as { session: string; place: string });
  $effect(() => void floor.load(Number(params.session), Number(params.place)));
  const view = $derived(floor.view);
  const plan = $derived(view?.plan ?? null);
  let chosen = $state(0);
  let wide = $state(800);

  const places = $derived((view?.places ?? []).map((q) => ({ value: String(q.id), label: q.name })));
  const go = (place: string) =>
    void navigate('/sessions/:session/at/:place', { params: { session: params.session, place } });
  const shortcuts: Shortcut[] = [
    { keys: ['h'], shown: 'H', does: 'Heavy first, or a light one before it', run: () => turn() },
    {
      keys: ['2'],
      shown: '2',
      does: 'In turns or one after the other',
      run: () => void floor.want({ pairs: !floor.wish.pairs }),
    },
  ];
  const turn = () =>
    void floor.want({ school: floor.wish.school === 'heavy_first' ? 'warm_first' : 'heavy_first' });
</script>

<Shell title="On the floor" {shortcuts}>
  {#snippet crumbs()}{#if view}<a
        class="hover:underline"
        href={p('/clients/:client', { params: { client: String(view.client) } })}>{view.plan.client}</a
      >
      / {view.plan.session} / <strong class="text-ink">On the floor</strong>{/if}{/snippet}
  {#snippet tools()}
    {#if places.length}<Pick name="at" value={params.place} items={places} onpick={go} />{/if}
    <Pick
      name="order"
      value={floor.wish.school}
      items={[
        { value: 'heavy_first', label: 'heavy first' },
        { value: 'warm_first', label: 'a light one first' },
      ]}
      onpick={turn}
    />
    <Pick
      name="in"
      value={String(floor.wish.minutes ?? 0)}
      items={[0, 30, 40, 45, 50, 60, 75, 90].map((m) => ({
        value: String(m),
        label: m ? `${m} min` : 'as long as it takes',
      }))}
      onpick={(m) => void floor.want({ minutes: Number(m) || null })}
    />
  {/snippet}
  {#if floor.problem && !plan}
    <Fault problem={floor.problem} retry={() => void floor.plan()} />
  {:else if !view || !plan}
    <p class="p-8 text-muted" role="status">Working out the order …</p>
  {:else}
    <div class="h-full overflow-y-auto px-5 py-4 lg:grid lg:grid-cols-[minmax(0,1fr)_300px] lg:gap-6">
      <section aria-label="Order" aria-busy={floor.busy} class={floor.busy ? 'opacity-60' : ''}>
        <h1 class="text-2xl">{plan.session} on the floor of {plan.place}</h1>
        <p class="mt-1 text-sm text-muted">
          <strong class="text-ink">{Math.round(plan.minutes)} min</strong>{#if floor.wish.minutes}&nbsp;of {floor
              .wish.minutes}{/if},
          {Math.round(plan.walked_m)} m walked{#if plan.alone_minutes - plan.minutes >= 1}, {Math.round(
              plan.alone_minutes - plan.minutes,
            )} min saved in turns{/if}
        </p>
        <!-- svelte-ignore a11y_no_noninteractive_tabindex (on a phone it is scrolled sideways, by keys too) -->
        <div
          class="mt-3 overflow-x-auto"
          role="region"
          aria-label="Over time"
          tabindex="0"
          bind:clientWidth={wide}
        >
          <Time {plan} width={Math.max(560, wide)} {chosen} onpick={(line) => (chosen = line)} />
        </div>
        <p class="mt-1 flex flex-wrap gap-x-4 text-small text-muted">
          <span><span class="mr-1 inline-block size-2.5 rounded-sm bg-swap"></span>heavy: several joints</span
          >
          <span
            ><span class="mr-1 inline-block size-2.5 rounded-sm bg-prescribed"></span>light: one joint</span
          >
          <span>pale: a few easy minutes</span>
          <span>dashed: walking on</span>
        </p>
        <h2 class="mt-5 section-title">Order, and why</h2>
        <ol class="mt-1 border-t border-line">
          {#each plan.blocks as block, at (block.steps.map((s) => s.line).join(' '))}
            <li class="border-b border-line py-2">
              {#each block.steps as step, i (step.line)}
                <div
                  class="grid grid-cols-[36px_minmax(0,1fr)] gap-x-2 rounded-md py-0.5 sm:grid-cols-[36px_minmax(0,5fr)_minmax(0,7fr)] {chosen ===
                  step.line
                    ? 'bg-soft'
                    : ''}"
                >
                  <span class="font-semibold text-prescribed">{label(block, at, i)}</span>
                  <span class="min-w-0"
                    ><a
                      class="font-semibold hover:underline"
                      href={p('/lines/:line/at/:place', {
                        params: { line: String(step.line), place: params.place },
                      })}
                      onfocus={() => (chosen = step.line)}>{step.name}</a
                    ><span class="block text-sm text-muted"
                      >{step.reps}, {step.load}, rest {Math.round(step.rest_s)} s</span
                    ></span
                  >
                  <span class="col-start-2 text-sm sm:col-start-auto"
                    >{step.title}{#if !step.accepted}&nbsp;<em class="text-swap not-italic">
                        · not accepted yet</em
                      >{/if}<span class="block text-muted"
                      >{step.set_up.length ? `Set: ${step.set_up.join('; ')}` : 'Nothing to set anew.'}</span
                    ></span
                  >
                </div>
              {/each}
              <p class="pl-11 text-sm text-muted">{block.why}</p>
            </li>
          {/each}
        </ol>
      </section>
      <Otherwise {floor} {plan} />
    </div>
  {/if}
</Shell>
