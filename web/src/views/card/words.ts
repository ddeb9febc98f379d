import type { SetDoc, Way } from './card.svelte';

/** A set in words, for example ``4.5 kg × 13, 1 left``. */
export function setWords(set: SetDoc | null | undefined, way: Way): string {
  if (!set) return '';
  const load = way.amounts.find((a) => a.amount === set.amount)?.words ?? `${set.amount}`;
  const reps = set.left != null && set.right != null ? `${set.left} left, ${set.right} right` : `${set.reps}`;
  const more = [
    set.rir == null ? '' : set.rir >= 4 ? '4 or more in reserve' : `${set.rir} in reserve`,
    set.partials ? `${set.partials} half reps` : '',
    set.drops?.length ? `then ${set.drops.map((d) => `${d.amount} × ${d.reps}`).join(', ')}` : '',
    set.hold_s ? `held ${set.hold_s} s` : '',
  ].filter(Boolean);
  return [`${load} × ${reps}`, ...more].join(', ');
}

export const stamp = () => new Date().toISOString();
export const isToday = (at: string) => new Date(at).toDateString() === new Date().toDateString();
