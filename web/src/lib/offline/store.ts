/** What a phone keeps: cards by their link, and entries until they are sent and after. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Schemas } from '../api/client';

export type Entry = Schemas['EntryDoc'];
export type Kept = { id: string; link: string; entry: Entry; sent: boolean; refused?: string };

interface Shelf extends DBSchema {
  cards: { key: string; value: { link: string; card: Schemas['CardDoc']; opened: number } };
  entries: { key: string; value: Kept; indexes: { link: string } };
}

let opened: Promise<IDBPDatabase<Shelf>> | null = null;
const shelf = () =>
  (opened ??= openDB<Shelf>('odd-swap-card', 1, {
    upgrade(db) {
      db.createObjectStore('cards', { keyPath: 'link' });
      db.createObjectStore('entries', { keyPath: 'id' }).createIndex('link', 'link');
    },
  }));

export async function readCard(link: string): Promise<Schemas['CardDoc'] | null> {
  return (await (await shelf()).get('cards', link))?.card ?? null;
}
export async function keepCard(link: string, card: Schemas['CardDoc']) {
  await (await shelf()).put('cards', { link, card, opened: Date.now() });
}
/** The link that was opened last: what the home screen opens. */
export async function lastLink(): Promise<string> {
  const all = await (await shelf()).getAll('cards');
  return all.sort((a, b) => b.opened - a.opened)[0]?.link ?? '';
}
export async function readEntries(link: string): Promise<Kept[]> {
  return (await shelf()).getAllFromIndex('entries', 'link', link);
}
export async function keepEntry(kept: Kept) {
  await (await shelf()).put('entries', kept);
}
export async function markSent(ids: string[]) {
  const tx = (await shelf()).transaction('entries', 'readwrite');
  for (const id of ids) {
    const held = await tx.store.get(id);
    if (held) await tx.store.put({ ...held, sent: true });
  }
  await tx.done;
}

const PAGE = 'odd-swap-card-1';
/** Keep the page itself, so that it opens without a network; nothing where the browser does not allow it. */
export async function keepPage() {
  if (!('serviceWorker' in navigator) || !('caches' in window)) return;
  await navigator.serviceWorker.register('/card-worker.js');
  const used = performance
    .getEntriesByType('resource')
    .map((r) => new URL(r.name))
    .filter((u) => u.origin === location.origin && u.pathname.startsWith('/assets/'))
    .map((u) => u.pathname);
  const cache = await caches.open(PAGE);
  const page = await fetch('/card', { headers: { Accept: 'text/html' } });
  if (page.ok) await cache.put('/card', page);
  await cache.addAll(['/icon.svg', '/card.webmanifest', ...new Set(used)]);
}
