<!-- Signing in, where the app answers beyond its own machine. -->
<script lang="ts">
  import { api, ask, type Problem } from '../../lib/api/client';

  let name = $state('');
  let password = $state('');
  let problem: Problem | null = $state.raw(null);
  let busy = $state(false);
  const field = 'mt-1 h-11 w-full rounded-md border border-line bg-panel px-3 text-base text-ink';

  async function enter() {
    busy = true;
    const answer = await ask(api.POST('/api/sign-in', { body: { name, password } }));
    busy = false;
    problem = answer.problem ?? null;
    // Everything is read anew, as this coach.
    if (answer.data) location.assign('/');
  }
</script>

<svelte:head><title>Sign in · Odd Swap</title></svelte:head>
<main class="flex min-h-full items-center justify-center p-5">
  <form
    class="w-full max-w-sm rounded-xl border border-line bg-panel p-6"
    onsubmit={(e) => {
      e.preventDefault();
      void enter();
    }}
  >
    <svg viewBox="0 0 32 32" width="44" height="44" aria-hidden="true">
      <path d="M3 15C7 5 13 4 18 5s8 5 10 10z" fill="var(--prescribed)" />
      <path d="M5 17c2 8 7 11 12 10s7-5 9-10z" fill="var(--swap)" />
      <path d="M1 16h30" stroke="var(--ink)" stroke-width="2" />
    </svg>
    <h1 class="mt-3 text-2xl">Sign in</h1>
    <p class="mt-1 text-sm text-muted">
      For coaches. A client's card opens by its own link, without a password.
    </p>
    <label class="mt-4 block text-sm text-muted"
      >name<input class={field} autocomplete="username" required bind:value={name} /></label
    >
    <label class="mt-3 block text-sm text-muted"
      >password<input
        class={field}
        type="password"
        autocomplete="current-password"
        required
        bind:value={password}
      /></label
    >
    {#if problem}<p class="mt-3 text-sm" role="alert">
        <strong class="text-swap">{problem.title}.</strong>
        {problem.detail}
      </p>{/if}
    <button
      class="mt-5 h-11 w-full rounded-md bg-ink text-base font-semibold text-paper disabled:opacity-50"
      disabled={busy || !name || !password}>{busy ? 'Looking …' : 'Sign in'}</button
    >
  </form>
</main>
