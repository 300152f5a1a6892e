import type { Entry } from '@careful-seam/core/entries/entry';

/** Hashes of every picture that a shower's entries name. */
export function photosNeeded(entries: readonly Entry[]): string[] {
  const hashes = entries.flatMap((e) => {
    if (e.kind === 'photo') return [e.body.photo.hash];
    if (e.kind === 'defect-found' || e.kind === 'defect-answered') return e.body.photos.map((p) => p.hash);
    return [];
  });
  return [...new Set(hashes)];
}
