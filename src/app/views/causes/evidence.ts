import { mean, sampleStandardDeviation } from 'simple-statistics';
import {
  TESTS,
  testsOf,
  type CauseBuild,
  type CauseQuestion,
  type CauseTest,
  type SinceLast,
} from '../../../core/causes';
import type { InstrumentLife, StringLife, TestRecord } from '../../../core/records';
import { SETTLES_AS, traitsOf } from '../../../core/strings';

const DAY = 86400000;
/** Standard error of a reading where none was taken, cents. */
const USUAL_SIGMA = 0.4;
/** Tests that this app guides: a second reference and another room are not at hand on a bench. */
const GUIDED: CauseTest[] = TESTS.filter((t) => t !== 'reference' && t !== 'warm');

export function buildOf(life: InstrumentLife): CauseBuild {
  const { tuner, holds, tree, frets } = traitsOf(life.record);
  return {
    bridge: holds === 'springs' ? 'floating' : holds === 'nothing' && tuner === 'geared' ? 'fixed' : 'tailpiece',
    nut: 'plain',
    tree,
    tuners: tuner === 'friction-peg' ? 'friction' : tuner,
    frets,
  };
}

/** How far a string went since it was tuned last; undefined where nobody looked since. */
function since({ readings }: StringLife): number | undefined {
  const left = readings.findLastIndex((r) => r.purpose === 'as-left');
  const last = readings.at(-1);
  return left >= 0 && last && left < readings.length - 1 ? last.cents - readings[left]!.cents : undefined;
}

/** What the log says already: this string against the others since they were tuned. */
export function sinceLast(life: InstrumentLife, stringId: string): SinceLast | undefined {
  const own = life.strings.find((s) => s.plan.stringId === stringId);
  const moved = own && since(own);
  const others = life.strings.filter((s) => s !== own).flatMap((s) => since(s) ?? []);
  if (moved === undefined || others.length < 2) return undefined;
  return { test: 'since-last', own: moved, others: mean(others), othersSd: sampleStandardDeviation(others) };
}

/** What is asked of the finder about one string. @param skipped tests that the player does not want */
export function questionOf(
  life: InstrumentLife,
  string: StringLife,
  tests: readonly TestRecord[],
  skipped: ReadonlySet<CauseTest>,
  targetHz: number,
  nowMs: number,
): CauseQuestion {
  const { plan, strungMs } = string;
  const build = buildOf(life);
  const before = sinceLast(life, plan.stringId);
  return {
    build,
    string: {
      material: SETTLES_AS[plan.material],
      lengthMm: plan.lengthMm,
      targetHz,
      gaugeMm: plan.gaugeMm ?? undefined,
      ageDays: strungMs === null ? undefined : Math.floor(Math.max(0, nowMs - strungMs) / DAY),
    },
    sigmaCents: Math.max(USUAL_SIGMA / 2, ...tests.map((t) => t.sigmaCents)),
    evidence: [
      ...(before ? [before] : []),
      ...tests.map((t) => ({
        test: t.test,
        first: t.firstCents,
        ...(t.secondCents === null ? {} : { second: t.secondCents }),
      })),
    ],
    offered: testsOf(build).filter((t) => GUIDED.includes(t) && !skipped.has(t)),
  };
}
