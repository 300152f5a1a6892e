import type { EntryKind } from '@careful-seam/core/log/bodies';
import { SAME_TAP_MS } from '../ui/fingerGuard';

/** What was written last: the same again within a moment is a double tap. */
const lastWritten: { key: string; atMs: number; written: Promise<string[]> | null } = {
  key: '',
  atMs: 0,
  written: null,
};

/** What drafts say, without the ids that were made for them: two taps on the same key say the same. */
export const sameDrafts = (drafts: readonly { kind: EntryKind; body: unknown; id?: string }[]): string => {
  const ids = new Set(drafts.flatMap((d) => (d.id ? [d.id] : [])));
  return JSON.stringify(
    drafts.map(({ kind, body }) => ({ kind, body })),
    (_key, value: unknown) => (typeof value === 'string' && ids.has(value) ? '' : value),
  );
};

/** Writes once for a double tap: what says the same while it is being written, or at once after, is the same writing. */
export function onceFor(key: string, write: () => Promise<string[]>, nowMs = Date.now()): Promise<string[]> {
  if (lastWritten.written && lastWritten.key === key && nowMs - lastWritten.atMs < SAME_TAP_MS)
    return lastWritten.written;
  const written = write();
  Object.assign(lastWritten, { key, atMs: nowMs, written });
  // What failed may be tried again at once.
  written.catch(() => {
    if (lastWritten.written === written) lastWritten.written = null;
  });
  return written;
}
