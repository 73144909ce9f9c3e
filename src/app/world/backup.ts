import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import localforage from 'localforage';
import { reasonOf, type World } from './database';
import { settings } from './settings';
import { useWorld } from './world';

/** A copy of the log outside the browser. */
export interface LastBackup {
  atMs: number;
  /** How many entries it has. */
  entries: number;
  /** The folder it is in; undefined for a download. */
  folder?: string;
}

/** So many entries without a copy are reminded of (house). */
export const REMIND_ENTRIES = 200;
/** A folder that was chosen is written to so often, where there is something new, ms. */
const EVERY_MS = 5 * 60000;
const FILE = 'slow-anchor-backup.json';

/** The browser's own types do not have it yet. */
interface Folder extends FileSystemDirectoryHandle {
  queryPermission?(of: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(of: { mode: 'readwrite' }): Promise<PermissionState>;
}
type Picker = (options: { id: string; mode: 'readwrite' }) => Promise<Folder>;
const picker = (): Picker | undefined => (window as unknown as { showDirectoryPicker?: Picker }).showDirectoryPicker;

const folders = localforage.createInstance({ name: 'slow-anchor-settings', storeName: 'folders' });
const keyOf = (world: World) => `backup/${world}`;

/** Writes a copy into a folder: the old one stays until the new one is whole. */
async function writeInto(folder: Folder, blob: Blob): Promise<void> {
  const handle = await folder.getFileHandle(FILE, { create: true });
  const file = await handle.createWritable();
  await file.write(blob);
  await file.close();
}

/** Copies of this log outside the browser: the last one, how much is newer, and how to make one. */
export function useBackup() {
  const { world, count, ask, nowMs } = useWorld();
  const client = useQueryClient();
  const query = ['backup', world];
  const { data } = useQuery({
    queryKey: query,
    queryFn: async () => ({
      last: await settings.getItem<LastBackup>(keyOf(world)),
      folder: await folders.getItem<Folder>(world).catch(() => null),
    }),
  });
  const last = data?.last ?? undefined;
  const folder = data?.folder ?? undefined;
  const unsaved = count - Math.min(count, last?.entries ?? 0);
  const kept = async (entries: number, name?: string) => {
    await settings.setItem(keyOf(world), { atMs: nowMs(), entries, ...(name ? { folder: name } : {}) });
    await client.invalidateQueries({ queryKey: query });
  };
  const exported = () => ask('export', { as: 'json', nowMs: Math.round(nowMs()) });
  /** @returns what came of it, in a sentence */
  const intoFolder = async (into: Folder): Promise<string> => {
    const entries = count;
    try {
      await writeInto(into, await exported());
    } catch (error) {
      return `No backup was written to ${into.name}: ${reasonOf(error)}. Choose the folder again.`;
    }
    await kept(entries, into.name);
    return `Backed up to ${into.name}: ${entries} entries.`;
  };
  return {
    last,
    unsaved,
    folder,
    canChoose: picker() !== undefined,
    intoFolder,
    /** A file to keep. */
    download: async (name: string, save: (name: string, blob: Blob) => void): Promise<string> => {
      const entries = count;
      save(name, await exported());
      await kept(entries);
      return `Saved as ${name}: ${entries} entries. Put it where you find it again.`;
    },
    choose: async (): Promise<string> => {
      const pick = picker();
      if (!pick) return 'This browser cannot write to a folder by itself. Save a backup file instead.';
      try {
        const chosen = await pick({ id: 'slow-anchor-backup', mode: 'readwrite' });
        await folders.setItem(world, chosen);
        return await intoFolder(chosen);
      } catch (error) {
        if ((error as DOMException).name === 'AbortError') return 'No folder was chosen.';
        return `The folder could not be used: ${reasonOf(error)}.`;
      }
    },
  };
}

/** Room that this app uses, and how much it may, bytes; undefined where the browser does not say. */
export const useSpace = (): StorageEstimate | undefined =>
  useQuery({
    queryKey: ['space'],
    queryFn: async () => (await navigator.storage?.estimate?.().catch(() => undefined)) ?? null,
    staleTime: 0,
  }).data ?? undefined;

/** Writes to the chosen folder by and by, where something is new and the browser still allows it. Shows nothing. */
export function AutoBackup(): null {
  const { clock, demo } = useWorld();
  const { folder, unsaved, intoFolder } = useBackup();
  const due = !demo && folder !== undefined && unsaved > 0;
  /** Knows the log as it is when it writes, not as it was when the wait began. */
  const write = useRef(intoFolder);
  useEffect(() => {
    write.current = intoFolder;
  });
  useEffect(() => {
    if (!due) return undefined;
    return clock.every(EVERY_MS, () => {
      void folder.queryPermission?.({ mode: 'readwrite' }).then((may) => {
        if (may === 'granted') void write.current(folder);
      });
    });
  }, [due, folder, clock]);
  return null;
}
