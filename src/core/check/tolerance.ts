/** What the bench is asked for (house defaults): tolerance in cents, time to hold in min, confidence of the next check. */
export const TOLERANCE_CENTS = 3;
export const HOLD_MIN = 90;
export const CONFIDENCE = 0.9;
