export { createGuide, type Guide } from './guide';
export type { GuidedStep, GuideView, PassStep, Verdict } from './step';
export { type Arrival, type Figure } from './hand';
export { HOME_CENTS, whichString, type NamedPlace, type Which } from './identify';
export { reachOf } from './reach';
export { createSession, type Session, type SessionEvent, type SessionKind } from './session';
export { createTurning, type TunerAdvice, type TunerKnown, type TunerLearned, type Turning } from './turning';
