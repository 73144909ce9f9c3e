/** Above this share of breaking the app warns, and above the second it does not guide (house rules). */
export const WARN_SHARE = 0.85;
export const REFUSE_SHARE = 0.93;

export interface BreakingWarning {
  code: 'near-limit' | 'over-limit';
  message: string;
}

/** How near it is to its end, '90 % of its breaking load'. @param share of the breaking load, 1 is the break */
export const ofBreaking = (share: number): string => `${(100 * share).toFixed(0)} % of its breaking load`;

/** What is said before a string is brought up to where it pulls such a share of its breaking load, 1 is the break; undefined where that is safe or unknown. */
export function breakingWarning(note: string, share: number | null | undefined): BreakingWarning | undefined {
  if (share === null || share === undefined || share <= WARN_SHARE) return undefined;
  const load = ofBreaking(share);
  return share > REFUSE_SHARE
    ? {
        code: 'over-limit',
        message: `${note} would pull ${load}: do not bring it up. A lower note, a shorter length or a stronger material is needed: ask the instrument’s maker.`,
      }
    : {
        code: 'near-limit',
        message: `${note} pulls ${load}: it may break before it settles. Turn little, keep your face out of its plane.`,
      };
}
