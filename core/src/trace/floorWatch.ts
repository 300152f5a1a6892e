import type { Symptom } from '../log/callBodies';
import type { Call } from '../log/state';

/**
 * For how long the floor stays dark, by the pictures of it: the longest time after a shower at which it was still dark or patchy, or else the
 * shortest at which it was dry. Hours; null where nobody watched it.
 */
export function watchedDarkHours({ watched }: Pick<Call, 'watched'>): number | null {
  const hours = (dry: boolean) => watched.filter((e) => (e.body.look === 'dry') === dry).map((e) => e.body.hours);
  const [dark, dry] = [hours(false), hours(true)];
  if (dark.length > 0) return Math.max(...dark);
  return dry.length > 0 ? Math.min(...dry) : null;
}

/** What was told, with what the pictures of the floor say in the place of what somebody remembered of it. */
export function symptomsOf(call: Pick<Call, 'opened' | 'watched'>): Symptom[] {
  const darkHours = watchedDarkHours(call);
  const { symptoms } = call.opened.body;
  if (darkHours === null) return symptoms;
  return symptoms.map(({ darkHours: _told, ...s }, k) => ({
    ...s,
    // It is one floor, whatever number of places was told.
    ...(k === 0 ? { darkHours } : {}),
    signs: s.signs.filter((sign) => sign !== 'dark-floor'),
  }));
}
