import { useSyncExternalStore } from 'react';

/** Keys that write with one tap rest so long after each: a second tap of the same finger never lands on what came under it, ms [common practice, no source]. */
const REST_MS = 400;

/** Whether such keys rest, and who wants to know. */
const resting = { now: false, listeners: new Set<() => void>() };

const rest = (now: boolean) => {
  resting.now = now;
  for (const tell of resting.listeners) tell();
};
const subscribe = (listener: () => void) => {
  resting.listeners.add(listener);
  return () => resting.listeners.delete(listener);
};

/** True while keys that write with one tap take no tap: from a tap until it is written, and for a moment. */
export const useResting = (): boolean => useSyncExternalStore(subscribe, () => resting.now);

/**
 * Does what one tap means, unless such keys rest: they do from the tap until what it means is on the tablet, and at least for a
 * moment. What fails says so by itself; the keys live again.
 */
export function oneTap(act: () => Promise<unknown>): void {
  if (resting.now) return;
  rest(true);
  const moment = new Promise((done) => setTimeout(done, REST_MS));
  void Promise.allSettled([act(), moment]).then(() => rest(false));
}
