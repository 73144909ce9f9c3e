import { ratioOfCents } from '../music';
import type { Heard, Reading, RefusalReason, SectionHeard, TrackPoint } from '../pitch';
import { asFound, type LastFigure } from './as-found';
import { asLeft, asTaken, type SaidOff } from './as-left';
import {
  calmed,
  compared,
  DARK,
  drawn,
  endOf,
  figureAt,
  isLoud,
  isSounding,
  quietWords,
  type Display,
} from './display';
import { followedTo, hearingWords, homeOf, identify, knownAt, questionWords, type Identity } from './identify';
import { afterFigure, afterSection, isHandOff, MOVED_CENTS, standsBy, UNMOVED, type Motion } from './motion';
import { atEdge, createSayer, offWords, sentenceFor, standsWords } from './sentence';
import { figurePlaceOf, isSameStep, lineCentsOf, type GuidedStep, type GuideView, type Verdict } from './step';
import { createTurning, type Turning } from './turning';
import { arrivalOf, goesOn, riseOf, wayFrom, type Figure, type Approach } from './approach';

/** The rules of one guided reading after another: what is kept, when, as what, and what is asked. Pure: fed with what is heard. */
export interface Guide {
  setStep(step: GuidedStep | undefined): void;
  hear(heard: Heard): Verdict[];
  /** Enter: 'read' when the listener is to read what sounds now; a verdict where none is needed. */
  take(): 'read' | Verdict;
  view(nowS: number, listening: boolean): GuideView;
}

/** A side of the tolerance counts when so many figures were there together, cents. */
const CLEAR_CENTS = 3;
const CLEAR_POINTS = 3;
const UNSETTLED = 'The pitch is not steady enough. Pluck it again, or press Enter to keep it as it is.';
const UNTOUCHED = 'The pitch moved while it rang. Pluck once and do not touch it.';
/** A doubt is told once in so long, s. */
const TELL_EVERY_S = 5;
/** What a string is refused for while it is turned. */
const LOOKS_TURNED: ReadonlySet<RefusalReason> = new Set(['no-pitch', 'two-strings']);
/** The last instruction stands so long after the string was last heard, s. */
const STANDS_S = 2.8;
/** A figure is live for so long, s. */
const LIVE_S = 0.25;
/** No note rises by itself so far, cents. */
const RISEN_CENTS = 20;

type Refused = Extract<Verdict, { kind: 'refuse' }>;
const refuse = (reason: Refused['reason'], message: string, hearingId?: string): Verdict => ({
  kind: 'refuse',
  reason,
  message,
  ...(hearingId ? { hearingId } : {}),
});

/** What belongs to one step, and begins anew with the next. */
interface OfStep {
  way: Approach;
  found: LastFigure;
  told: SaidOff;
  toldS: number;
  identity: Identity;
  turning: Turning | undefined;
  /** Asked and not yet answered. */
  asked: { reading: Reading; message: string } | undefined;
  /** What sounds was turned up, though it was to be left alone. */
  risen: boolean;
  /** It was so at any time since it was asked for. */
  wasTurned: boolean;
}

function begin(next: GuidedStep): OfStep {
  const { step, named, tuner, toleranceCents, foundCents } = next;
  return {
    way: wayFrom(foundCents, toleranceCents),
    found: undefined,
    told: undefined,
    toldS: -Infinity,
    identity: homeOf(named),
    turning: step.purpose === 'left' && tuner ? createTurning(tuner, toleranceCents, step.again === true) : undefined,
    asked: undefined,
    risen: false,
    wasTurned: false,
  };
}

class GuidedReading implements Guide {
  private now: GuidedStep | undefined;
  private of: OfStep | undefined;
  private display: Display = DARK;
  private motion: Motion = UNMOVED;
  private newest = -1;
  /** The note whose reading was kept, asked or refused. */
  private spent = -1;
  /** The hand did something since it was last looked: a pluck, a key, a kept reading. */
  private acted = true;
  private sayer = createSayer();

  private isLeft() {
    return this.now?.step.purpose === 'left';
  }
  /** What is heard is counted from the line; what is told, from where the string belongs. */
  private fromWhereItBelongs(cents: number): number {
    return cents + lineCentsOf(this.now!);
  }
  private setIdentity(identity: Identity) {
    this.of!.identity = identity;
  }

