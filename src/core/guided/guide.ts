import { median } from 'simple-statistics';
import { cents, ratioOfCents } from '../music';
import type { Heard, Reading, RefusalReason, SectionHeard, StringPlace, TrackPoint } from '../pitch';
import { arrivalOf, figureOf, goesOn, riseOf, wayFrom, type Arrival, type Figure, type Way } from './hand';
import { atEdge, calmFigure, createSayer, sentenceFor } from './sentence';
import type { PassStep } from './step';
import { createTurning, type TunerAdvice, type TunerKnown, type TunerLearned, type Turning } from './turning';
import { whichString, type NamedPlace, type Which } from './which';

/** The step in hand, with what is known of the strings. */
export interface GuidedStep {
  step: PassStep;
  named: NamedPlace;
  others: StringPlace[];
  toleranceCents: number;
  /** The player says that it is the named string. */
  insist?: boolean;
  /** Where it was found before this step, cents; null when it was not. */
  foundCents: number | null;
  /** It was left so already: nobody has turned it since. */
  leftAlready?: boolean;
  /** The tuner that brings it up. */
  tuner?: TunerKnown;
}

export type Verdict =
  | { kind: 'keep'; reading: Reading; arrival: Arrival | undefined; learned?: TunerLearned }
  | { kind: 'refuse'; reason: RefusalReason | 'off' | 'uncertain' | 'nothing'; message: string; hearingId?: string }
  | { kind: 'ask'; cents: number; message: string; hearingId?: string };

/** What the player sees now. */
export interface GuideView {
  sentence: string;
  /** Robust, null when nothing is heard well enough. */
  figure: Figure | null;
  /** Where it was last heard well, if not now. */
  faded: Figure | null;
  /** While the string is brought up. */
  tuner: TunerAdvice | null;
  /** A hand is at the tuner: the string is to be brought up, or what sounds has risen. */
  turning: boolean;
}

/** The rules of one guided reading after another: what is kept, when, as what, and what is asked. Pure: fed with what is heard. */
export interface Guide {
  setStep(step: GuidedStep | undefined): void;
  hear(heard: Heard): Verdict[];
  /** Enter: 'read' when the listener is to read what sounds now; a verdict where none is needed. */
  take(): 'read' | Verdict;
  view(nowS: number, listening: boolean): GuideView;
}

/** The hand is off when nothing has moved for so long, s (house estimate: pauses between two turns are shorter). */
const HAND_OFF_S = 1;
/** A note falls by itself by no more than this while it dies; before that is known, the doubt of a late reading, cents (house estimates). */
const MOST_OWN_FALL = 8;
const LATE_SIGMA = 0.45;
/** A note that has died away sooner is all there is: so much of it must stand still, s (house estimate). */
const SHORT_NOTE_S = 0.55;
/** Between two sections, or within one, more than this is a hand, cents, beside the doubt. */
const MOVED_CENTS = 1.3;
/** No pluck starts this much sharp without doubt of the hand: it may have been let down while it sounded, cents (house estimate). */
const FALLING_CENTS = 4;
/** The trace shows a hand when the figure goes further than this within so long, cents and s, beside its scatter. */
const TURNED_CENTS = 1.6;
const FALLS_BY_ITSELF = 6;
const LOOK_BACK_S = 0.4;
/** A side of the tolerance counts when so many figures were there together, cents. */
const CLEAR_CENTS = 3;
const CLEAR_POINTS = 3;
/** A pluck that moved more than this while it was to be left alone is no reading, cents, beside the doubt. */
const UNTOUCHED_CENTS = 7;
/** A doubt above this share of the tolerance is told, once in so long, s. */
const DOUBT_SHARE = 0.3;
const UNSETTLED_SHARE = 0.5;
const UNSETTLED = 'It does not stand still enough to be sure: pluck it again, or Enter takes it as it is.';
const TELL_EVERY_S = 5;
/** What a string is refused for while it is turned. */
const LOOKS_TURNED: ReadonlySet<RefusalReason> = new Set(['no-pitch', 'two-strings']);
/** A room above this may hide a string, dB of full scale (house estimate). */
const LOUD_ROOM_DB = -50;
/** A running figure of a note without an onset counts when the next agrees, cents. */
const AGREE_CENTS = 0.8;
/** The last instruction stands so long after the string was last heard, s. */
const STANDS_S = 2.8;
/** A string that was just fitted is known again when so many figures in a row went on from one another. */
const FOLLOWED_POINTS = 20;
/** What was heard this long ago still sounds, s. */
const SOUNDS_S = 0.4;
/** No note rises by itself so far, cents. */
const RISEN_CENTS = 20;
/** A pluck's first moments are rough in the trace, s. */
const ROUGH_S = 0.2;
/** The trace of a string that stands still differs between its halves by less than this; from its readings by less than that, cents (house estimates). */
const STOOD_CENTS = 1;
const MOST_BIAS = 4;
/** The trail that is looked back on, s. */
const TRAIL_S = 1.5;

