import type { PlaceDoc } from '../../lib/api/client';

/** Kit of a place that can load a movement, as named in the list of what is in use. */
export type Item = { id: string; name: string };

/** Hours at which several items are usually in use. */
export type Crowd = { when: string; items: string[] };

const SUPPORTS = ['bench', 'arm_pad', 'anchor', 'station', 'handle'];

export function itemsOf(place: PlaceDoc | undefined): Item[] {
  return (place?.kit ?? []).filter((k) => !SUPPORTS.includes(k.kind));
}

export function crowdsOf(place: PlaceDoc | undefined): Crowd[] {
  const hours: Record<string, string[]> = {};
  for (const b of place?.busy ?? []) {
    const days = b.days?.map((d) => d[0]!.toUpperCase() + d.slice(1)).join(' ') || 'Daily';
    const when = `${days}, ${b.start} to ${b.end}`;
    hours[when] = [...(hours[when] ?? []), b.item];
  }
  return Object.entries(hours).map(([when, items]) => ({ when, items }));
}
