import { signedCents } from '../../music';
import {
  makeBridge,
  plainString,
  randomFrom,
  trueCents,
  turnOnBridge,
  type BridgeTruth,
  type StringTruth,
} from '../../simulate';
import { GUITAR, inTuneOf, standWords, TURN_STEPS, stepTurn, type JobRules } from './job';

const HZ = [329.63, 246.94, 196, 146.83, 110, 82.41];
/** Cores of plain and wound strings, mm, and pulls, N (a usual set). */
const CORES_MM = [0.25, 0.33, 0.43, 0.33, 0.38, 0.42];
const PULLS_N = [72, 68, 74, 82, 86, 80];
const SCALE_MM = 648;
const AT_MS = 0;
const LITTLE_CENTS = 2;
const MORE_CENTS = 15;
/** No way is followed further than this. */
const MOST_PASSES = 20;

interface OnBridge {
  strings: StringTruth[];
  bridge: BridgeTruth;
}
interface BridgeJob extends OnBridge {
  before: OnBridge;
  at: number;
  /** What each string read when it was last in hand, cents. */
  known: (number | undefined)[];
  /** How often a string was taken in hand and turned. */
  turned: number;
  fresh: boolean;
  done: boolean;
}

const centsOf = ({ strings }: OnBridge): number[] => strings.map((s) => trueCents(s, AT_MS + 1));
const turn = (on: OnBridge, i: number, cents: number): OnBridge =>
  turnOnBridge(on.strings, on.bridge, String(i), AT_MS, cents);

/** A string is brought to a pitch, whatever the bridge does meanwhile. */
function setTo(on: OnBridge, i: number, to: number): OnBridge {
  let now = on;
  for (let k = 0; k < 12; k++) {
    const off = to - centsOf(now)[i]!;
    if (Math.abs(off) < 0.05) break;
    now = turn(now, i, off);
  }
  return now;
}
const inTune = (on: OnBridge): boolean => inTuneOf(centsOf(on)) === GUITAR.length;

/** Passes that a way takes on this very bridge, its hand and ear without error. */
function passesBy(begin: OnBridge, goal: (pass: number, cents: number) => number): number {
  let on = begin;
  for (let pass = 1; pass <= MOST_PASSES; pass++) {
    for (let i = 0; i < GUITAR.length; i++) on = setTo(on, i, goal(pass, centsOf(on)[i]!));
    if (inTune(on)) return pass;
  }
  return MOST_PASSES;
}
const OVER = 0.7;
/** The usual ways on the bridge of an exercise: every string to its target; the first pass as far over as it was under. */
const waysOn = (on: OnBridge) => ({
  zeroing: passesBy(on, () => 0),
  mirror: passesBy(on, (pass, cents) => (pass === 1 ? -OVER * cents : 0)),
});

export const bridgeJob: JobRules<BridgeJob> = {
  title: 'Bring a floating bridge in',
  unit: 'passes',
  begin(seed) {
    const random = randomFrom(seed);
    const bridge = makeBridge({
      scaleMm: SCALE_MM,
      screwPitchMm: 0.7,
      sticks: 4,
      springs: { count: 3, rateNPerMm: random.between(1.8, 2.6), armMm: 36 },
      strings: HZ.map((frequencyHz, i) => ({
        tensionN: PULLS_N[i]! * random.between(0.95, 1.05),
        axialN: (200000 * Math.PI * CORES_MM[i]! ** 2) / 4,
        frequencyHz,
        leverMm: 12 * random.between(0.95, 1.05),
        behindMm: random.between(60, 110),
      })),
    });
    let on: OnBridge = {
      strings: HZ.map((hz, i) => plainString(String(i), hz, Math.floor(random.uniform() * 1e6))),
      bridge,
    };
    for (let i = 0; i < HZ.length; i++) on = turn(on, i, random.between(-40, -12));
    return {
      ...on,
      before: on,
      at: 0,
      known: GUITAR.map((_, i) => (i === 0 ? centsOf(on)[0]! : undefined)),
      turned: 0,
      fresh: true,
      done: false,
    };
  },
  seen({ at, known }) {
    return {
      words: `Turn ${GUITAR[at]!}, or go to another string`,
      note: 'Every turn moves the bridge, and with it the other strings. Only the string in hand is read.',
      rows: GUITAR.map((name, i) => ({
        name,
        figure: known[i] === undefined ? 'not read' : signedCents(known[i]),
        inHand: i === at,
      })),
    };
  },
  steps: () => [
    ...TURN_STEPS,
    ...GUITAR.map((n, i) => ({ id: `string-${i}`, words: n, key: String(i + 1) })),
    { id: 'done', words: 'Done', key: 'Enter' },
  ],
  act(s, id) {
    if (id === 'done') return { ...s, done: true };
    const to = /^string-(\d)$/.exec(id)?.[1];
    const reads = (next: BridgeJob): BridgeJob => ({
      ...next,
      known: next.known.map((c, i) => (i === next.at ? centsOf(next)[i]! : c)),
    });
    if (to !== undefined) return reads({ ...s, at: Number(to), fresh: true });
    const cents = stepTurn(id, LITTLE_CENTS, MORE_CENTS) ?? 0;
    return reads({ ...s, ...turn(s, s.at, cents), turned: s.turned + (s.fresh ? 1 : 0), fresh: false });
  },
  over: (s) => s.done,
  end(s) {
    const cents = centsOf(s);
    const right = inTune(s);
    const passes = s.turned / GUITAR.length;
    const { zeroing, mirror } = waysOn(s.before);
    return {
      value: passes,
      right,
      words: [
        standWords(cents),
        `You turned a string ${s.turned} times: ${passes.toFixed(1)} passes over all six.`,
        `On this very bridge zeroing takes ${zeroing} passes, and mirroring ${mirror}.`,
        'Stops that are reckoned from what the bridge did before take one or two: Floating bridge gives them.',
      ],
      strings: GUITAR.map((name, i) => ({ name, cents: cents[i]! })),
    };
  },
};
