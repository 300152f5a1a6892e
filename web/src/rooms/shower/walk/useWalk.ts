import { lastStop, type Stop, stopFrom, walk } from '@careful-seam/core/checks/walk';
import { plannedReadings } from '@careful-seam/core/crews/plannedReadings';
import type { ShowerState } from '@careful-seam/core/log/state';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from '../../../tablet/store';

/** Stands in the address of a walk that was not at any stop yet. */
export const BEGIN = '1';

/** A walk through a stage, and the ways on and back. */
export interface Walk {
  /** All its stops in their order. */
  stops: readonly Stop[];
  /** Where one stands; null at the end of the way. */
  stop: Stop | null;
  /** A stop that was answered is looked at once more: after a value outside its limit, or going back. */
  isReview: boolean;
  /** How many stops still ask something. */
  left: number;
  /** Goes past this stop without an answer. */
  skip: () => void;
  /** The stop before this one; null at the first. */
  back: (() => void) | null;
  /** Stays at the stop that was answered just now. */
  stay: () => void;
  /** Goes on from what is looked at once more. */
  goOn: () => void;
  /** Begins anew with whatever was skipped or left. */
  again: () => void;
}

/**
 * The walk of a stage from the stop named in the address on. `cursor` is null while nobody walks; `onCursor` is told of each
 * stop that is come to.
 */
export function useWalk(
  state: ShowerState,
  stage: string,
  cursor: string | null,
  onCursor: (key: string) => void,
): Walk | null {
  const plan = useStore((s) => s.lookPlan);
  const [skipped, setSkipped] = useState<ReadonlySet<string>>(new Set());
  const [review, setReview] = useState<string | null>(null);
  const walks = cursor !== null;
  const stops = useMemo(
    () => (walks ? walk(state, stage, (r) => plannedReadings(state, plan, r)) : []),
    [walks, state, stage, plan],
  );
  const isKnown = stops.some((s) => s.key === cursor);
  const last = isKnown || !walks ? null : lastStop(state, stage, stops);
  const reviewed = stops.find((s) => s.key === review) ?? null;
  // Who comes back goes on where the last word was said, and where nothing is left behind it, from the beginning.
  const next = isKnown
    ? stopFrom(stops, cursor, skipped)
    : (stopFrom(stops, last, skipped) ?? stopFrom(stops, null, skipped));
  const stop = reviewed ?? next;
  const nextKey = next?.key ?? null;
  useEffect(() => {
    if (walks && nextKey !== null && nextKey !== cursor) onCursor(nextKey);
  }, [walks, nextKey, cursor, onCursor]);
  if (!walks) return null;

  const at = stop ? stops.indexOf(stop) : stops.length;
  const before = stops[at - 1];
  const goTo = (to: Stop) => {
    if (!to.isOpen) return setReview(to.key);
    setReview(null);
    setSkipped(new Set([...skipped].filter((key) => key !== to.key)));
    onCursor(to.key);
  };
  return {
    stops,
    stop,
    isReview: reviewed !== null,
    left: stops.filter((s) => s.isOpen).length,
    skip: () => {
      setReview(null);
      if (stop) setSkipped(new Set([...skipped, stop.key]));
    },
    back: before ? () => goTo(before) : null,
    stay: () => setReview(stop?.key ?? null),
    goOn: () => setReview(null),
    again: () => {
      setReview(null);
      setSkipped(new Set());
      const first = stopFrom(stops, null);
      if (first) onCursor(first.key);
    },
  };
}
