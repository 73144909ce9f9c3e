import { bendIn } from './build';
import { guideFor } from './guide';
import { isAfterRemedy } from './keep';
import { testsOf, type CauseBuild } from './kinds';
import type { CauseQuestion } from './finder';
import { isCauseTest, type Cause, type ToldQuestion, type CauseTest, type Told } from '../codes';
import { stringTargetHz } from '../music';
import type { Bench, InstrumentLife, StringLife, TestRecord } from '../log';
import type { BeforeInquiry } from './inquiry';
import { SETTLES_AS } from '../strings';
import { DAY, HOUR } from '../base';

/** Standard error of a reading where none was taken, cents. */
const USUAL_SIGMA = 0.4;

/** A test that counts as evidence: no measure. */
export type EvidenceRecord = TestRecord & { test: CauseTest };
const isEvidence = (t: TestRecord): t is EvidenceRecord => isCauseTest(t.test);

/** Tests of one inquiry lie no further apart, ms. */
const INQUIRY_MS = 6 * HOUR;

/** The newest test of an inquiry under way on an instrument; undefined where none is, or where its remedy was tried. */
export function inquiryUnderWay(
  { record: { instrumentId } }: InstrumentLife,
  { tests, findings }: Bench,
  nowMs: number,
): EvidenceRecord | undefined {
  return tests
    .filter(isEvidence)
    .findLast(
      (t) =>
        t.instrumentId === instrumentId &&
        nowMs - t.atMs < INQUIRY_MS &&
        !isAfterRemedy(t.passId) &&
        !findings.some((f) => f.passId === t.passId && isClosed(f)),
    );
}

/** An inquiry goes on after a remedy that did not help. */
export const isClosed = ({ outcome }: Bench['findings'][number]): boolean =>
  outcome !== undefined && outcome !== 'did-not';

/** Causes of an inquiry that were treated, and it did not help. */
export const triedIn = ({ findings }: Bench, passId: string): Cause[] =>
  findings.flatMap((f) => (f.passId === passId && f.outcome === 'did-not' ? (f.causes[0]?.cause ?? []) : []));

/** The tests of an inquiry on one string that count as evidence, oldest first. */
export const evidenceOf = ({ tests }: Bench, passId: string, stringId: string): EvidenceRecord[] =>
  tests.filter(isEvidence).filter((t) => t.passId === passId && t.stringId === stringId);

/** What is left to ask: what the log does not tell by itself. */
export function questionsLeft(
  before: BeforeInquiry,
  said: ReadonlyMap<ToldQuestion, string | undefined>,
): ToldQuestion[] {
  const known: ToldQuestion[] = [
    ...(before.since ? (['strings', 'way'] as const) : []),
    ...(before.told.after ? (['after'] as const) : []),
  ];
  return (['when', 'strings', 'way', 'after', 'feel'] as const).filter((q) => !known.includes(q) && !said.has(q));
}

/** What is asked of the finder about one string. @param skipped tests that the player does not want */
export function questionOf(
  life: Pick<InstrumentLife, 'strings'>,
  build: CauseBuild,
  string: StringLife,
  before: BeforeInquiry,
  tests: readonly EvidenceRecord[],
  told: Told & Pick<BeforeInquiry['told'], 'tried'>,
  skipped: ReadonlySet<CauseTest>,
  a4Hz: number,
  nowMs: number,
): CauseQuestion {
  const { plan, strungMs } = string;
  // Done again, a test counts as it was done last.
  const newest = tests.filter((t, k) => !tests.slice(k + 1).some((later) => later.test === t.test));
  const again = tests.filter((t) => !newest.includes(t)).map((t) => t.test);
  return {
    build,
    string: {
      material: SETTLES_AS[plan.material],
      lengthMm: plan.lengthMm,
      headMm: plan.headMm,
      targetHz: stringTargetHz(plan, a4Hz)!,
      gaugeMm: plan.gaugeMm ?? undefined,
      ageDays: strungMs === null ? undefined : Math.floor(Math.max(0, nowMs - strungMs) / DAY),
      fromAbove: before.fromAbove,
    },
    sigmaCents: Math.max(USUAL_SIGMA / 2, ...tests.map((t) => t.sigmaCents)),
    evidence: [
      ...(before.since ? [before.since] : []),
      ...(before.octave ? [before.octave] : []),
      // What was tested since tells more than what was measured before.
      ...before.friction.filter((f) => !newest.some((t) => t.test === f.test)),
      ...newest.map((t) => ({
        test: t.test,
        first: t.firstCents,
        ...(t.secondCents === null ? {} : { second: t.secondCents }),
        ...(t.othersCents === undefined ? {} : { others: t.othersCents }),
      })),
    ],
    again,
    told: { ...before.told, ...told },
    // Where strings run from pins there is no nut to press behind.
    offered: testsOf(build).filter(
      (t) =>
        !skipped.has(t) &&
        guideFor(t, build, bendIn(life, plan.stringId, t, a4Hz)) !== undefined &&
        !(t === 'press-behind-nut' && build.tuners === 'pin') &&
        // Where its length is not known, nobody knows where to listen for it.
        !(t === 'pluck-behind-nut' && plan.headMm === undefined),
    ),
  };
}
