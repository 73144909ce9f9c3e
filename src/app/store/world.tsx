import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { DEFAULT_A4_HZ } from '../../core/music';
import { readBench, RECORD_VERSION, type Bench, type LogRecord, type RecordBase } from '../../core/records';
import { moveSaddle, restring, stretchString, turnString, type StringTruth } from '../../core/simulate';
import { settlingOf, type Settling } from '../workers/settling';
import { openDemo, resetDemo, saveDemo, type DemoState } from './demonstration';
import { openStore, type RecordStore, type World } from './store';

type Draft = LogRecord extends infer R
  ? R extends LogRecord
    ? Omit<R, 'id' | 'version' | 'atMs' | 'zoneMin'> & Partial<Pick<RecordBase, 'atMs'>>
    : never
  : never;

/** Everything a view needs of the log, the clock and, in the demonstration, the simulated truth. */
export interface WorldValue {
  world: World;
  /** '' or '/demo': what every path begins with. */
  basePath: string;
  records: LogRecord[];
  bench: Bench;
  a4Hz: number;
  nowMs: () => number;
  /** Counts how often the demonstration's clock was set: what shows the time looks again. */
  clockSet: number;
  zoneMin: number;
  /** Appends records; resolves with them once they are kept. */
  append: (drafts: Draft[]) => Promise<LogRecord[]>;
  importRecords: (records: LogRecord[]) => Promise<void>;
  /** Number of records the browser refused and that live in memory only. */
  unkept: number;
  /** Asks the worker that knows this log. */
  ask: Settling['ask'];
  demo: DemoControls | undefined;
}

export interface DemoControls {
  truthOf: (instrumentId: string) => StringTruth[] | undefined;
  turn: (instrumentId: string, stringId: string, cents: number) => void;
  /** A fresh string of the same kind is put on, slack by this much. */
  restring: (instrumentId: string, stringId: string, slackCents: number) => void;
  stretch: (instrumentId: string, stringId: string) => void;
  /** Saddles, or a loose bridge under each string, are moved; strings by id, mm away from the nut. */
  moveSaddles: (instrumentId: string, movesMm: Record<string, number>) => void;
  moveClock: (toMs: number) => void;
  reset: () => Promise<void>;
}

const Context = createContext<WorldValue | undefined>(undefined);

export function useWorld(): WorldValue {
  const value = useContext(Context);
  if (!value) throw new Error('useWorld outside of a world');
  return value;
}

/** The log with what it says; kept together so that what did not change keeps its identity, and views need not redraw it. */
interface Log {
  records: LogRecord[];
  bench: Bench;
}

/** The log after a write: a record written again takes its old one's place. */
const gained = (records: readonly LogRecord[], written: readonly LogRecord[]): LogRecord[] => [
  ...new Map([...records, ...written].map((r) => [r.id, r])).values(),
];

export function WorldProvider({ world, children }: { world: World; children: ReactNode }) {
  const [store] = useState<RecordStore>(() => openStore(world));
  const settling = settlingOf(world);
  const client = useQueryClient();
  const demoState = useRef<DemoState | undefined>(undefined);
  const [unkept, setUnkept] = useState(0);
  const [clockSet, redraw] = useState(0);
  const read = useCallback(
    (records: LogRecord[]): Log => {
      settling.tell(records);
      return { records, bench: readBench(records) };
    },
    [settling],
  );
  const { data, error } = useQuery({
    queryKey: ['log', world],
    queryFn: async () => {
      if (world === 'demo' && !demoState.current) demoState.current = await openDemo(store);
      return read(await store.all());
    },
    staleTime: Infinity,
  });
  const gain = useCallback(
    (written: LogRecord[]) =>
      client.setQueryData<Log>(['log', world], (log) => log && read(gained(log.records, written))),
    [client, world, read],
  );
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
    return d ? d.clockMs + Date.now() - d.setAtMs : Date.now();
  }, []);
  const zoneMin = demoState.current?.zoneMin ?? -new Date().getTimezoneOffset();

  const write = useCallback(
    async (records: LogRecord[]) => {
      try {
        await store.append(records);
      } finally {
        setUnkept(store.unkept().length);
        gain(records);
      }
    },
    [store, gain],
  );
  const append = useCallback(
    async (drafts: Draft[]) => {
      const records = drafts.map((d) => ({
        ...d,
        id: crypto.randomUUID(),
        version: RECORD_VERSION,
        atMs: Math.round(d.atMs ?? nowMs()),
        zoneMin,
      })) as LogRecord[];
      await write(records);
      return records;
    },
    [write, nowMs, zoneMin],
  );

  const demo = useMemo((): DemoControls | undefined => {
    if (world !== 'demo') return undefined;
    const change = (next: DemoState) => {
      demoState.current = next;
      redraw((n) => n + 1);
      void saveDemo(next);
    };
    const hand = (
      instrumentId: string,
      stringId: string,
      act: (string: StringTruth, atMs: number) => StringTruth,
    ): void => {
      const now = demoState.current;
      const strings = now?.truth[instrumentId];
      if (!now || !strings) return;
      const atMs = nowMs();
      const truth = { ...now.truth, [instrumentId]: strings.map((s) => (s.stringId === stringId ? act(s, atMs) : s)) };
      change({ ...now, clockMs: atMs, setAtMs: Date.now(), truth });
    };
    return {
      truthOf: (instrumentId) => demoState.current?.truth[instrumentId],
      turn: (instrumentId, stringId, cents) => hand(instrumentId, stringId, (s, atMs) => turnString(s, atMs, cents)),
      restring: (instrumentId, stringId, slackCents) =>
        hand(instrumentId, stringId, (s, atMs) => restring(s, atMs, -slackCents)),
      stretch: (instrumentId, stringId) => hand(instrumentId, stringId, stretchString),
      moveSaddles: (instrumentId, movesMm) => {
        for (const [stringId, mm] of Object.entries(movesMm))
          hand(instrumentId, stringId, (s, atMs) => moveSaddle(s, atMs, mm));
      },
      moveClock: (toMs) => {
        if (demoState.current) change({ ...demoState.current, clockMs: toMs, setAtMs: Date.now() });
      },
      reset: async () => {
        change(await resetDemo(store));
        client.setQueryData(['log', world], read(await store.all()));
      },
    };
  }, [world, nowMs, store, client, read]);

  const value = useMemo(
    () =>
      data &&
      ({
        world,
        basePath: world === 'demo' ? '/demo' : '',
        ...data,
        a4Hz: data.bench.reference?.a4Hz ?? DEFAULT_A4_HZ,
        nowMs,
        clockSet,
        zoneMin,
        append,
        importRecords: write,
        unkept,
        ask: settling.ask,
        demo,
      } satisfies WorldValue),
    [world, data, nowMs, clockSet, zoneMin, append, write, unkept, settling, demo],
  );
  if (error) {
    return (
      <p role="alert" className="p-8">
        The records on this device could not be opened: {error.message} Reload the page; nothing was changed.
      </p>
    );
  }
  if (!value) return <p className="p-8">Opening the bench …</p>;
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
