import type { Entry } from './entry';
import { PhotoUse } from './places';

/** Every picture somewhere in what an entry says, at any depth. */
function within(value: unknown): string[] {
  if (typeof value !== 'object' || value === null) return [];
  if (Array.isArray(value)) return value.flatMap(within);
  const use = 'hash' in value ? PhotoUse.safeParse(value) : null;
  return use?.success ? [use.data.hash] : Object.values(value).flatMap(within);
}

/** Hashes of every picture that the entries name, each once, wherever in an entry it is named. */
export const photosNeeded = (entries: readonly Entry[]): string[] => [
  ...new Set(entries.flatMap((e) => within(e.body))),
];
