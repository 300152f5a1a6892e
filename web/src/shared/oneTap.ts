import { useSyncExternalStore } from 'react';
import { SAME_TAP_MS } from '../ui/fingerGuard';

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
 * Does what one tap means, unless keys that write with one tap rest: they do from the tap until what it means is on the tablet, and
 * at least for a moment, so that a second tap of the same finger never lands on what came under it. (The store keeps the same words
 * from being written twice; this keeps the next place from being given them.) What fails says so by itself; the keys live again.
 */
export function oneTap(act: () => Promise<unknown>): void {
  if (resting.now) return;
  rest(true);
  const moment = new Promise((done) => setTimeout(done, SAME_TAP_MS));
  void Promise.allSettled([act(), moment]).then(() => rest(false));
}
