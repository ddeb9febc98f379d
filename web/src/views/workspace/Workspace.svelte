<!-- Everything at once: a copy to keep or to take to another machine, one put back, units, and the demo's records. -->
<script lang="ts">
  import Download from '@lucide/svelte/icons/download';
  import Upload from '@lucide/svelte/icons/upload';
  import { api, ask, type Problem, type Schemas } from '../../lib/api/client';
  import Ask from '../../lib/ui/Ask.svelte';
  import Choose from '../../lib/ui/Choose.svelte';
  import { asForm } from '../../lib/ui/file';
  import Faults from '../../lib/ui/Faults.svelte';
  import Pick from '../../lib/ui/Pick.svelte';
  import Shell from '../../lib/ui/Shell.svelte';
  import type { Shortcut } from '../../lib/ui/keys';
  import { known } from '../../lib/units/units.svelte';
  import { navigate } from '../../router';

  known.read();
  let chosen: File | null = $state.raw(null);
  let asking = $state(false);
  let busy = $state('');
  let done = $state('');
  let problem: Problem | null = $state.raw(null);
  let demo = $state(false);
  let leaving = $state(false);
  let who = $state.raw<Schemas['SignInView'] | null>(null);
  void ask(api.GET('/api/sign-in')).then((answer) => (who = answer.data ?? null));
  async function leave(everywhere: boolean) {
    await ask(api.POST('/api/sign-out', { params: { query: { everywhere } } }));
    location.assign('/sign-in');
  }
  void ask(api.GET('/api/demo')).then((answer) => (demo = answer.data?.there ?? false));

  async function set(part: Partial<Schemas['CoachDoc']>) {
    const now = await ask(api.GET('/api/coach'));
    if (now.data) await ask(api.PUT('/api/coach', { body: { ...now.data, ...part } }));
    await known.again();
  }
  async function restore() {
    if (!chosen) return;
    busy = 'Putting the backup in place …';
    const answer = await ask(api.POST('/api/restore', asForm(chosen)));
    busy = '';
    problem = answer.problem ?? null;
    if (!answer.data) return;
    done = `${chosen.name} is in place. What was here before is kept beside it as ${answer.data.kept}.`;
    await known.again();
  }
  async function turnDemo() {
    busy = demo ? 'Removing the demo data …' : 'Bringing the demo data …';
    const answer = await ask(demo ? api.DELETE('/api/demo') : api.POST('/api/demo'));
    busy = '';
    problem = answer.problem ?? null;
    if (answer.data) demo = answer.data.there;
  }
  const shortcuts: Shortcut[] = [
    { keys: ['Escape'], shown: 'Esc', does: 'To the roster', run: () => void navigate('/') },
  ];
  const button =
    'flex items-center gap-2 rounded-md border border-line bg-panel px-4 py-2 text-sm font-semibold hover:border-muted';
</script>

<Shell title="Workspace" {shortcuts}>
  {#snippet crumbs()}<span class="font-semibold text-ink">Workspace</span>{/snippet}
  <div class="h-full overflow-y-auto">
    <div class="mx-auto max-w-[720px] space-y-8 px-5 py-6">
      <h1 class="text-2xl">Workspace</h1>
      {#if who?.needed}
        <section aria-labelledby="who">
          <h2 id="who" class="text-lg">Signed in as {who.name}</h2>
          <div class="mt-3 flex flex-wrap gap-3">
            <button class={button} onclick={() => void leave(false)}>Sign out</button>
            <button class={button} onclick={() => void leave(true)}>Sign out everywhere</button>
          </div>
          <p class="mt-2 text-sm text-muted">
            Backups and the demo data are dealt with on the machine itself.
          </p>
        </section>
      {/if}
      {#if !who?.needed}<section aria-labelledby="copies">
          <h2 id="copies" class="text-lg">Backup</h2>
          <p class="mt-1 text-sm">
            Clients, places, programs, accepted swaps, measurements and what can be undone: all of it is one
            file on this machine. Save a copy now and then, and take it along to another machine.
          </p>
          <div class="mt-3 flex flex-wrap gap-3">
            <a class={button} href="/api/backup" download><Download size={16} /> Save a backup</a>
            <Choose
              label="Backup file"
              accept=".db"
              look={button}
              onfile={(file) => {
                chosen = file;
                done = '';
                problem = null;
                asking = true;
              }}><Upload size={16} /> Put a backup in place …</Choose
            >
          </div>
          <p class="mt-2 text-sm" role="status">{busy || done}</p>
          {#if problem}<div class="mt-2"><Faults {problem} /></div>{/if}
        </section>{/if}
      <section aria-labelledby="units">
        <h2 id="units" class="text-lg">Units</h2>
        <p class="mt-1 text-sm">
          For kit, rooms, calculators and new clients. Every client's own units are set with their size. Kit
          may be typed in either, as in <strong>25lb</strong> or <strong>10in</strong>.
        </p>
        <div class="mt-3 flex flex-wrap gap-3">
          {#if known.coach}
            {#each [['masses', 'mass_unit', 'kg'], ['lengths', 'length_unit', 'cm']] as const as [name, field, of] (field)}
              <Pick
                {name}
                value={known.coach[field] ?? of}
                items={known.units.filter((u) => u.of === of).map((u) => ({ value: u.id, label: u.id }))}
                onpick={(v) => void set({ [field]: v })}
              />
            {/each}
          {/if}
        </div>
      </section>
      {#if !who?.needed}<section aria-labelledby="demo">
          <h2 id="demo" class="text-lg">Demo data</h2>
          <p class="mt-1 text-sm">
            Made-up clients, places and programs to try things on. Removing them takes what hangs on them
            along, and nothing else.
          </p>
          <button
            class="{button} mt-3"
            disabled={!!busy}
            onclick={() => (demo ? (leaving = true) : void turnDemo())}
            >{demo ? 'Remove the demo data' : 'Bring the demo data'}</button
          >
        </section>{/if}
    </div>
  </div>
</Shell>

<Ask
  bind:open={asking}
  title="Put {chosen?.name ?? 'this backup'} in place?"
  about="Everything that is here now is replaced by what is in the backup. A copy of what is here is kept beside the database first."
  does="Put it in place"
  ondo={() => void restore()}
/>
<Ask
  bind:open={leaving}
  title="Remove the demo?"
  about="Its made-up clients, places and all that was accepted for them are deleted for good. What you made yourself stays."
  does="Remove the demo"
  ondo={() => void turnDemo()}
/>
