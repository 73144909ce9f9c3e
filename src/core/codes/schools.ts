/** Ways to tune by ear. */
export const SCHOOLS = ['chain', 'anchor', 'harmonics', 'octaves', 'fifths'] as const;
export type School = (typeof SCHOOLS)[number];
