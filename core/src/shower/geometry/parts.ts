/** Parts of a shower that may each be built by another method. */
export const PARTS = ['floor', 'curb', 'walls', 'niche', 'bench', 'ceiling', 'outside-floor'] as const;
/** One of them. */
export type Part = (typeof PARTS)[number];
