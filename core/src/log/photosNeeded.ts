import type { Entry } from './entry';

/** Hashes of every picture that the entries name, each once. */
export function photosNeeded(entries: readonly Entry[]): string[] {
  const hashes = entries.flatMap((e) => {
    if (e.kind === 'photo') return [e.body.photo.hash];
    if (e.kind === 'look') return (e.body.photos ?? []).map((p) => p.hash);
    if (e.kind === 'defect-found' || e.kind === 'defect-answered') return e.body.photos.map((p) => p.hash);
    if (e.kind === 'defect-closed' || e.kind === 'call-opened') return (e.body.photos ?? []).map((p) => p.hash);
    if (e.kind === 'call-tested' || e.kind === 'call-closed') return (e.body.photos ?? []).map((p) => p.hash);
    return [];
  });
  return [...new Set(hashes)];
}
