import { applyCorrections } from './corrections';
import type { Entry, EntryOf } from './entry';
import { compareEntries } from './order';
import { mayCorrect } from './who';

/** The first entry of a shower as it stands with all corrections of it; null where none is among these, or where it was withdrawn. */
export function createdAsItStands(entries: readonly Entry[]): EntryOf<'shower-created'> | null {
  const some = entries.filter((e) => e.kind === 'shower-created' || e.kind === 'correction');
  const standing = applyCorrections([...some].sort(compareEntries), mayCorrect).entries;
  return standing.find((e) => e.kind === 'shower-created') ?? null;
}

/** Crews that work on a shower beside its own: those that a stage was handed to, each once. */
export const alsoCrews = ({ crewId, stageCrews }: EntryOf<'shower-created'>['body']): string[] =>
  [...new Set(Object.values(stageCrews ?? {}))].filter((crew) => crew !== crewId).sort();
