/** Windows of one tablet: they share its store, and tell each other what changed in it. */

/** What a window tells the others: showers that were written or pulled, rule books that came. */
export interface Told {
  /** Ids of showers that changed. */
  showers: string[];
  /** Rule books changed. */
  books: boolean;
}

/** How the windows of one tablet find each other. */
const CHANNEL = 'careful-seam-tabs';
/** Nothing in a browser that has no such thing. */
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL);

/** Tells the other windows of this tablet. */
export function tellTabs(told: Told): void {
  if (told.showers.length > 0 || told.books) channel?.postMessage(told);
}

/** Hears what the other windows tell. */
export function onTold(hear: (told: Told) => void): void {
  channel?.addEventListener('message', (e: MessageEvent<Told>) => hear(e.data));
}

/**
 * Runs what only one window of a tablet may do at a time, such as a round of sync; null when another one is at it. Where the
 * browser has no locks it runs.
 */
export async function inOneTab<T>(name: string, work: () => Promise<T>): Promise<T | null> {
  if (typeof navigator === 'undefined' || !navigator.locks) return work();
  return navigator.locks.request(`careful-seam-${name}`, { ifAvailable: true }, (lock) => (lock ? work() : null));
}
