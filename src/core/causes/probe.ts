import type { CauseTest, Measure } from '../codes';
import { lastHzOf, soundedAlone, type GuidedLog, type GuidedStep, type Outcome, type Procedure } from '../guided';
import { stringTargetHz } from '../music';
import type { Reading } from '../pitch';
import type { Draft, StringLife } from '../log';
import { bendIn, causeBuildOf } from './build';
import { TOO_NEAR_BREAKING } from './words';
import { changesOf, guideFor, type Changes, type TestPart } from './guide';

type Touch = Extract<TestPart, { kind: 'read' }>['touch'];

/** A test under way on one string: its part in hand, and what was read. */
interface Run<Why> {
  test: CauseTest | Measure;
  stringId: string;
  index: number;
  heard: { touch: Touch; reading: Reading }[];
  /** What it is done for; it comes back with its outcome. */
  why: Why;
  /** Counts the tests begun: the same part of another one is another step. */
  serial: number;
}
export interface TestState<Why> {
  run?: Run<Why>;
  serial: number;
}
export const NO_TEST = { serial: 0 };

export type TestAction<Why> =
  | { do: 'begin'; test: CauseTest | Measure; stringId: string; why: Why; records?: Draft[] }
  /** What was to be done is done. */
  | { do: 'done' }
  /** From its beginning. */
  | { do: 'again' }
  | { do: 'end' };

/** What a test shows when its last reading is taken. */
export interface TestOutcome extends Omit<Changes, 'repeat'> {
  test: CauseTest | Measure;
  stringId: string;
  /** Standard error of one reading, or half of what both times differ by where that is more. */
  sigmaCents: number;
}

/** What is written and said of an outcome, and the test that follows at once. */
export interface TestDone<Why> {
  records: Draft[];
  say?: string;
  next?: { test: CauseTest | Measure; stringId: string; why: Why };
}

/** The test under way as a view shows it: its guide, the part in hand, the string, and the one beside it. */
export function testAt<Why>({ life, a4Hz }: Pick<GuidedLog, 'life' | 'a4Hz'>, { run }: TestState<Why>) {
  const guide = run && guideFor(run.test, causeBuildOf(life), bendIn(life, run.stringId, run.test, a4Hz));
  const at = life.strings.findIndex((s) => s.plan.stringId === run?.stringId);
  const string = life.strings[at];
  return {
    run,
    guide,
    part: run && guide?.parts[run.index],
    string,
    beside: life.strings[at + 1] ?? life.strings[at - 1] ?? string,
  };
}

/** How many times the open string's frequency a touch sounds at; behind the nut, by the lengths. */
const timesOpen = (touch: Touch, { lengthMm, headMm = lengthMm }: StringLife['plan']): number =>
  touch === 'behind' ? lengthMm / headMm : touch === 'fret' || touch === 'harmonic' ? 2 : 1;

/** What pulls a string sharp is only watched: nothing is read, nothing is said but the guard's call. */
const watched = <Why>(run: Run<Why>, { plan, ...string }: StringLife, a4Hz: number): GuidedStep => ({
  ...soundedAlone(
    `${run.stringId}:${run.test}:${run.serial}:${run.index}`,
    plan.note,
    stringTargetHz(plan, a4Hz)!,
    lastHzOf({ plan, ...string }),
  ),
  insist: true,
  watched: true,
});

/** What is sounded for a part that is read, and where it is expected. */
function soundFor<Why>(log: GuidedLog, state: TestState<Why>): GuidedStep | undefined {
  const { run, part, string, beside } = testAt(log, state);
  if (!run || !part || !string || !beside) return undefined;
  if (part.kind === 'do') return part.raises && watched(run, string, log.a4Hz);
  const { touch } = part;
  const key = `${run.stringId}:${run.test}:${run.serial}:${run.index}`;
  const before = run.heard.findLast((h) => h.touch === touch)?.reading.frequencyHz;
  if (touch === 'tone') return soundedAlone(key, 'A4', log.a4Hz, before);
  const sounded = touch === 'neighbour' ? beside : string;
  const times = timesOpen(touch, sounded.plan);
  const lastHz = lastHzOf(sounded);
  const step = soundedAlone(
    key,
    sounded.plan.note,
    stringTargetHz(sounded.plan, log.a4Hz)! * times,
    before ?? (lastHz && lastHz * times),
  );
  // What the nut holds back moves the short length by ten times as much: it is never asked whether it is that string.
  return touch === 'behind' ? { ...step, insist: true } : step;
}

/**
 * A test by hand and ear: what is done and what is read, part by part.
 * @param finish what is kept of an outcome, and said
 */
export function testProcedure<Why>(
  finish: (outcome: TestOutcome, why: Why, log: GuidedLog) => TestDone<Why>,
): Procedure<TestState<Why>, TestAction<Why>> {
  const begun = (
    { serial }: TestState<Why>,
    { test, stringId, why }: { test: CauseTest | Measure; stringId: string; why: Why },
  ): TestState<Why> => ({ serial: serial + 1, run: { test, stringId, index: 0, heard: [], why, serial: serial + 1 } });

  const outcomeOf = (run: Run<Why>, log: GuidedLog): TestOutcome => {
    const hz = run.heard.map((h) => h.reading.frequencyHz);
    const { repeat, ...changes } = changesOf(run.test, hz, log.a4Hz);
    const sigmaCents = Math.max(repeat, ...run.heard.map((h) => h.reading.sigmaCents));
    return { test: run.test, stringId: run.stringId, ...changes, sigmaCents };
  };

  return {
    next: soundFor,
    heard({ reading }, _source, log, state): Outcome<TestState<Why>> {
      const { run, guide, part } = testAt(log, state);
      if (!run || part?.kind !== 'read') return { state };
      const on = { ...run, index: run.index + 1, heard: [...run.heard, { touch: part.touch, reading }] };
      if (on.index < guide!.parts.length) return { state: { ...state, run: on }, say: 'Heard.' };
      const { next, ...kept } = finish(outcomeOf(on, log), run.why, log);
      return { state: next ? begun(state, next) : { serial: state.serial }, ...kept };
    },
    press(action, log, state): Outcome<TestState<Why>> {
      const { run, part } = testAt(log, state);
      switch (action.do) {
        case 'begin': {
          const { guide } = testAt(log, begun(state, action));
          if (!guide) return { state, say: TOO_NEAR_BREAKING };
          return { state: begun(state, action), records: action.records ?? [], say: '' };
        }
        case 'done':
          if (!run || part?.kind !== 'do') return { state };
          return { state: { ...state, run: { ...run, index: run.index + 1 } }, say: '' };
        case 'again':
          return run ? { state: begun(state, run), say: '' } : { state };
        case 'end':
          return { state: { serial: state.serial } };
      }
    },
  };
}