  private keep(reading: Reading): Verdict {
    this.spent = this.newest;
    this.acted = true;
    this.of!.asked = this.of!.told = undefined;
    this.setIdentity({ ...this.of!.identity, homeHz: reading.frequencyHz });
    const learned = this.of!.turning?.learned();
    const arrival = this.isLeft() ? arrivalOf(this.of!.way) : undefined;
    const turned = !this.isLeft() && this.of!.wasTurned;
    return { kind: 'keep', reading, arrival, ...(learned ? { learned } : {}), ...(turned ? { turned } : {}) };
  }
  private tooLoud(): Verdict {
    return refuse(
      'uncertain',
      `Too loud here to be sure of ${this.now!.named.name}. Move closer, or press Enter to keep it as it is.`,
    );
  }
  private whoseAt(frequencyHz: number) {
    return identify(this.of!.identity, frequencyHz, { ...this.now!, rising: this.isLeft() });
  }

  /** The named string, or a verdict that says why not. */
  private placed(reading: Reading, note: number): Verdict | undefined {
    const { named } = this.now!;
    const which = this.whoseAt(reading.frequencyHz);
    if (which.is === 'named') return undefined;
    const other = which.is === 'other' ? which.other : undefined;
    const isNew = this.spent !== note;
    this.spent = note;
    this.acted = true;
    if (this.isLeft() && other && !named.fresh)
      return refuse('other-string', `${hearingWords(other.name, named.name)}.`, other.id);
    const message = questionWords(figurePlaceOf(this.now!), reading.frequencyHz, other?.name);
    if (isNew) this.of!.asked = { reading, message };
    return {
      kind: 'ask',
      cents: this.fromWhereItBelongs(reading.cents),
      message,
      ...(other ? { hearingId: other.id } : {}),
    };
  }

  private readFound(s: SectionHeard, reading: Reading): Verdict[] {
    const { found, is } = asFound(this.of!.found, s, reading);
    this.of!.found = found;
    if (is === 'more') return [];
    const elsewhere = this.placed(reading, s.note);
    if (elsewhere) return [elsewhere];
    if (is === 'read') return [this.keep(reading)];
    this.spent = s.note;
    return [refuse('unsteady', UNTOUCHED)];
  }

  private readLeft(s: SectionHeard, reading: Reading): Verdict[] {
    const { step, toleranceCents, belowCents, leftAlready = false } = this.now!;
    const elsewhere = this.placed(reading, s.note);
    if (elsewhere) return [elsewhere];
    const after = afterSection(this.motion, s, reading);
    this.motion = after.motion;
    if (s.part === 'asked') return [this.taken(s, reading)];
    if (after.drifts || s.part === 'provisional') return [];
    this.setIdentity({ ...this.of!.identity, homeHz: reading.frequencyHz });
    if (!isHandOff(this.motion, s)) return [];
    const { fall, ...stands } = standsBy(this.motion, s, reading);
    this.of!.way = goesOn(this.of!.way, stands.cents, stands.sigmaCents / 1.5, toleranceCents);
    const loud = isLoud(this.display);
    const is = asLeft({
      ...stands,
      way: this.of!.way,
      toleranceCents,
      belowCents,
      leftAlready,
      again: step.again === true,
      loud,
    });
    if (is === 'keep')
      return [this.keep({ ...reading, frequencyHz: reading.frequencyHz * ratioOfCents(-fall), ...stands })];
    if (is === 'wait') return [];
    // Here it stands, at the edge: the sentence says which way, whatever the trace showed on the way here.
    const edge: Figure = { cents: stands.cents, spread: stands.sigmaCents, tS: s.toS };
    if (
      atEdge(edge, toleranceCents, belowCents) &&
      !(this.display.shown && atEdge(this.display.shown, toleranceCents, belowCents))
    )
      this.display = { ...this.display, shown: edge };
    if (is === 'off' || s.toS - this.of!.toldS < TELL_EVERY_S) return [];
    this.of!.toldS = s.toS;
    return [loud ? this.tooLoud() : refuse('uncertain', UNSETTLED)];
  }

