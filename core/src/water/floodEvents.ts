/** What breaks a series of levels: water added, the plug moved, the logger without power, something stepped into the water. */
export const FLOOD_EVENTS = ['refill', 'plug-moved', 'power-cut', 'step'] as const;
/** One of them. */
export type FloodEventKind = (typeof FLOOD_EVENTS)[number];
