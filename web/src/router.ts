import { createRouter } from 'sv-router';
import Client from './views/client/Client.svelte';
import Measure from './views/measure/Measure.svelte';
import Place from './views/place/Place.svelte';
import Library from './views/library/Library.svelte';
import Match from './views/match/Match.svelte';
import Program from './views/program/Program.svelte';
import Roster from './views/roster/Roster.svelte';
import Calculators from './views/calculators/Calculators.svelte';

export const { p, navigate, isActive, route } = createRouter({
  '/': Roster,
  '/clients/:client': Roster,
  '/people/:client': Client,
  '/programs/:program': Program,
  '/places': Place,
  '/places/:place': Place,
  '/measuring': Measure,
  '/measuring/:place/:item': Measure,
  '/movements': Library,
  '/movements/:movement': Library,
  '/calculators': Calculators,
  '/calculators/:calculator': Calculators,
  '/lines/:line/at/:place': Match,
  '*': Roster,
});
