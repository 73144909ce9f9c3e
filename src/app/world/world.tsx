import { v4 as newId } from 'uuid';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { offsetMin, type Zone } from '../../core/base';
import { LONGEST_NOTE } from '../../core/limits';
import { DEFAULT_A4_HZ } from '../../core/music';
import {
  checkRecord,
  createLogIndex,
  indexOf,
  RECORD_VERSION,
  type Bench,
  type Chapter,
  type Draft,
  type LogEntries,
  type LogRecord,
  type StringPlan,
  type Written,
} from '../../core/log';
import { createDemoControls, type DemoControls } from './demonstration/controls';
import type { Analyst, AskOptions } from '../analyst/client';
import type { Imported } from '../analyst/questions';
import { FaultyRecord } from './held';
import type { Clock } from './clock';
import { browserMeans, type Means } from './means';
import { writerName } from './settings';
import { reasonOf, type Damaged, type RecordStore, type StoreName } from '../store/database';
import type { Stand } from '../store/tabs';
import { openDemo, resetDemo, saveDemo, type DemoState } from './demonstration/state';

/** Everything a view needs of the log, the clock and, in the demonstration, the simulated truth. */
export interface WorldValue {
  world: StoreName;
  /** '' or '/demo': what every path begins with. */
  basePath: string;
  /** How many entries the log has. */
  count: number;
  /** All of them: a long log takes its time. */
  allRecords: () => LogRecord[];
  bench: Bench;
  /** A record as it was stored. */
  stored: (id: string, instrumentId: string) => LogRecord | undefined;
  /** A string as it was tuned at a time. */
  planAt: (instrumentId: string, stringId: string, atMs: number) => StringPlan | undefined;
  /** The bench as it is at this very moment, before the page was drawn anew. */
  latest: () => Bench;
  a4Hz: number;
  /** What time is read and waited for by. */
  clock: Clock;
  /** The time of this log: the demonstration has its own. */
  nowMs: () => number;
  /** Counts how often the demonstration's clock was set: what shows the time looks again. */
  clockSet: number;
  /** By which wall clock times are told. */
  zone: Zone;
  /** Appends records; resolves with them once they are kept. @param file they came from, to be taken back whole with it */
  append: (drafts: Draft[], file?: string) => Promise<LogRecord[]>;
  /** Takes a file of records in. */
  importFile: (file: File, options?: AskOptions) => Promise<Imported>;
  /** Records the browser refused, that live in memory only. */
  unkept: number;
  /** What was found in the store and could not be read. */
  damaged: Damaged[];
  /** How this build stands to others that have this log open. */
  stand: Stand;
  /** Why the store could not be opened; '' where it was. */
  trouble: string;
  /** Whether the browser has promised to keep the log; undefined before it was asked. */
  lasting: boolean | undefined;
  /** What this device wrote last. */
  lastWritten: Written | undefined;
  /** Asks the worker that knows this log. */
  ask: Analyst['ask'];
  demo: DemoControls | undefined;
  means: Means;
}

const Context = createContext<WorldValue | undefined>(undefined);

export function useWorld(): WorldValue {
  const value = useContext(Context);
  if (!value) throw new Error('useWorld outside of a world');
  return value;
}

/** The log with what it says; kept together so that what did not change keeps its identity, and views need not redraw it. */
interface Log {
  count: number;
  bench: Bench;
  damaged: Damaged[];
  trouble: string;
}

let promise: Promise<boolean> | undefined;
/** Asks the browser, once, to keep what is here; false where it did not promise. */
function askToLast(): Promise<boolean> {
  const { storage } = navigator;
  const ask = async () => (await storage?.persisted?.()) || ((await storage?.persist?.()) ?? false);
  return (promise ??= ask().catch(() => false));
}

interface Props {
  world: StoreName;
  /** What it is made of: where nothing is given, the browser's. */
  means?: Means | undefined;
  children: ReactNode;
}

