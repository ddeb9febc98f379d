import { createRouter } from 'sv-router';
import Match from './views/match/Match.svelte';
import Roster from './views/roster/Roster.svelte';

export const { p, navigate, isActive, route } = createRouter({
  '/': Roster,
  '/clients/:client': Roster,
  '/lines/:line/at/:place': Match,
  '*': Roster,
});
