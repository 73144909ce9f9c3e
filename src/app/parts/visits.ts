import type { VisitPurpose } from '../../core/plan';
import { signed } from './format';

/** What a visit is for, as it is said where it is made. */
export const VISIT_WORDS: Record<VisitPurpose, string> = {
  settle: 'check it, so that it settles',
  learn: 'check it, to see how it falls',
  'last-tuning': 'the last tuning',
  retune: 'retune it',
};

/** What a string is left at above its target, beside its note: '' where it is left at pitch. */
export const leadWords = (cents = 0): string => (cents === 0 ? '' : ` ${signed(cents)}`);
