import { type Zone, MINUTE } from '../../core/base';
import { signed, sinceTime, plusMinus } from './format';
import type { StringStatus } from '../../core/status';

/** A reading younger than this is shown as it is, ms; an older one is shown as that age. */
const YOUNG_MS = 15 * MINUTE;

/** How old the figure of a string is, and where it is expected to have gone since; '' while it is young. */
export function ageLine(status: StringStatus | undefined, nowMs: number, zone: Zone): string {
  if (!status || status.cents === null || status.lastReadMs === null || nowMs - status.lastReadMs < YOUNG_MS) return '';
  const read = `${signed(status.cents)} at ${sinceTime(status.lastReadMs, nowMs, zone)}`;
  const { byNow } = status;
  return byNow ? `${read}, now about ${signed(byNow.cents, 0)} ${plusMinus(byNow.sigmaCents, 0)} if untouched` : read;
}
