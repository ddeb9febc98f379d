/** What a coach prefers, stored as it is said: weights of a lens for all clients, a movement first or never for one. */
import { api, ask, type ClientDoc, type Rank } from '../../lib/api/client';

/** How a line is ranked until the coach says otherwise. */
export const PLAIN: Rank = {
  lens: 'same_profile',
  weights: {},
  equivalence: 'hardest',
  law: 'epley',
  without: [],
  one_side: false,
  known_only: false,
  unlike: false,
};

/** Empty weights are the lens's own. Done to what is stored now. */
export async function storeWeights(lens: string, weights: Record<string, number>) {
  const now = await ask(api.GET('/api/coach'));
  if (now.problem) return now;
  const all = { ...now.data.weights };
  if (Object.keys(weights).length) all[lens] = weights;
  else delete all[lens];
  return ask(api.PUT('/api/coach', { body: { ...now.data, lens, weights: all } }));
}

/** On the list where it is not yet, off it where it is; never on both lists. Done to the client as stored now. */
export async function storeMark(client: number, list: 'pinned' | 'banned', movement: string) {
  const path = { params: { path: { client } } };
  const now = await ask(api.GET('/api/clients/{client}', path));
  if (now.problem) return now;
  const document: ClientDoc = { ...now.data.client };
  const on = document[list]?.includes(movement);
  document.pinned = (document.pinned ?? []).filter((m) => m !== movement);
  document.banned = (document.banned ?? []).filter((m) => m !== movement);
  if (!on) document[list] = [...(document[list] ?? []), movement];
  return ask(api.PUT('/api/clients/{client}', { ...path, body: document }));
}
