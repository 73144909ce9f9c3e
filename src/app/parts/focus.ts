/** Where the next thing to do is said; focus goes there when a sheet has done its work. */
export const WORK_ID = 'work';

/** Hands the keys back to the work after a sheet has closed, so that the pedal's next press is not the button's. */
export function focusWork(): void {
  // The sheet gives the focus back to the button that opened it, a moment after it is gone.
  window.setTimeout(() => document.getElementById(WORK_ID)?.focus(), 60);
}
