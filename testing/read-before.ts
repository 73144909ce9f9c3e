import { gunzipSync } from 'node:zlib';

interface Packed {
  chapter?: unknown;
  instrumentId?: unknown;
  atMs?: unknown;
  ids?: unknown;
  written?: unknown;
  packed?: unknown;
}

/**
 * The items of the store as the build before this one reads them: what it asked of an item, word by word. It changes when a build
 * has gone out that reads something new, never with the code that it is held against.
 */
export function readBefore(items: readonly [string, unknown][]): { records: { id: string }[]; unread: string[] } {
  const records: { id: string }[] = [];
  const unread: string[] = [];
  for (const [key, value] of items) {
    const piece = /^(.+):\d+\/(\d+)$/.exec(key);
    const pieces = piece && items.filter(([other]) => other.startsWith(`${piece[1]!}:`)).length;
    if (piece && pieces !== Number(piece[2])) continue;
    if (!Array.isArray(value)) unread.push(key);
    for (const entry of Array.isArray(value) ? (value as (Packed & { id?: unknown; type?: unknown })[]) : []) {
      const { chapter, instrumentId, atMs, ids, written, packed } = entry;
      const isChapter =
        chapter === 1 &&
        typeof instrumentId === 'string' &&
        ArrayBuffer.isView(atMs) &&
        typeof ids === 'string' &&
        Array.isArray(written) &&
        ArrayBuffer.isView(packed);
      if (isChapter) records.push(...(JSON.parse(gunzipSync(packed as Uint8Array).toString()) as { id: string }[]));
      else if (typeof entry.id === 'string' && typeof entry.type === 'string') records.push(entry as { id: string });
      else unread.push(key);
    }
  }
  return { records, unread };
}
