import { span, type Zone } from '../base';
import { CONFIDENCE, HOLD_MIN, TOLERANCE_CENTS } from '../check';
import { EAR_SD, earSpread } from '../by-ear';
import { minutesPerString, planShow, planStrings, sessionOf, showOf, WALKS, type PlanItem, type Show } from '../plan';
import { signedCents } from '../music';
import type { Bench } from '../log';
import { SETTLING_PRIORS } from '../settling';
import { visitIn, type SayAsked } from './asked';
import { instrumentSays } from './instrument';
import { nextThing } from './next';
import { spreadOf, type Statement } from './statement';
import { stringSays } from './strings';
import { fitLives, instrumentStatus, isOneSet, type Priors, type StringStatus } from '../status';

export interface SayWish {
  nowMs: number;
  zone: Zone;
  a4Hz: number;
  /** What strings start from, by instrument. */
  priorsOf: (instrumentId: string) => Priors;
}

/** What the plan of the show ahead says of strings that are left above their target. */
function leads({ life, walks }: SayAsked): Statement[] {
  const told = new Set<string>();
  return (typeof walks === 'string' ? [] : walks).flatMap(({ stringIds, leaveAtCents, atMs }) =>
    stringIds.flatMap((string): Statement[] => {
      const cents = leaveAtCents?.[string] ?? 0;
      const note = life.strings.find((s) => s.plan.stringId === string)?.plan.note;
      if (told.has(string) || note === undefined) return [];
      told.add(string);
      if (cents === 0) return [];
      const text = `Leave ${note} at ${signedCents(cents)} cents: it is going to fall.`;
      return [{ kind: 'lead', string, value: cents, unit: 'cents', atMs, text, brief: signedCents(cents) }];
    }),
  );
}

/** What this player's ear is worth, over all intervals. */
function ear({ judgements }: Bench): Statement[] {
  const spread = earSpread(judgements);
  if (spread === undefined) return [];
  return [
    {
      kind: 'ear-accuracy',
      // What is judged at one sitting hangs together: two judgements tell what one would by itself (house estimate).
      ...spreadOf(spread, judgements.length / 2),
      unit: 'cents',
      text: `Your ear is within about ${spread.toFixed(1)} cents${spread < EAR_SD ? ', better than most' : ''}.`,
    },
  ];
}

/** The plan of the show ahead, as the views work it out. */
function planned(bench: Bench, show: Show, { nowMs, zone, priorsOf }: SayWish): PlanItem[] {
  const playing = bench.instruments.filter((i) => show.instrumentIds.includes(i.record.instrumentId));
  if (playing.length === 0) return [];
  return planShow({
    strings: planStrings(playing, (material, id) => priorsOf(id)[material] ?? SETTLING_PRIORS[material]),
    session: sessionOf(show, bench.room?.tempC ?? null),
    nowMs,
    zone,
    minutesPerString: minutesPerString(bench),
  }).items;
}

/** How many strings hold, and how old they are. */
function whole({ life, toleranceCents, holdMin, nowMs }: SayAsked, statuses: readonly StringStatus[]): Statement[] {
  const count = statuses.filter((s) => s.state === 'holding').length;
  const strungMs = Math.max(...life.strings.map((s) => s.strungMs ?? 0));
  const says: Statement[] = [
    {
      kind: 'holding',
      value: count,
      text: `${count} of ${life.strings.length} strings hold: within ±${toleranceCents} cents for ${holdMin} min.`,
    },
  ];
  if (strungMs > 0)
    says.push({
      kind: 'age',
      atMs: strungMs,
      text: `${isOneSet(life) ? 'Strung' : 'The newest was put on'} ${span(nowMs - strungMs)} ago.`,
    });
  return says;
}

/** Everything that is said of one instrument: of each string in its order, and of all together. */
export function instrumentStatements(asked: SayAsked): Statement[] {
  const { life, nowMs, toleranceCents, holdMin, priors, show, walks } = asked;
  const { instrumentId } = life.record;
  const curtainMs = show && show.curtainMs > nowMs ? show.curtainMs : null;
  const wish = { nowMs, toleranceCents, holdMin, curtainMs, priors, confidence: CONFIDENCE };
  const statuses = instrumentStatus(life, wish);
  const fits = fitLives(life.strings, nowMs, priors);
  const says: Statement[] = [
    ...life.strings.flatMap((s, i) => stringSays(s, statuses[i]!, fits[i], asked)),
    ...whole(asked, statuses),
    ...instrumentSays(asked, statuses, fits),
    ...leads(asked),
  ];
  if (walks !== 'not yet') {
    const next = nextThing({ ...asked, statuses, visit: visitIn(walks) });
    const { to, atMs, words } = next;
    says.push({
      kind: 'next-thing',
      value: to,
      ...(atMs === undefined ? {} : { atMs }),
      text: words,
    });
  }
  return says.map((s) => ({ ...s, instrument: instrumentId }));
}

/** Every statement that the views would make of a log at a moment. */
export function statementsOf(bench: Bench, wish: SayWish): Statement[] {
  const { nowMs, zone, a4Hz, priorsOf } = wish;
  const show = showOf(bench, nowMs);
  const items = show ? planned(bench, show, wish) : [];
  const each = bench.instruments.flatMap((life) => {
    const { instrumentId } = life.record;
    return instrumentStatements({
      life,
      bench,
      a4Hz,
      nowMs,
      zone,
      toleranceCents: TOLERANCE_CENTS,
      holdMin: HOLD_MIN,
      priors: priorsOf(instrumentId),
      show,
      walks: show?.instrumentIds.includes(instrumentId)
        ? items.filter((i) => i.instrumentId === instrumentId && WALKS.has(i.what))
        : 'in no show',
    });
  });
  return [...each, ...ear(bench)];
}
