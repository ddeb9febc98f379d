<!-- What gives a lost third back, and at what price; one press takes it. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../../lib/api/client';

  type Props = {
    client: number;
    place: number;
    loss: Schemas['LossDoc'];
    onchanged: () => void;
  };
  let { client, place, loss, onchanged }: Props = $props();
  let mends = $state.raw<Schemas['MendDoc'][] | null>(null);
  let looking = $state(false);
  let told = $state('');

  async function look() {
    looking = true;
    const query = { place, group: loss.group, ...(loss.third === null ? {} : { third: loss.third }) };
    const answer = await ask(
      api.GET('/api/clients/{client}/week/mends', { params: { path: { client }, query } }),
    );
    looking = false;
    mends = answer.data?.mends ?? [];
    told = answer.problem?.detail ?? '';
  }
  async function take(mend: Schemas['MendDoc']) {
    const path = { params: { path: { line: mend.line } } };
    const body = { place, rank: {}, key: mend.key, note: '' };
    const answer = await ask(api.POST('/api/lines/{line}/accepted', { ...path, body: body as never }));
    told = answer.problem?.detail ?? `Taken for ${mend.name}.`;
    if (!answer.problem) {
      mends = null;
      onchanged();
    }
  }
</script>

{#if mends === null}
  <button class="ml-2 font-semibold underline" disabled={looking} onclick={() => void look()}
    >{looking ? 'Looking …' : 'What mends it?'}</button
  >
{:else}
  <ul class="mt-1">
    {#each mends as mend (mend.words)}
      <li class="flex flex-wrap items-baseline gap-x-2 py-0.5">
        <span>{mend.words}</span>
        <span class="text-muted">gives back {mend.gains.toFixed(1).replace('.0', '')} sets; {mend.price}</span
        >
        {#if mend.key}<button class="font-semibold underline" onclick={() => void take(mend)}>Take it</button
          >{/if}
      </li>
    {:else}<li class="text-muted">Nothing that stands in for these lines here gives it back.</li>{/each}
  </ul>
{/if}
{#if told}<span class="ml-2 text-small" role="status">{told}</span>{/if}
