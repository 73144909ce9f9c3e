import { chanceWords } from '../check';
import { loadOf, tunerOf } from '../guided';
import { inCents, signedCents, stringTargetHz, plusMinus } from '../music';
import { clockTime, counted, dueTime, sinceTime, MINUTE, NORMAL_Q95, type Zone } from '../base';
import type { StringLife } from '../log';
import { MATERIAL_NAMES } from '../strings';
import { standAt, type SettlingFit } from '../settling';
import { halfWidth, normal, spreadOf, type Statement } from './statement';
import type { SayAsked } from './asked';
import {
  atWords,
  aboutCents,
  ageLine,
  fallenWords,
  leapWords,
  nowWords,
  STATE_WORDS,
  WARMTH_FROM,
  WHOLE_CENTS,
} from './words';
import { stringNext } from './string-next';
import {
  fallenOf,
  gainWords,
  READY,
  repeatability,
  roundsGain,
  stringOutlook,
  type LifeFit,
  type StringOutlook,
  type StringStatus,
} from '../status';

const HOUR_MIN = 60;
/** Of two readings a turn is learned from: what it moves lies within this factor for nine of ten (house estimate). */
const TUNER_FACTOR = 1.5;

/** Where a string will stand, in a statement's figures. */
function standing(fit: SettlingFit, hMin: number) {
  const { q05, q50, q95, sd } = standAt(fit, hMin);
  return { value: q50, sd, interval: [q05, q95] as [number, number], unit: 'cents' as const };
}

/** Where it stands now and where it will, untouched. */
function offsets(note: string, fit: SettlingFit, { nowMs, zone, show }: SayAsked): Statement[] {
  const now = standing(fit, 0);
  const moments = [nowMs + HOUR_MIN * MINUTE, ...(show && show.curtainMs > nowMs ? [show.curtainMs] : [])];
  return [
    {
      kind: 'offset-now',
      ...now,
      atMs: nowMs,
      text: nowWords(note, now.value, now.interval),
      brief: `now about ${aboutCents(now.value, now.interval)}`,
    },
    ...moments.map((atMs): Statement => {
      const then = standing(fit, (atMs - nowMs) / MINUTE);
      return {
        kind: 'offset-at',
        ...then,
        atMs,
        text: atWords(note, then.value, then.interval, atMs, zone),
        brief: aboutCents(then.value, then.interval),
      };
    }),
  ];
}

/** How likely it is to hold, and from when on it does. */
function holds(note: string, status: StringStatus, outlook: StringOutlook, asked: SayAsked): Statement[] {
  const { nowMs, zone, toleranceCents, holdMin } = asked;
  const untilMs = nowMs + holdMin * MINUTE;
  const says: Statement[] = [];
  if (status.chance !== null)
    says.push({
      kind: 'hold-chance',
      atMs: untilMs,
      chance: status.chance,
      text: `${note}, untouched: ${chanceWords(status.chance)} within ±${toleranceCents} cents until ${clockTime(untilMs, zone)}.`,
      brief: `${(100 * status.chance).toFixed(0)} %`,
    });
  const { readyMs, keptReadyMs } = outlook;
  // What holds as it stands is not told when it would.
  if (readyMs !== null && status.state !== 'holding')
    says.push({
      kind: 'ready-at',
      atMs: readyMs,
      chance: READY,
      text: `${note} holds ${holdMin} minutes if it is retuned ${dueTime(readyMs, nowMs, zone)}.`,
      brief: dueTime(readyMs, nowMs, zone),
    });
  says.push(
    keptReadyMs === null
      ? {
          kind: 'ready-kept',
          value: 'not in 2 weeks',
          text: `${note} does not hold ${holdMin} minutes within two weeks, though it is kept in tune.`,
          brief: 'not in 2 weeks',
        }
      : {
          kind: 'ready-kept',
          atMs: keptReadyMs,
          chance: READY,
          text: `${note} holds ${holdMin} minutes if it is kept in tune, and retuned ${dueTime(keptReadyMs, nowMs, zone)}.`,
          brief: dueTime(keptReadyMs, nowMs, zone),
        },
  );
  return says;
}

