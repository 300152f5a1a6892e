/** Minutes to mix, to let it rest, to mix again [common practice, no source]; what the bag says comes first. */
export const USUAL_MIX_MINUTES = { mix: 5, rest: 10, remix: 3 } as const;
