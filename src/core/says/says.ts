import type { Zone } from '../base';
import { CONFIDENCE, HOLD_MIN, TOLERANCE_CENTS } from '../check';
import { EAR_SD, earSpread } from '../by-ear';
import { minutesPerString, planShow, planStrings, sessionOf, showOf, WALKS, type PlanItem, type Show } from '../plan';
import { signedCents } from '../music';
import type { Bench } from '../log';
import { SETTLING_PRIORS } from '../settling';
import type { SayAsked } from './asked';
import { instrumentSays } from './instrument';
import { nextThing } from './next';
import { spreadOf, type Statement } from './statement';
import { stringSays } from './strings';
import { fitLives, instrumentStatus, type Priors, instrumentStory } from '../status';

export interface SayWish {
  nowMs: number;
  zone: Zone;
  a4Hz: number;
  /** What strings start from, by instrument. */
  priorsOf: (instrumentId: string) => Priors;
}

/** What the plan of the show ahead says of strings that are left above their target. */
function leads(items: readonly PlanItem[], bench: Bench): Statement[] {
  const told = new Set<string>();
  return items
    .filter((i) => WALKS.has(i.what))
    .flatMap(({ instrumentId, stringIds, leaveAtCents, atMs }) =>
      stringIds.flatMap((string): Statement[] => {
        const key = `${instrumentId}/${string}`;
        const cents = leaveAtCents?.[string] ?? 0;
        if (told.has(key)) return [];
        told.add(key);
        const life = bench.instruments.find((i) => i.record.instrumentId === instrumentId);
        const note = life?.strings.find((s) => s.plan.stringId === string)?.plan.note;
        if (cents === 0 || note === undefined) return [];
        return [
          {
            kind: 'lead',
            instrument: instrumentId,
            string,
            value: cents,
            unit: 'cents',
            atMs,
            text: `Leave ${note} at ${signedCents(cents)} cents: it is going to fall.`,
          },
        ];
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

/** Every statement that the views would make of a log at a moment. */
export function statementsOf(bench: Bench, wish: SayWish): Statement[] {
  const { nowMs, zone, a4Hz, priorsOf } = wish;
  const show = showOf(bench, nowMs);
  const curtainMs = show && show.curtainMs > nowMs ? show.curtainMs : null;
  const items = show ? planned(bench, show, wish) : [];
  const each = bench.instruments.flatMap((life): Statement[] => {
    const { instrumentId } = life.record;
    const priors = priorsOf(instrumentId);
    const asked: SayAsked = { life, bench, a4Hz, nowMs, zone, show };
    const asking = { nowMs, toleranceCents: TOLERANCE_CENTS, holdMin: HOLD_MIN, curtainMs, priors };
    const statuses = instrumentStatus(life, { ...asking, confidence: CONFIDENCE });
    const story = instrumentStory(life, { ...asking, zone, untilMs: curtainMs ?? nowMs });
    const fits = fitLives(life.strings, nowMs, priors);
    const visit = show?.instrumentIds.includes(instrumentId)
      ? (items.find((i) => i.instrumentId === instrumentId && WALKS.has(i.what)) ?? null)
      : undefined;
    const next = nextThing({ ...asked, statuses, visit });
    return [
      ...life.strings.flatMap((s, i) => stringSays(s, statuses[i]!, story.strings[i]!, fits[i], asked)),
      ...instrumentSays(asked, statuses, fits),
      {
        kind: 'next-thing',
        value: next.to,
        ...(next.atMs === undefined ? {} : { atMs: next.atMs }),
        text: next.words,
      } as Statement,
    ].map((s) => ({ ...s, instrument: instrumentId }));
  });
  return [...each, ...leads(items, bench), ...ear(bench)];
}