/** Less than this each time its age doubles is hardly a fall, cents (house). */
const STILL_CENTS = 0.5;
/** How it falls, whether it moved at once, and how it answers to warmth. */
function falls({ plan }: StringLife, outlook: StringOutlook, zone: Zone): Statement[] {
  const { note } = plan;
  const { perHour, perDay, perDoubling, leap, warmth } = outlook;
  const fall = (kind: 'per-hour' | 'per-day', { mean, sd }: StringOutlook['perHour'], time: string): Statement => {
    const figure = normal(mean, sd);
    const brief = aboutCents(mean, figure.interval!, 'plain');
    return { kind, ...figure, unit: 'cents', text: `${note}, untouched, falls about ${brief} in ${time}.`, brief };
  };
  const { centsPerC, sdCents, from } = warmth;
  const figure = `${signedCents(centsPerC)} ${plusMinus(sdCents)} cents`;
  return [
    fall('per-hour', perHour, 'an hour'),
    fall('per-day', perDay, 'a day'),
    {
      kind: 'warmth',
      ...normal(centsPerC, sdCents),
      unit: 'cents/°C',
      text: `One degree warmer moves ${note} ${figure} (${WARMTH_FROM[from]}).`,
      brief: `${figure} (${WARMTH_FROM[from]})`,
    },
    {
      kind: 'per-doubling',
      ...normal(perDoubling.mean, perDoubling.sd),
      unit: 'cents',
      text:
        perDoubling.mean < STILL_CENTS
          ? `${note} has almost stopped falling.`
          : `${note} falls about ${inCents(perDoubling.mean, perDoubling.mean < WHOLE_CENTS ? 1 : 0)} each time its age doubles, as ${MATERIAL_NAMES[plan.material]} does.`,
    },
    ...(leap
      ? [
          {
            kind: 'leap' as const,
            value: leap.cents,
            unit: 'cents' as const,
            atMs: leap.atMs,
            text: leapWords(note, leap.cents, clockTime(leap.atMs, zone)),
          },
        ]
      : []),
  ];
}

/** What its stretch rounds did, and what another is worth from here. */
function rounds(life: StringLife, fit: SettlingFit, did: string, { nowMs, zone, show }: SayAsked): Statement[] {
  const { note } = life.plan;
  const gain = roundsGain(life, fit, nowMs, show?.curtainMs ?? null);
  if (!gain) return [];
  return [
    {
      kind: 'rounds-gain',
      value: gain.cents,
      sd: gain.sdCents,
      interval: gain.interval,
      unit: 'cents',
      atMs: gain.untilMs,
      text: gainWords(gain, `Another round on ${note}`, clockTime(gain.untilMs, zone)),
    },
    { kind: 'rounds-did', text: did },
  ];
}

/** What is known of the tuner of a string from its bring-ups. */
function tuner(life: StringLife, { life: instrument, a4Hz }: SayAsked): Statement[] {
  if (!life.tuner) return [];
  const { note } = life.plan;
  const { other, perTurn, gain } = tunerOf(instrument, life, a4Hz);
  const way: Statement = {
    kind: 'tuner-way',
    value: other ? 'other' : 'usual',
    text: `The tuner of ${note} turns the ${other ? 'other' : 'usual'} way.`,
  };
  if (!perTurn) return [way];
  const value = perTurn.tuner * gain;
  return [
    way,
    {
      kind: 'tuner-amount',
      value,
      interval: [value / TUNER_FACTOR, value * TUNER_FACTOR],
      unit: 'cents/turn',
      text: `One turn of the tuner of ${note} is about ${value.toFixed(0)} cents.`,
    },
  ];
}

