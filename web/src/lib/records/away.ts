/** Putting records away and what would go with them, in words. */
import { api, ask, type Kinds, type PutAway } from '../api/client';

/** For example `2 programs, 12 lines and 3 accepted swaps`; empty where nothing hangs on it. */
export function holdsWords(holds: Record<string, number>): string {
  const words = Object.entries(holds)
    .filter(([, n]) => n)
    .map(([what, n]) => (n === 1 ? `1 ${what.replace(/s$/, '')}` : `${n} ${what}`));
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '');
}

/** The record must have been read before: putting away is held against its revision. */
export async function putAway(kind: Kinds, number: number): Promise<PutAway | null> {
  const path = { params: { path: { kind, number } } };
  const answer = await ask(api.DELETE('/api/{kind}/{number}', path));
  return answer.data ?? null;
}

export async function bringBack(kind: Kinds, number: number): Promise<boolean> {
  const answer = await ask(
    api.POST('/api/{kind}/{number}/bring-back', { params: { path: { kind, number } } }),
  );
  return !answer.problem;
}
