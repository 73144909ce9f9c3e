export type { PassStep } from './step';
export { createGuide, type Guide, type GuidedStep, type GuideView, type Verdict } from './guide';
export { type Arrival, type Figure } from './hand';
export { HOME_CENTS, whichString, type NamedPlace, type Which } from './which';
export { reachOf } from './reach';
export { createSession, type Session, type SessionEvent, type SessionKind } from './session';
export { createTurning, type TunerAdvice, type TunerKnown, type TunerLearned, type Turning } from './turning';