/** What was read of it last, how well readings repeat, and how far it has fallen. */
function read(life: StringLife, status: StringStatus, lived: LifeFit | undefined, asked: SayAsked): Statement[] {
  const { nowMs, zone } = asked;
  const { plan, readings } = life;
  const last = readings.at(-1);
  if (!last) return [];
  const { note } = plan;
  const { cents, sigmaCents, atMs } = last;
  const since = sinceTime(atMs, nowMs, zone);
  const says: Statement[] = [
    {
      kind: 'reading',
      ...normal(cents, sigmaCents),
      unit: 'cents',
      atMs,
      text: `${note} was read at ${signedCents(cents)} ${plusMinus(sigmaCents)} cents, ${since}.`,
      brief: ageLine(status, lived && standAt(lived.fit, 0), nowMs, zone),
    },
  ];
  const fallen = fallenOf(life, lived);
  if (fallen)
    says.push({
      kind: 'fallen',
      value: fallen.cents,
      sd: halfWidth(fallen.interval) / NORMAL_Q95,
      interval: fallen.interval,
      unit: 'cents',
      atMs,
      text: fallenWords(note, fallen.cents, sinceTime(readings[0]!.atMs, nowMs, zone)),
      brief: aboutCents(fallen.cents, fallen.interval, 'plain'),
    });
  const repeats = repeatability(readings);
  if (repeats)
    says.push({
      kind: 'repeatability',
      // Pairs of one sitting hang together (house estimate).
      ...spreadOf(repeats.cents, repeats.pairs / 2),
      unit: 'cents',
      text: `Readings of ${note} repeat within ${plusMinus(repeats.cents)} cents.`,
      brief: `${plusMinus(repeats.cents)} cents (${counted(repeats.pairs, 'pair')})`,
    });
  return says;
}

/** How near a string at pitch is to its breaking load. */
function headroom({ plan }: StringLife, a4Hz: number): Statement[] {
  const targetHz = stringTargetHz(plan, a4Hz);
  const load = targetHz ? loadOf(plan, targetHz) : undefined;
  const share = load?.shareOfBreaking ?? null;
  if (!load || share === null) return [];
  const brief = `${Math.round(100 * share)} %`;
  return [
    {
      kind: 'headroom',
      value: share,
      unit: 'share',
      text: `${plan.note} at pitch is at ${brief} of its breaking load.`,
      brief,
    },
  ];
}

const NOT_READ = 'Not read yet.';
const READ_ONCE = 'Too few readings. Read it twice, some minutes apart.';

/** Everything that is claimed of one string. */
export function stringSays(
  life: StringLife,
  status: StringStatus,
  lived: LifeFit | undefined,
  asked: SayAsked,
): Statement[] {
  const { nowMs, zone } = asked;
  const { plan } = life;
  const { note } = plan;
  const when = status.lastReadMs === null ? '' : `, read ${sinceTime(status.lastReadMs, nowMs, zone)}`;
  const outlook = stringOutlook(life, lived, { ...asked, curtainMs: asked.show?.curtainMs ?? null });
  const fit = lived?.fit;
  return [
    { kind: 'state' as const, value: status.state, text: `${note} ${STATE_WORDS[status.state]}${when}.` },
    ...stringNext(life, status, asked),
    ...read(life, status, lived, asked),
    ...(fit && outlook
      ? [
          ...offsets(note, fit, asked),
          ...holds(note, status, outlook, asked),
          ...(status.nextCheckMs === null ? [] : [nextCheck(note, status.nextCheckMs, asked)]),
          ...rounds(life, fit, outlook.rounds, asked),
          ...falls(life, outlook, zone),
        ]
      : [{ kind: 'no-forecast' as const, text: status.cents === null ? NOT_READ : READ_ONCE }]),
    ...headroom(life, asked.a4Hz),
    ...tuner(life, asked),
  ].map((s) => ({ ...s, string: plan.stringId }));
}

/** When the string is to be looked at by its own law, whatever a show's plan says. */
function nextCheck(note: string, atMs: number, { nowMs, zone }: SayAsked): Statement {
  const due = dueTime(atMs, nowMs, zone);
  return { kind: 'next-check', atMs, text: `Check ${note}: ${due}.`, brief: due };
}
