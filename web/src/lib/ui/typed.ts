/** A typed number with point or comma; not a number where it is none. */
export function typed(text: string): number {
  return text.trim() ? Number(text.trim().replace(',', '.')) : NaN;
}

/** `1 reading`, `2 readings`. */
export const counted = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;