  private taken(s: SectionHeard, reading: Reading): Verdict {
    const { named, toleranceCents, belowCents = toleranceCents } = this.now!;
    const read = { note: this.newest, cents: reading.cents, sigmaCents: reading.sigmaCents };
    const is = asTaken(this.of!.told, read, figureAt(this.display, s.toS), { toleranceCents, belowCents });
    if (is === 'keep') return this.keep(reading);
    if (is === 'moved') return refuse('unsteady', `The pitch moved. Hold still, or pluck ${named.name} again.`);
    this.of!.told = read;
    return refuse('off', offWords(this.fromWhereItBelongs(reading.cents), reading.cents, belowCents < toleranceCents));
  }

  private notRead(s: SectionHeard, outcome: Extract<SectionHeard['outcome'], { ok: false }>): Verdict[] {
    // It is being turned, as it was told: what moved looks like a knock or like two strings.
    const turned =
      this.isLeft() &&
      (outcome.reason === 'unsteady' || (LOOKS_TURNED.has(outcome.reason) && this.motion.movedS > s.fromS));
    if (turned) this.motion = { ...this.motion, movedS: s.toS };
    if (s.part !== 'asked' && (turned || s.part !== 'whole')) return [];
    if (!this.isLeft()) this.spent = s.note;
    this.acted = true;
    const loud = this.isLeft() && outcome.reason === 'no-pitch' && isLoud(this.display);
    return [loud ? this.tooLoud() : refuse(outcome.reason, outcome.message)];
  }

  private hearSection(s: SectionHeard): Verdict[] {
    if (!this.now || s.stringId !== this.now.named.id) return [];
    this.newest = s.note;
    if (s.part !== 'asked' && s.note === this.spent) return [];
    const { outcome } = s;
    if (!outcome.ok) return this.notRead(s, outcome);
    if (Math.abs(outcome.driftCents) < MOVED_CENTS) {
      const fall = s.part === 'running' ? (this.motion.ownFall ?? 0) : 0;
      this.display = compared(this.display, s, outcome.cents - fall, this.motion.movedS);
    }
    return this.isLeft() ? this.readLeft(s, outcome) : this.readFound(s, outcome);
  }

  /** The figure of what is surely the string in hand. @param rises it is being turned up at this moment */
  private sureFigure(tS: number, rises: boolean): Figure | undefined {
    const { figure } = this.display;
    const of = this.of!;
    if (rises) of.risen = of.wasTurned = true;
    if (!figure) return undefined;
    const which = this.whoseAt(this.now!.named.targetHz * ratioOfCents(figure.cents));
    // A string that was turned up under the hand is followed wherever it goes: it may break. Not so another one's note.
    if (!rises && (figure.cents < RISEN_CENTS || which.is === 'other')) of.risen = false;
    if (of.risen && !this.isLeft()) return figure;
    this.setIdentity({ ...of.identity, stray: which.is === 'named' ? undefined : { which, tS } });
    return which.is === 'named' ? figure : undefined;
  }

  /** Another source began, at its own time: what was known of when is known no more. */
  private restart(): void {
    this.display = { ...DARK, bias: this.display.bias, shown: undefined };
    this.motion = UNMOVED;
    this.newest = this.spent = -1;
    this.sayer = createSayer();
    if (!this.of) return;
    this.of = { ...this.of, found: undefined, told: undefined, toldS: -Infinity, asked: undefined };
    this.setIdentity({ ...this.of.identity, stray: undefined });
    this.of.turning?.broken();
  }

  private hearPoints(list: TrackPoint[]): void {
    if (list.length > 0 && list[0]!.tS < endOf(this.display)) this.restart();
    this.display = drawn(this.display, list);
    if (!this.now || !this.of) return;
    const tS = endOf(this.display);
    const figure = this.sureFigure(tS, riseOf(this.display.points) > RISEN_CENTS);
    this.display = { ...this.display, figure };
    if (!figure) return;
    this.display = calmed(this.display, this.now.toleranceCents);
    if (this.isLeft()) this.followHand(figure, tS);
  }

