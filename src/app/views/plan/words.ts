import type { PlanStep } from '../../../core/plan';

/** What an item asks for, in a few words. */
export const STEP_WORDS: Record<PlanStep, string> = {
  restring: 'Latest for new strings',
  'too-late': 'Too late for new strings',
  'same-day': 'Strings of today',
  rounds: 'Stretch rounds',
  check: 'Check',
  acclimatise: 'Into the air of the show',
  'last-tuning': 'Last tuning',
  between: 'Retune between pieces',
};

/** Advice, not work: it stands apart from the time line. */
export const ADVICE: ReadonlySet<PlanStep> = new Set(['restring', 'too-late', 'same-day']);
