import { type Entry, type EntryOf, readBody } from './entry';

/** Entries after corrections, in order, and those that lost their ground: listed, never dropped. */
export interface Corrected {
  entries: Entry[];
  /** Entry ids whose own content was withdrawn. */
  withdrawn: Set<string>;
  /** Corrections that did not apply: unknown target, or a body that does not fit. */
  stray: EntryOf<'correction'>[];
}

/**
 * Applies corrections: each takes its target's place in the order; the last by order wins; a correction can itself be
 * withdrawn or replaced. `sorted` must be in `compareEntries` order.
 */
export function applyCorrections(sorted: readonly Entry[]): Corrected {
  const byTarget = new Map<string, EntryOf<'correction'>[]>();
  for (const e of sorted) {
    if (e.kind !== 'correction') continue;
    const list = byTarget.get(e.body.target);
    if (list) list.push(e);
    else byTarget.set(e.body.target, [e]);
  }
  if (byTarget.size === 0) return { entries: [...sorted], withdrawn: new Set(), stray: [] };
  const ids = new Set(sorted.map((e) => e.id));
  const withdrawn = new Set<string>();
  const stray: EntryOf<'correction'>[] = [];

  const effective = (e: Entry, depth: number): Entry | null => {
    if (depth > 50) return e;
    const standing = (byTarget.get(e.id) ?? [])
      .map((c) => effective(c, depth + 1))
      .filter((c): c is EntryOf<'correction'> => c?.kind === 'correction');
    const last = standing.at(-1);
    if (!last) return e;
    if (last.body.action === 'withdraw') return null;
    const body = readBody(e.kind, last.body.body);
    if (body.ok) return { ...e, body: body.value } as Entry;
    stray.push(last);
    return e;
  };

  const entries: Entry[] = [];
  for (const e of sorted) {
    if (e.kind === 'correction') {
      if (!ids.has(e.body.target)) stray.push(e);
      continue;
    }
    const result = effective(e, 0);
    if (result) entries.push(result);
    else withdrawn.add(e.id);
  }
  return { entries, withdrawn, stray };
}