  private followHand(figure: Figure, tS: number): void {
    const { turning, identity } = this.of!;
    const before = turning?.wrong(tS);
    turning?.see(figure);
    if (turning?.wrong(tS) !== before) this.acted = true;
    const after = afterFigure(this.motion, figure);
    this.motion = after.motion;
    if (after.moved) this.acted = true;
    const calm = this.motion.figures.filter((f) => Math.abs(f.cents - figure.cents) < CLEAR_CENTS + figure.spread);
    if (calm.length > CLEAR_POINTS)
      this.of!.way = goesOn(this.of!.way, figure.cents, figure.spread, this.now!.toleranceCents);
    if (this.spent !== this.newest)
      this.setIdentity(followedTo(identity, this.now!.named.targetHz * ratioOfCents(figure.cents)));
  }

  /** The player says that what was asked about is the string in hand. */
  private agree({ reading }: NonNullable<OfStep['asked']>): Verdict {
    if (!this.isLeft()) return this.keep(reading);
    this.of!.identity = knownAt(reading.frequencyHz);
    this.of!.asked = undefined;
    this.acted = true;
    const { name } = this.now!.named;
    return refuse('off', `Then ${name} is at ${standsWords(this.fromWhereItBelongs(reading.cents))}. Pluck it again.`);
  }

  /** What is said of a sound that is not surely the string in hand. */
  private strayWords(nowS: number): string | undefined {
    const stray = this.of?.identity.stray;
    if (!stray || nowS - stray.tS > STANDS_S) return undefined;
    const { named } = this.now!;
    if (stray.which.is === 'other' && !named.fresh) return hearingWords(stray.which.other.name, named.name);
    return isSounding(this.display) ? 'Let it ring' : undefined;
  }

  private sentence(nowS: number, listening: boolean): string {
    if (!this.now || !this.of) return '';
    const { shown } = this.display;
    const said = sentenceFor({
      step: this.now.step,
      note: this.now.named.name,
      listening,
      toleranceCents: this.now.toleranceCents,
      belowCents: this.now.belowCents,
      figure: shown && nowS - shown.tS < STANDS_S ? shown : undefined,
      sounding: isSounding(this.display),
      way: this.of.way,
      question:
        this.of.asked?.message ??
        this.strayWords(nowS) ??
        this.of.turning?.wrong(nowS) ??
        quietWords(this.display, nowS, this.now.named.name),
    });
    return this.sayer.say(said, nowS, this.acted);
  }

  setStep(next: GuidedStep | undefined): void {
    const same = isSameStep(this.now, next);
    const string = this.now?.named.id === next?.named.id;
    this.now = next;
    if (!next || same) return;
    this.acted = true;
    this.of = begin(next);
    // What rings on from the reading as found is followed; stillness counts from now.
    this.motion = { ...UNMOVED, movedS: this.isLeft() ? endOf(this.display) : this.motion.movedS };
    if (this.isLeft()) this.spent = -1;
    if (string) return;
    this.display = DARK;
    this.sayer = createSayer();
  }

  hear(heard: Heard): Verdict[] {
    if (heard.kind === 'track') this.hearPoints(heard.points);
    else if (heard.kind === 'onset') {
      this.newest = heard.note;
      this.acted = true;
      this.display = { ...this.display, onsetS: heard.atS };
      this.motion = { ...this.motion, figures: [], movedS: Math.max(this.motion.movedS, heard.atS) };
      if (!this.of) return [];
      this.of.asked = undefined;
      this.setIdentity({ ...this.of.identity, stray: undefined });
      this.of.turning?.broken();
    } else if (heard.kind === 'section') return this.hearSection(heard);
    return [];
  }

  take(): 'read' | Verdict {
    if (!this.now) return refuse('nothing', 'No reading is asked for now.');
    if (this.of!.asked) return this.agree(this.of!.asked);
    return isSounding(this.display)
      ? 'read'
      : refuse('nothing', `Nothing is sounding. Pluck ${this.now.named.name} first.`);
  }

  view(nowS: number, listening: boolean): GuideView {
    const { figure, shown } = this.display;
    const live = figure && endOf(this.display) - figure.tS < LIVE_S ? figure : undefined;
    const said = this.sentence(nowS, listening);
    this.acted = false;
    return {
      sentence: said,
      figure: live ?? null,
      faded: live ? null : (shown ?? null),
      tuner: (this.now && this.of?.turning?.advice()) ?? null,
      turning: this.isLeft() || this.now?.watched === true || (this.of?.risen ?? false),
    };
  }
}

/** A guided reading at its beginning. */
export const createGuide = (): Guide => new GuidedReading();
