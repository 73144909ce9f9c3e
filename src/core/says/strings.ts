import { chanceWords, HOLD_MIN, TOLERANCE_CENTS } from '../check';
import { loadOf, tunerOf } from '../guided';
import { stringTargetHz, plusMinus } from '../music';
import { clockTime, dueTime, sinceTime, MINUTE, NORMAL_Q95 } from '../base';
import type { StringLife } from '../log';
import { mixtureMoments, mixtureQuantile, standAhead, type SettlingFit } from '../settling';
import { halfWidth, spreadOf, type Statement } from './statement';
import type { SayAsked } from './asked';
import { atWords, fallenWords, nowWords, STATE_WORDS } from './words';
import {
  fallenOf,
  READY,
  repeatability,
  type LifeFit,
  type StringStatus,
  gainWords,
  roundsGain,
  type StringStory,
} from '../status';

const HOUR_MIN = 60;
/** Of two readings a turn is learned from: what it moves lies within this factor for nine of ten (house estimate). */
const TUNER_FACTOR = 1.5;

/** Where a string will stand, in a statement's figures. */
function standing(fit: SettlingFit, hMin: number) {
  const mix = standAhead(fit, hMin);
  const interval: [number, number] = [mixtureQuantile(mix, 0.05), mixtureQuantile(mix, 0.95)];
  return { value: mixtureQuantile(mix, 0.5), sd: mixtureMoments(mix).sd, interval, unit: 'cents' as const };
}

/** What is forecast of a string that was read twice. */
function ahead(status: StringStatus, story: StringStory, fit: SettlingFit, note: string, asked: SayAsked): Statement[] {
  const { nowMs, zone, show } = asked;
  const says: Statement[] = [];
  const now = standing(fit, 0);
  says.push({ kind: 'offset-now', ...now, atMs: nowMs, text: nowWords(note, now.value, now.interval) });
  const moments = [nowMs + HOUR_MIN * MINUTE, ...(show && show.curtainMs > nowMs ? [show.curtainMs] : [])];
  for (const atMs of moments) {
    const then = standing(fit, (atMs - nowMs) / MINUTE);
    says.push({
      kind: 'offset-at',
      ...then,
      atMs,
      text: atWords(note, then.value, halfWidth(then.interval), atMs, zone),
    });
  }
  if (status.chance !== null) {
    const untilMs = nowMs + HOLD_MIN * MINUTE;
    says.push({
      kind: 'hold-chance',
      atMs: untilMs,
      chance: status.chance,
      text: `${note}, untouched: ${chanceWords(status.chance)} within ±${TOLERANCE_CENTS} cents until ${clockTime(untilMs, zone)}.`,
    });
  }
  // What holds as it stands is not told when it would.
  if (story.readyMs !== null && status.state !== 'holding')
    says.push({
      kind: 'ready-at',
      atMs: story.readyMs,
      chance: READY,
      text: `${note} holds ${HOLD_MIN} minutes if it is retuned ${dueTime(story.readyMs, nowMs, zone)}.`,
    });
  if (status.nextCheckMs !== null)
    says.push({
      kind: 'next-check',
      atMs: status.nextCheckMs,
      text: `Check ${note}: ${dueTime(status.nextCheckMs, nowMs, zone)}.`,
    });
  return says;
}

/** What its stretch rounds are worth from here. */
function rounds(life: StringLife, fit: SettlingFit, { nowMs, zone, show }: SayAsked): Statement[] {
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

/** Everything that is claimed of one string. */
export function stringSays(
  life: StringLife,
  status: StringStatus,
  story: StringStory,
  lived: LifeFit | undefined,
  asked: SayAsked,
): Statement[] {
  const fit = lived?.fit;
  const { nowMs, zone, a4Hz } = asked;
  const { plan, readings } = life;
  const { note } = plan;
  const read = status.cents === null ? '' : `, read ${sinceTime(status.lastReadMs!, nowMs, zone)}`;
  const says: Statement[] = [
    { kind: 'state', value: status.state, text: `${note} ${STATE_WORDS[status.state]}${read}.` },
  ];
  if (fit && status.byNow) says.push(...ahead(status, story, fit, note, asked), ...rounds(life, fit, asked));
  const fallen = fallenOf(life, lived);
  if (fallen)
    says.push({
      kind: 'fallen',
      value: fallen.cents,
      sd: halfWidth(fallen.interval) / NORMAL_Q95,
      interval: fallen.interval,
      unit: 'cents',
      atMs: status.lastReadMs!,
      text: fallenWords(note, fallen.cents, sinceTime(readings[0]!.atMs, nowMs, zone)),
    });
  const repeats = repeatability(readings);
  if (repeats)
    says.push({
      kind: 'repeatability',
      // Pairs of one sitting hang together (house estimate).
      ...spreadOf(repeats.cents, repeats.pairs / 2),
      unit: 'cents',
      text: `Readings of ${note} repeat within ${plusMinus(repeats.cents)} cents.`,
    });
  const targetHz = stringTargetHz(plan, a4Hz);
  const share = (targetHz && loadOf(plan, targetHz)?.shareOfBreaking) ?? null;
  if (share !== null)
    says.push({
      kind: 'headroom',
      value: share,
      unit: 'share',
      text: `${note} at pitch is at ${Math.round(100 * share)} % of its breaking load.`,
    });
  return [...says, ...tuner(life, asked)].map((s) => ({ ...s, string: plan.stringId }));
}
