/** Ways to tune by ear. */
export const EAR_SCHOOLS = ['chain', 'anchor', 'harmonics', 'octaves', 'fifths'] as const;
export type EarSchool = (typeof EAR_SCHOOLS)[number];
