import type { Crew } from '@careful-seam/contract/api/messages';

/** Crews that can be chosen: those that have become part of another are named in what is past, and chosen no more. */
export const standingCrews = (crews: readonly Crew[]): Crew[] => crews.filter((c) => c.into === null);
