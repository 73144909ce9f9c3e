import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import localforage from 'localforage';
import { type Zone, MINUTE } from '../../core/base';
import type { Analyst } from '../analyst/client';
import type { Exported } from '../analyst/questions';
import { settings, writerName } from './settings';
import { useWorld } from './world';
import { reasonOf, type StoreName } from '../store/database';

const exchange = () => import('../../core/exchange');

/** A copy of the log outside the browser. */
export interface LastBackup {
  atMs: number;
  /** How many entries it has. */
  entries: number;
  /** The folder it is in; undefined for a download. */
  folder?: string;
  /** Why the one after it was not written; undefined where none failed. */
  failed?: string;
}

/** So many entries without a copy are reminded of (house). */
export const REMIND_ENTRIES = 200;
/** A folder that was chosen is written to so often, where there is something new, ms. */
const EVERY_MS = 5 * MINUTE;

/** The browser's own types do not have them yet. */
interface Folder extends FileSystemDirectoryHandle {
  queryPermission?(of: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(of: { mode: 'readwrite' }): Promise<PermissionState>;
}
interface Movable extends FileSystemFileHandle {
  move?(name: string): Promise<void>;
}
type Picker = (options: { id: string; mode: 'readwrite' }) => Promise<Folder>;
const picker = (): Picker | undefined => (window as unknown as { showDirectoryPicker?: Picker }).showDirectoryPicker;

const folders = localforage.createInstance({ name: 'slow-anchor-settings', storeName: 'folders' });
const keyOf = (world: StoreName) => `backup/${world}`;

/** A backup that lies in a chosen folder and has what this log does not have. */
export interface FoundBackup {
  folder: Folder;
  file: File;
  entries: number;
  missing: number;
}

/** Why it went wrong, as the end of a sentence. */
const whyOf = (error: unknown): string => `${reasonOf(error).replace(/\.$/, '')}.`;

/** Names in a folder. */
async function namesIn(folder: FileSystemDirectoryHandle): Promise<string[]> {
  const names: string[] = [];
  for await (const name of (folder as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name);
  return names;
}

/** The newest backup of every log and device in a folder that has entries which are not in this log: the one with the most. */
async function lookInto(folder: Folder, ask: Analyst['ask']): Promise<FoundBackup | undefined> {
  const { generationOf, isBackup } = await exchange();
  const newest = new Map<string, string>();
  for (const name of (await namesIn(folder)).filter(isBackup).sort()) newest.set(generationOf(name)?.of ?? name, name);
  const found: FoundBackup[] = [];
  for (const name of newest.values()) {
    const file = await (await folder.getFileHandle(name)).getFile();
    const looked = await ask('look', { file });
    if (looked.ok && looked.missing > 0) found.push({ folder, file, entries: looked.records, missing: looked.missing });
  }
  return found.sort((a, b) => b.missing - a.missing)[0];
}

/**
 * Writes a backup into a folder, beside what is there and under a name of its own; then lets go of those that it makes needless,
 * never of one with an entry that this log does not have.
 */
export async function writeInto(
  folder: FileSystemDirectoryHandle,
  { file }: Exported,
  at: { world: StoreName; atMs: number; zone: Zone },
  ask: Analyst['ask'],
): Promise<void> {
  const { backupName, spent } = await exchange();
  const name = backupName(at.world, await writerName(), at.atMs, at.zone);
  const part = `${name}.part`;
  let handle: Movable = await folder.getFileHandle(part, { create: true });
  const canMove = handle.move !== undefined;
  // Where a file cannot be renamed the browser itself writes beside it, and puts it in place when it is whole.
  if (!canMove) handle = await folder.getFileHandle(name, { create: true });
  const writable = await handle.createWritable();
  await writable.write(file);
  await writable.close();
  if (canMove) await handle.move!(name);
  else await folder.removeEntry(part);
  const { size } = await (await folder.getFileHandle(name)).getFile();
  if (size !== file.size) throw new Error('what lies there now is not what was written');
  for (const old of spent(await namesIn(folder), name)) {
    const looked = await ask('look', { file: await (await folder.getFileHandle(old)).getFile() });
    if (looked.ok && looked.missing === 0) await folder.removeEntry(old);
  }
}

/** Copies of this log outside the browser: the last one, how much is newer, and how to make one. */
export function useBackup() {
  const { world, count, ask, nowMs, zone, importFile } = useWorld();
  const client = useQueryClient();
  const query = ['backup', world];
  const [found, setFound] = useState<FoundBackup | undefined>(undefined);
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
  const note = async (told: LastBackup) => {
    await settings.setItem(keyOf(world), told);
    await client.invalidateQueries({ queryKey: query });
  };
  const exported = () => ask('export', { as: 'json', nowMs: Math.round(nowMs()), atLeast: count });
  /** @returns what came of it, in a sentence */
  const intoFolder = async (into: Folder): Promise<string> => {
    try {
      const made = await exported();
      await writeInto(into, made, { world, atMs: nowMs(), zone }, ask);
      await note({ atMs: nowMs(), entries: made.records, folder: into.name });
      return `Backed up to ${into.name}: ${made.records} entries.`;
    } catch (error) {
      const failed = `No backup was written to ${into.name}: ${whyOf(error)}`;
      await note({ ...(last ?? { atMs: 0, entries: 0 }), failed });
      return failed;
    }
  };
  /** From now on backups go there by themselves. */
  const settle = async (into: Folder): Promise<string> => {
    setFound(undefined);
    await folders.setItem(world, into);
    return intoFolder(into);
  };
  return {
    last: last && last.entries > 0 ? last : undefined,
    failed: last?.failed,
    unsaved,
    folder,
    /** What lies in the folder that was just chosen, where it has entries that are not here: it is asked what to do. */
    found,
    canChoose: picker() !== undefined,
    intoFolder,
    /** A file to keep. */
    download: async (name: string, save: (name: string, blob: Blob) => void): Promise<string> => {
      try {
        const { file, records } = await exported();
        save(name, file);
        await note({ atMs: nowMs(), entries: records });
        return `Saved as ${name}: ${records} entries. Put it where you find it again.`;
      } catch (error) {
        return `No backup was saved: ${whyOf(error)}`;
      }
    },
    choose: async (): Promise<string> => {
      const pick = picker();
      if (!pick) return 'This browser cannot write to a folder by itself. Save a backup file instead.';
      try {
        const chosen = await pick({ id: 'slow-anchor-backup', mode: 'readwrite' });
        const there = await lookInto(chosen, ask);
        if (!there) return await settle(chosen);
        setFound(there);
        return '';
      } catch (error) {
        if ((error as DOMException).name === 'AbortError') return 'No folder was chosen.';
        return `The folder could not be used: ${reasonOf(error)}.`;
      }
    },
    /** What lies in the folder is brought into this log first. */
    bringBack: async ({ folder: into, file }: FoundBackup): Promise<string> => {
      const became = await importFile(file);
      if (!became.ok) return `${file.name}: ${became.message}`;
      // Others may lie there too.
      const next = await lookInto(into, ask);
      setFound(next);
      return next
        ? `${became.fresh} entries came back from ${file.name}.`
        : `${became.fresh} entries came back. ${await settle(into)}`;
    },
    /** What lies in the folder stays as it is, and this log's are written beside it. */
    beginNew: ({ folder: into }: FoundBackup): Promise<string> => settle(into),
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
  const { clock, demo, stand } = useWorld();
  const { folder, unsaved, intoFolder } = useBackup();
  const due = !demo && stand !== 'newer is open' && folder !== undefined && unsaved > 0;
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
