import { createRouter } from 'sv-router';
import Roster from './views/roster/Roster.svelte';

// The roster comes first; every other view is fetched when it is opened.
const Client = () => import('./views/client/Client.svelte');
const Program = () => import('./views/program/Program.svelte');
const Place = () => import('./views/place/Place.svelte');
const Measure = () => import('./views/measure/Measure.svelte');
const Library = () => import('./views/library/Library.svelte');
const Calculators = () => import('./views/calculators/Calculators.svelte');
const Workspace = () => import('./views/workspace/Workspace.svelte');
const Floor = () => import('./views/floor/Floor.svelte');
const Card = () => import('./views/card/Card.svelte');
const Log = () => import('./views/log/Log.svelte');
const SignIn = () => import('./views/sign-in/SignIn.svelte');
const Match = () => import('./views/match/Match.svelte');

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
  '/workspace': Workspace,
  '/lines/:line/at/:place': Match,
  '/sessions/:session/at/:place': Floor,
  '/card': Card,
  '/sign-in': SignIn,
  '/clients/:client/log': Log,
  '*': Roster,
});
