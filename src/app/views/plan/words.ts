import type { Effort, PlanItem, PlanStep } from '../../../core/plan';

/** What an item asks for, in a few words. */
export const STEP_WORDS: Record<PlanStep, string> = {
  restring: 'Last chance for new strings',
  'too-late': 'Too late for new strings',
  'same-day': 'New strings today',
  rounds: 'Stretch rounds',
  check: 'Check',
  acclimatise: 'Open the cases',
  'last-tuning': 'Last tuning',
  between: 'Retune in a pause',
  swap: 'Use the spare',
};

export const EFFORT_WORDS: Record<Effort, string> = { once: 'Once', few: 'A few times', often: 'As often as needed' };

/** Advice, not work: it stands apart from the time line. */
export const ADVICE: ReadonlySet<PlanStep> = new Set(['restring', 'too-late', 'same-day']);

/** One walk: what is done at several instruments one after the other. */
export interface Visit {
  what: PlanStep;
  items: PlanItem[];
  minutes: number;
}

/** Items of one kind that follow one another, as the walks that they are. */
export function visitsOf(items: readonly PlanItem[]): Visit[] {
  const visits: Visit[] = [];
  for (const item of items) {
    const open = visits.find((v) => v.what === item.what && v.items[0]!.walkMin === item.walkMin);
    const visit = open ?? { what: item.what, items: [], minutes: 0 };
    if (!open) visits.push(visit);
    visit.items.push(item);
    visit.minutes += item.what === 'acclimatise' ? 0 : item.minutes;
  }
  return visits;
}