const signed = (c: number) => `${c < 0 ? '−' : '+'}${Math.abs(c).toFixed(Math.abs(c) < 10 ? 1 : 0)}`;

/** What is asked about a sound that stands elsewhere. */
function question(named: string, off: number, other: string | undefined): string {
  const where = `This stands ${Math.abs(off).toFixed(0)} ${off < 0 ? 'below' : 'above'} ${named}`;
  const slack = off < 0 ? ` gone slack` : ' gone sharp';
  return other
    ? `${where}: is it ${named}${slack} (Enter), or ${other}?`
    : `${where}: is it ${named}${slack} (Enter)? Or pluck again`;
}

export function createGuide(): Guide {
  let now: GuidedStep | undefined;
  let points: TrackPoint[] = [];
  let onsetS = -Infinity;
  let homeHz = 0;
  let way: Way = { side: undefined, wasBelow: false };
  /** When the string last moved, s; the stillness before a note counts when it stands where it stood. */
  let movedS = -Infinity;
  let lastWhole: { note: number; cents: number; sigma: number; sharp: number; drift: number } | undefined;
  let lastRunning: typeof lastWhole;
  /** How much lower this string sounds late in a note than at its reading, cents; unknown at first. */
  let ownFall: number | undefined;
  /** Figures of the last moments, to see a hand on the tuner at once. */
  let figures: Figure[] = [];
  let running: { note: number; cents: number } | undefined;
  /** The note whose reading was kept, asked or refused. */
  let spent = -1;
  let newest = -1;
  let asked: { reading: Reading; message: string } | undefined;
  /** Where it was said to stand, out of tolerance: Enter once more keeps it there. */
  let told: { note: number; cents: number } | undefined;
  let toldS = -Infinity;
  /** What the trace shows more than the readings say, cents. */
  let bias = 0;
  let figure: Figure | undefined;
  let shown: Figure | undefined;
  /** What sounds is not surely the string in hand: no instruction to turn is given on it. */
  let stray: { which: Exclude<Which, { is: 'named' }>; tS: number } | undefined;
  /** Figures in a row at the place of a string that was just fitted, of which nobody knew where it hangs. */
  let followed = 0;
  let acted = true;
  let sayer = createSayer();
  let turning: Turning | undefined;
  /** What sounds was turned up, though it was to be left alone. */
  let risen = false;

  const keep = (reading: Reading): Verdict => {
    const { step } = now!;
    asked = undefined;
    spent = newest;
    acted = true;
    told = undefined;
    homeHz = reading.frequencyHz;
    const learned = turning?.learned();
    const arrival = step.purpose === 'left' ? arrivalOf(way) : undefined;
    return { kind: 'keep', reading, arrival, ...(learned ? { learned } : {}) };
  };

  const refuse = (
    reason: Extract<Verdict, { kind: 'refuse' }>['reason'],
    message: string,
    hearingId?: string,
  ): Verdict => ({ kind: 'refuse', reason, message, ...(hearingId ? { hearingId } : {}) });

  const tooLoud = (): Verdict =>
    refuse('uncertain', `The room is too loud for ${now!.named.name} here: closer, or Enter takes it as it is.`);
  /** Is the string in the air now? */
  const sounds = (): boolean => {
    const end = points[points.length - 1]?.tS ?? 0;
    return points.some((p) => p.cents !== null && end - p.tS < SOUNDS_S);
  };
  const roomDb = (): number => points[points.length - 1]?.floorDb ?? -Infinity;

  const whichAt = (frequencyHz: number): Which => {
    const { step, named, others, insist } = now!;
    if (insist) return { is: 'named' };
    const known = followed > FOLLOWED_POINTS ? { ...named, fresh: false } : named;
    return whichString(frequencyHz, known, others, homeHz, step.purpose === 'left');
  };
  const hearing = (other: StringPlace) => `You are hearing ${other.name}: pluck ${now!.named.name}`;

  /** The named string, or a verdict that says why not. */
  const placed = (reading: Reading, note: number): Verdict | undefined => {
    const { step, named } = now!;
    const which = whichAt(reading.frequencyHz);
    if (which.is === 'named') return undefined;
    const other = which.is === 'other' ? which.other : undefined;
    const isNew = spent !== note;
    spent = note;
    acted = true;
    if (step.purpose === 'left' && other && !named.fresh) return refuse('other-string', `${hearing(other)}.`, other.id);
    const off = cents(reading.frequencyHz, named.lastHz ?? named.targetHz);
    const message = question(named.name, off, other?.name);
    if (isNew) asked = { reading, message };
    return { kind: 'ask', cents: reading.cents, message, ...(other ? { hearingId: other.id } : {}) };
  };

  const foundRule = (s: SectionHeard, reading: Reading): Verdict[] => {
    if (s.part === 'provisional') return [];
    if (s.part === 'running') {
      // A bowed note, or one that was ringing when listening began: twice alike.
      if (s.onsetS !== null) return [];
      const alike = running?.note === s.note && Math.abs(running.cents - reading.cents) < AGREE_CENTS;
      running = { note: s.note, cents: reading.cents };
      if (!alike) return [];
    }
    const elsewhere = placed(reading, s.note);
    if (elsewhere) return [elsewhere];
    if (Math.abs(reading.driftCents) > UNTOUCHED_CENTS + 2 * reading.sigmaCents) {
      spent = s.note;
      return [refuse('unsteady', 'The pitch moved while it sounded: pluck once and leave it alone.')];
    }
    return [keep(reading)];
  };

  /** Did the string move within this section, or since the last one that can be compared with it? */
  const movedIn = (s: SectionHeard, { cents: at, sigmaCents, driftCents, glideCents }: Reading): boolean => {
    const doubt = MOVED_CENTS + 0.6 * Math.min(3, sigmaCents);
    // What falls so at every pluck is not being let down.
    const usual = lastWhole && lastWhole.note !== s.note ? lastWhole : undefined;
    const falls = s.part === 'whole' ? Math.max(-MOST_OWN_FALL / 2, Math.min(0, usual?.drift ?? 0)) : 0;
    const drifts = driftCents > doubt || driftCents < falls - doubt || glideCents > (usual?.sharp ?? 0) + FALLING_CENTS;
    const alike = s.part === 'whole' ? lastWhole : s.note === lastRunning?.note ? lastRunning : undefined;
    const jumps = alike !== undefined && Math.abs(at - alike.cents) > doubt + 0.5 * Math.min(3, alike.sigma);
    const here = { note: s.note, cents: at, sigma: sigmaCents, sharp: glideCents, drift: driftCents };
    if (s.part === 'whole') {
      // Plucked again it stands where it stood: what it fell meanwhile is the note's own way to die, and no hand's.
      const stands = usual && !jumps && !drifts;
      if (stands && lastRunning?.note === usual.note)
        ownFall = Math.max(-MOST_OWN_FALL, Math.min(MOST_OWN_FALL, lastRunning.cents - usual.cents));
      // And the hand was off all the time between.
      if (stands) movedS = Math.min(movedS, s.fromS - HAND_OFF_S);
      lastWhole = here;
    } else if (s.part === 'running') lastRunning = here;
    if (drifts) movedS = s.toS;
    else if (jumps && s.part === 'running') movedS = Math.max(movedS, s.fromS);
    return drifts;
  };

  const leftRule = (s: SectionHeard, reading: Reading): Verdict[] => {
    const { step, toleranceCents, leftAlready } = now!;
    const elsewhere = placed(reading, s.note);
    if (elsewhere) return [elsewhere];
    const moved = movedIn(s, reading);
    const late = s.part === 'running';
    const fall = late ? (ownFall ?? 0) : 0;
    const at = reading.cents - fall;
    // Late in a note, before its own fall is known, a string may sound lower than it stands.
    const sigma = Math.hypot(reading.sigmaCents, late ? (ownFall === undefined ? LATE_SIGMA : 0.3 * fall) : 0);
    if (s.part === 'asked') return [decideAsked(s, reading)];
    if (moved || s.part === 'provisional') return [];
    homeHz = reading.frequencyHz;
    if (s.toS - movedS < (s.over ? SHORT_NOTE_S : HAND_OFF_S)) return [];
    way = goesOn(way, at, sigma / 1.5, toleranceCents);
    if (Math.abs(at) + sigma <= toleranceCents) {
      const arrived = arrivalOf(way);
      // It still stands where it was left: nobody has turned it, there is nothing new to keep.
      if (leftAlready && arrived === 'untouched') return [];
      if (step.again && arrived !== 'from below') return [];
      const frequencyHz = reading.frequencyHz * ratioOfCents(-fall);
      return [keep({ ...reading, frequencyHz, cents: at, sigmaCents: sigma })];
    }
    // Here it stands, at the edge: the sentence says which way, whatever the trace showed on the way here.
    const stands = { cents: at, spread: sigma, tS: s.toS };
    if (atEdge(stands, toleranceCents) && !(shown && atEdge(shown, toleranceCents))) shown = stands;
    const loud = roomDb() > LOUD_ROOM_DB;
    const open = Math.abs(at) <= toleranceCents && sigma > (loud ? DOUBT_SHARE : UNSETTLED_SHARE) * toleranceCents;
    if (!open || s.toS - toldS < TELL_EVERY_S) return [];
    toldS = s.toS;
    return [loud ? tooLoud() : refuse('uncertain', UNSETTLED)];
  };

  /** The player's word decides: in tolerance at the first press, out of it when it was told where it stands, and stands there still. */
  const decideAsked = (s: SectionHeard, reading: Reading): Verdict => {
    const shownNow = figure && s.toS - figure.tS < SOUNDS_S ? figure : undefined;
    const apart = shownNow ? Math.abs(reading.cents - shownNow.cents) : 0;
    // What was read is not where it stands now: a hand has turned it meanwhile.
    if (shownNow && apart > AGREE_CENTS + 2 * (shownNow.spread + reading.sigmaCents))
      return refuse('unsteady', `It moved while it was read: hold still, or pluck ${now!.named.name} again.`);
    if (Math.abs(reading.cents) <= now!.toleranceCents) return keep(reading);
    const still = Math.abs(reading.cents - (told?.cents ?? Infinity)) < MOVED_CENTS + 2 * reading.sigmaCents;
    if (told?.note === newest && still) return keep(reading);
    told = { note: newest, cents: reading.cents };
    return refuse('off', `It stands at ${signed(reading.cents)}. Enter once more keeps it as it is.`);
  };

  const hearSection = (s: SectionHeard): Verdict[] => {
    if (!now || s.stringId !== now.named.id) return [];
    newest = s.note;
    if (s.part !== 'asked' && s.note === spent) return [];
    const { outcome } = s;
    if (!outcome.ok) {
      // It is being turned, as it was told: what moved looks like a knock or like two strings.
      const turned =
        now.step.purpose === 'left' &&
        (outcome.reason === 'unsteady' || (LOOKS_TURNED.has(outcome.reason) && movedS > s.fromS));
      if (turned) movedS = s.toS;
      if (s.part !== 'asked' && (turned || s.part !== 'whole')) return [];
      if (now.step.purpose === 'found') spent = s.note;
      acted = true;
      const loud = now.step.purpose === 'left' && outcome.reason === 'no-pitch' && roomDb() > LOUD_ROOM_DB;
      return [loud ? tooLoud() : refuse(outcome.reason, outcome.message)];
    }
    // Only a string that stood still while it was read tells how the trace differs from a reading.
    const inside = points.flatMap((p) =>
      p.cents !== null && p.tS > s.fromS + ROUGH_S && p.tS < s.toS ? [p.cents] : [],
    );
    const half = inside.length >> 1;
    const stood =
      inside.length > 8 &&
      movedS <= s.fromS + ROUGH_S &&
      Math.abs(median(inside.slice(0, half)) - median(inside.slice(half))) < STOOD_CENTS;
    if (stood && Math.abs(outcome.driftCents) < MOVED_CENTS) {
      const read = s.part === 'running' ? outcome.cents - (ownFall ?? 0) : outcome.cents;
      const shift = median(inside) - bias - read;
      if (Math.abs(bias + 0.5 * shift) < MOST_BIAS) bias += 0.5 * shift;
    }
    return now.step.purpose === 'found' ? foundRule(s, outcome) : leftRule(s, outcome);
  };

  const hearPoints = (list: TrackPoint[]): void => {
    points.push(...list);
    const end = points[points.length - 1]!.tS;
    points = points.filter((p) => end - p.tS < TRAIL_S);
    const seen = figureOf(points, onsetS);
    figure = seen && { ...seen, cents: seen.cents - bias };
    if (figure && now?.step.purpose === 'left') {
      const which = whichAt(now.named.targetHz * ratioOfCents(figure.cents));
      stray = which.is === 'named' ? undefined : { which, tS: end };
      if (stray) figure = undefined;
    }
    if (riseOf(points) > RISEN_CENTS) risen = true;
    else if (figure && figure.cents < RISEN_CENTS) risen = false;
    if (!figure || !now) return;
    shown = calmFigure(shown, figure, now.toleranceCents);
    if (now.step.purpose !== 'left') return;
    const before = turning?.wrong(end);
    turning?.see(figure);
    if (turning?.wrong(end) !== before) acted = true;
    figures = [...figures.filter((f) => end - f.tS < LOOK_BACK_S), figure];
    const { cents: at, spread } = figure;
    // Outside, and outside a moment before too.
    const calm = figures.filter((f) => Math.abs(f.cents - at) < CLEAR_CENTS + spread);
    if (calm.length > CLEAR_POINTS) way = goesOn(way, at, spread, now.toleranceCents);
    const first = figures[0]!;
    const went = at - first.cents;
    // Every note falls a little by itself; up goes only the hand.
    const most = (went > 0 ? TURNED_CENTS : FALLS_BY_ITSELF) + 2 * (spread + first.spread);
    if (end - first.tS > 0.5 * LOOK_BACK_S && Math.abs(went) > most) {
      movedS = end;
      acted = true;
    }
    // A slack string on its way up takes its home along.
    if (spent === newest) return;
    const hz = now.named.targetHz * ratioOfCents(figure.cents);
    followed = Math.abs(cents(hz, homeHz)) < 100 ? followed + 1 : 0;
    homeHz = hz;
  };

  /** The player says that what was asked about is the string in hand. */
  const agree = ({ reading }: NonNullable<typeof asked>): Verdict => {
    const { step, named } = now!;
    if (step.purpose === 'found') return keep(reading);
    homeHz = reading.frequencyHz;
    followed = FOLLOWED_POINTS + 1;
    asked = stray = undefined;
    acted = true;
    return refuse('off', `Then ${named.name} stands at ${signed(reading.cents)}. Pluck it again.`);
  };
  /** What is said of a sound that is not surely the string in hand. */
  const strayWords = (nowS: number): string | undefined => {
    if (!stray || nowS - stray.tS > STANDS_S) return undefined;
    if (stray.which.is === 'other' && !now!.named.fresh) return hearing(stray.which.other);
    return sounds() ? 'Let it ring' : undefined;
  };

  return {
    setStep(next) {
      const same =
        now &&
        next &&
        now.named.id === next.named.id &&
        now.named.targetHz === next.named.targetHz &&
        now.step.purpose === next.step.purpose &&
        now.step.again === next.step.again &&
        now.step.leapCents === next.step.leapCents;
      const string = now?.named.id === next?.named.id;
      now = next;
      if (!next || same) return;
      acted = true;
      asked = undefined;
      told = undefined;
      risen = false;
      lastWhole = lastRunning = ownFall = undefined;
      figures = [];
      stray = running = undefined;
      followed = 0;
      toldS = -Infinity;
      homeHz = next.named.lastHz ?? next.named.targetHz;
      way = wayFrom(next.foundCents, next.toleranceCents);
      const { step, tuner } = next;
      turning =
        step.purpose === 'left' && tuner ? createTurning(tuner, next.toleranceCents, step.again === true) : undefined;
      if (next.step.purpose === 'left') {
        // What rings on from the reading as found is followed; stillness counts from now.
        movedS = points[points.length - 1]?.tS ?? -Infinity;
        spent = -1;
      }
      if (!string) {
        points = [];
        figure = shown = undefined;
        onsetS = -Infinity;
        bias = 0;
        sayer = createSayer();
      }
    },
    hear(heard) {
      if (heard.kind === 'track') hearPoints(heard.points);
      else if (heard.kind === 'onset') {
        onsetS = heard.atS;
        newest = heard.note;
        acted = true;
        figures = [];
        movedS = Math.max(movedS, heard.atS);
        asked = stray = undefined;
        turning?.broken();
      } else if (heard.kind === 'section') return hearSection(heard);
      return [];
    },
    take() {
      if (!now) return refuse('nothing', 'Nothing is asked for.');
      if (asked) return agree(asked);
      return sounds()
        ? 'read'
        : refuse('nothing', `Nothing sounds: pluck ${now.named.name} first. N goes on without it.`);
    },
    view(nowS, listening) {
      const end = points[points.length - 1]?.tS ?? -Infinity;
      const live = figure && end - figure.tS < 0.25 ? figure : undefined;
      const recent = shown && nowS - shown.tS < STANDS_S ? shown : undefined;
      const sentence = now
        ? sayer.say(
            sentenceFor({
              step: now.step,
              note: now.named.name,
              listening,
              toleranceCents: now.toleranceCents,
              figure: recent,
              sounding: sounds(),
              way,
              question: asked?.message ?? strayWords(nowS) ?? turning?.wrong(nowS),
            }),
            nowS,
            acted,
          )
        : '';
      acted = false;
      return {
        sentence,
        figure: live ?? null,
        faded: live ? null : (shown ?? null),
        tuner: turning?.advice() ?? null,
        turning: now?.step.purpose === 'left' || risen,
      };
    },
  };
}
