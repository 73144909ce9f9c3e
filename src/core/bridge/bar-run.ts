import { lastHzOf, soundedAlone, type GuidedLog, type Outcome, type Procedure } from '../guided';
import { cents, stringTargetHz } from '../music';
import type { Draft, StringLife } from '../log';
import { LEAST_SIGMA } from './now';
import { returnsOf, returnVerdict } from './returns';

/** Before, after the bar once, after it twice. */
export const RETURN_ROUNDS = 3;

interface Heard {
  cents: number;
  sigmaCents: number;
  hz: number;
}
export interface ReturnState {
  heard: Heard[];
  /** How often the bar was moved. */
  bars: number;
}
export const BEGIN_RETURN: ReturnState = { heard: [], bars: 0 };

/** Where a return test stands: the round, whether the bar is to be moved, the string to be read, the verdict when all is read. */
export function returnAt({ life: { strings } }: Pick<GuidedLog, 'life'>, { heard, bars }: ReturnState) {
  const n = strings.length;
  const round = Math.floor(heard.length / n);
  const done = round === RETURN_ROUNDS;
  const bar = !done && round > bars;
  const string: StringLife | undefined = done || bar ? undefined : strings[heard.length % n];
  return { n, round, done, bar, string, verdict: done ? returnVerdict(returnsIn(heard, n)) : undefined };
}

/** What every string came back to, of rounds that were read one after the other. */
function returnsIn(heard: readonly Heard[], n: number) {
  const of = (round: number) => heard.slice(round * n, (round + 1) * n).map((h) => h.cents);
  return returnsOf([of(0), of(1), of(2)]);
}

/** What is kept when all is read, string by string; the worst last: an inquiry goes on with the string that was tested last. */
function keptOf(log: GuidedLog, heard: readonly Heard[]): Draft[] {
  const { strings, record } = log.life;
  const n = strings.length;
  const returns = returnsIn(heard, n);
  const { strings: sticking } = returnVerdict(returns);
  const order = [...returns.keys()].sort((i, j) => sticking.indexOf(i) - sticking.indexOf(j));
  return order.map((i): Draft => ({
    type: 'test',
    instrumentId: record.instrumentId,
    stringId: strings[i]!.plan.stringId,
    passId: log.newId(),
    test: 'dive',
    firstCents: returns[i]!.first,
    secondCents: returns[i]!.second,
    othersCents: returns[i]!.others,
    sigmaCents: Math.max(LEAST_SIGMA, ...[0, 1, 2].map((r) => heard[r * n + i]!.sigmaCents)),
  }));
}

/** Bar down and up, twice: what every string comes back to. */
export const returnProcedure: Procedure<ReturnState, { do: 'bar' }> = {
  next(log, state) {
    const { string, n } = returnAt(log, state);
    if (!string) return undefined;
    const before = state.heard.length >= n ? state.heard[state.heard.length - n]!.hz : undefined;
    const key = `return:${state.heard.length}`;
    return soundedAlone(key, string.plan.note, stringTargetHz(string.plan, log.a4Hz)!, before ?? lastHzOf(string));
  },
  heard({ reading: { frequencyHz: hz, sigmaCents } }, _source, log, state): Outcome<ReturnState> {
    const { string, n } = returnAt(log, state);
    if (!string) return { state };
    const heard = [...state.heard, { cents: cents(hz, stringTargetHz(string.plan, log.a4Hz)!), sigmaCents, hz }];
    if (heard.length === RETURN_ROUNDS * n)
      return { state: { ...state, heard }, records: keptOf(log, heard), say: 'Kept, string by string.' };
    return { state: { ...state, heard }, say: `${string.plan.note} heard.` };
  },
  press: (_bar, log, state) => ({ state: { ...state, bars: returnAt(log, state).round }, say: '' }),
};
