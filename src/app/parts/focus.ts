import { realClock } from '../world/clock';

/** Where the next thing to do is said; where a view has none, the view itself. */
export const WORK_ID = 'work';
export const VIEW_ID = 'view';

const AFTER_SHEET_MS = 60;

/** Hands the keys to the work after a sheet has closed or a view has come, so that the pedal's next press is not a button's. */
export function focusWork(): void {
  // The sheet gives the focus back to the button that opened it, a moment after it is gone.
  realClock.after(AFTER_SHEET_MS, () => {
    if (document.activeElement?.closest('[role="dialog"], input, textarea, select')) return;
    (document.getElementById(WORK_ID) ?? document.getElementById(VIEW_ID))?.focus({ preventScroll: true });
  });
}
