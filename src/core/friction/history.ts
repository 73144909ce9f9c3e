import { frictionFigure, type FrictionFigure } from './limits';
import type { Bench, InstrumentLife, TestRecord } from '../log';
import { DAY } from '../base';
import { lubricantLasts, type Lasting, type LubricantPoint } from './lubricants';

/** A figure taken so soon after a lubrication is the one after it, days (house estimate). */
const AFTER_DAYS = 2;

export interface FrictionAt {
  atMs: number;
  figure: FrictionFigure;
}
/** What is known of one string's friction. */
export interface StringFriction {
  stringId: string;
  note: string;
  /** Every measurement, oldest first. */
  figures: FrictionAt[];
  lubricatedMs: number[];
  /** The last figure before the last lubrication, where there is one after it too. */
  before: FrictionAt | undefined;
  /** What tricks and the routine did, newest of each. */
  tricks: Partial<Record<'wings-up' | 'wings-down' | 'routine', TestRecord>>;
}
export interface InstrumentFriction {
  strings: StringFriction[];
  /** How long a lubricant lasts in these slots; undefined where too few figures tell. */
  lasts: Lasting | undefined;
}

/** Figures of one string after each lubrication that has one before it and one soon after it. */
function pointsOf({ figures, lubricatedMs }: StringFriction): LubricantPoint[] {
  return lubricatedMs.flatMap((ms, k) => {
    const before = figures.findLast((f) => f.atMs <= ms)?.figure.cents;
    const since = figures.filter((f) => f.atMs > ms && f.atMs <= (lubricatedMs[k + 1] ?? Infinity));
    const [first, ...later] = since;
    if (before === undefined || !first || first.atMs - ms > AFTER_DAYS * DAY) return [];
    return later.map(({ atMs, figure }) => ({
      days: (atMs - ms) / DAY,
      cents: figure.cents,
      sdCents: figure.sdCents,
      beforeCents: before,
      afterCents: first.figure.cents,
    }));
  });
}

/** Reads the friction of an instrument's strings from its log: a slot's history outlives its strings. */
export function instrumentFriction({ record, strings }: InstrumentLife, bench: Bench): InstrumentFriction {
  const { instrumentId } = record;
  const tests = bench.tests.filter((t) => t.instrumentId === instrumentId);
  const treated = bench.treatments.filter((t) => t.instrumentId === instrumentId && t.treatment === 'lubricated');
  const all = strings.map(({ plan }): StringFriction => {
    const { stringId, note, lengthMm, headMm } = plan;
    const own = tests.filter((t) => t.stringId === stringId);
    const aside = headMm === undefined ? undefined : headMm / lengthMm;
    const figures = own.flatMap((t) =>
      t.test === 'friction' && t.secondCents !== null
        ? { atMs: t.atMs, figure: frictionFigure(t.firstCents, t.secondCents, t.sigmaCents, aside) }
        : [],
    );
    const lubricatedMs = treated.filter((t) => t.stringIds.includes(stringId)).map((t) => t.atMs);
    const lastMs = lubricatedMs.at(-1);
    const newest = figures.at(-1);
    const tricks = Object.fromEntries(
      (['wings-up', 'wings-down', 'routine'] as const).flatMap((kind) => {
        const last = own.findLast((t) => t.test === kind);
        return last ? [[kind, last]] : [];
      }),
    ) as StringFriction['tricks'];
    return {
      stringId,
      note,
      figures,
      lubricatedMs,
      before:
        lastMs !== undefined && newest && newest.atMs > lastMs ? figures.findLast((f) => f.atMs <= lastMs) : undefined,
      tricks,
    };
  });
  return { strings: all, lasts: lubricantLasts(all.flatMap(pointsOf)) };
}
