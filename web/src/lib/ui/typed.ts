/** A typed number with point or comma; not a number where it is none. */
export function typed(text: string): number {
  return text.trim() ? Number(text.trim().replace(',', '.')) : NaN;
}
