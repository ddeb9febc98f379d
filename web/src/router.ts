import { createRouter } from 'sv-router';
import Library from './views/library/Library.svelte';
import Match from './views/match/Match.svelte';
import Roster from './views/roster/Roster.svelte';

export const { p, navigate, isActive, route } = createRouter({
  '/': Roster,
  '/clients/:client': Roster,
  '/movements': Library,
  '/movements/:movement': Library,
  '/lines/:line/at/:place': Match,
  '*': Roster,
});