export function WorldProvider({ world, means: given, children }: Props) {
  const [means] = useState<Means>(() => given ?? browserMeans(world));
  const [store] = useState<RecordStore>(() => means.openStore(world));
  const { analyst, clock } = means;
  const client = useQueryClient();
  const demoState = useRef<DemoState | undefined>(undefined);
  const [unkept, setUnkept] = useState(0);
  const [clockSet, redraw] = useState(0);
  const index = useRef(createLogIndex());
  const writer = useRef('');
  const reserved = useRef(0);
  const [stand, setStand] = useState<Stand>('alone');
  /** Chapters that proved damaged, here or in the worker, by their ids. */
  const [bent, setBent] = useState<ReadonlyMap<string, Chapter>>(new Map());
  const [lasting, setLasting] = useState<boolean | undefined>(undefined);
  const onAside = useCallback(
    (chapter: Chapter) => {
      // It may prove so while the page is being drawn.
      queueMicrotask(() => {
        setBent((known) => new Map(known).set(chapter.ids, chapter));
        client.setQueryData<Log>(['log', world], (log) => log && { ...log, count: index.current.count() });
      });
    },
    [client, world],
  );
  const { data, error } = useQuery({
    queryKey: ['log', world],
    queryFn: async (): Promise<Log> => {
      writer.current ||= await writerName();
      if (world === 'demo' && !demoState.current) demoState.current = await openDemo(means, store);
      analyst.open(onAside);
      // What comes in while the store is read.
      index.current = createLogIndex(onAside);
      const read = await store.all().then(
        (all) => ({ ...all, trouble: '' }),
        (reason: unknown) => ({ records: [...store.held()], chapters: [], damaged: [], trouble: reasonOf(reason) }),
      );
      analyst.tell(store.held());
      const { index: own, aside } = indexOf(read, onAside);
      own.add(index.current.records());
      index.current = own;
      const damaged = aside.length > 0 ? [...read.damaged, { key: 'records', value: aside }] : read.damaged;
      const count = own.count();
      if (world === 'own' && count > 0) void askToLast().then(setLasting);
      return { damaged, trouble: read.trouble, count, bench: own.bench() };
    },
    staleTime: Infinity,
    // What did not change keeps its identity by the index; comparing it record by record would take the longer the log is.
    structuralSharing: false,
  });
  const gain = useCallback(
    (written: LogEntries) => {
      const { records, chapters } = index.current.add(written.records, written.chapters);
      if (records.length + chapters.length === 0) return;
      analyst.tell(records, chapters);
      client.setQueryData<Log>(
        ['log', world],
        (log) => log && { ...log, count: index.current.count(), bench: index.current.bench() },
      );
    },
    [client, world, analyst],
  );
  useEffect(() => store.onStand(() => setStand(store.stand())), [store]);
  useEffect(() => store.onHeld(() => setUnkept(store.held().length)), [store]);
  useEffect(
    () =>
      store.onForeignWrite((written) => {
        if (written) gain(written);
        else void client.invalidateQueries({ queryKey: ['log', world] });
      }),
    [store, client, world, gain],
  );

  const nowMs = useCallback(() => {
    const d = demoState.current;
    return d ? d.clockMs + clock.elapsedMs() - d.setAtMs : clock.nowMs();
  }, [clock]);
  const zone = demoState.current?.zoneMin ?? means.zone();

  const append = useCallback(
    async (given: Draft[], file?: string) => {
      const ids = given.map(() => newId());
      const drafts: Draft[] = file ? [...given, { type: 'import', file, ids: ids.join('\n') }] : given;
      // Counted on at once: the next write need not wait for this one to be kept.
      const seq = Math.max(index.current.nextSeq(), reserved.current);
      reserved.current = seq + drafts.length;
      const now = Math.round(nowMs());
      const records = drafts.map((d, i) => {
        const atMs = Math.round(d.atMs ?? now);
        return {
          ...d,
          id: ids[i] ?? newId(),
          version: RECORD_VERSION,
          atMs,
          // The offset of that very moment: it changes with summer time, and on the road.
          zoneMin: offsetMin(demoState.current?.zoneMin ?? means.zone(), atMs),
          written: { by: writer.current, seq: seq + i, atMs: now },
        };
      }) as LogRecord[];
      for (const r of records) {
        const checked = checkRecord(r);
        if (!checked.ok) throw new FaultyRecord(`This was not kept: ${checked.message}.`);
      }
      try {
        await store.append(records);
        if (world === 'own') void askToLast().then(setLasting);
      } finally {
        gain({ records, chapters: [] });
      }
      return records;
    },
    [store, nowMs, gain, world, means],
  );

  const importFile = useCallback(
    (file: File, options?: AskOptions) => {
      const atMs = Math.round(nowMs());
      const zoneMin = offsetMin(demoState.current?.zoneMin ?? means.zone(), atMs);
      const as = { file: file.name.slice(0, LONGEST_NOTE), id: newId(), by: writer.current, atMs, zoneMin };
      return analyst.ask('import', { file, as }, options);
    },
    [analyst, nowMs, means],
  );

  const demo = useMemo((): DemoControls | undefined => {
    if (world !== 'demo') return undefined;
    const change = (next: DemoState) => {
      demoState.current = next;
      redraw((n) => n + 1);
      void saveDemo(means, next);
    };
    return createDemoControls({
      state: () => demoState.current,
      change,
      nowMs,
      elapsedMs: () => clock.elapsedMs(),
      reset: async () => {
        change(await resetDemo(means, store));
        await client.invalidateQueries({ queryKey: ['log', world] });
      },
    });
  }, [world, nowMs, store, client, means, clock]);

  const value = useMemo(
    () =>
      data &&
      ({
        world,
        basePath: world === 'demo' ? '/demo' : '',
        ...data,
        damaged: [...data.damaged, ...[...bent.values()].map((value) => ({ key: 'chapter', value }))],
        allRecords: () => index.current.records(),
        stored: (id, instrumentId) => index.current.get(id, instrumentId),
        planAt: (...at) => index.current.planAt(...at),
        latest: () => index.current.bench(),
        a4Hz: data.bench.reference?.a4Hz ?? DEFAULT_A4_HZ,
        clock,
        nowMs,
        clockSet,
        zone,
        append,
        importFile,
        stand,
        unkept,
        lasting,
        lastWritten: index.current.lastOf(writer.current),
        ask: analyst.ask,
        demo,
        means,
      } satisfies WorldValue),
    [world, data, bent, nowMs, clockSet, zone, append, importFile, stand, unkept, lasting, analyst, demo, clock, means],
  );
  // The boundary round the whole says so, and gives out what the store holds.
  if (error) throw error;
  if (!value) return <p className="p-8">Opening the bench …</p>;
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
