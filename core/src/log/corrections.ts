import { type Entry, type EntryOf, readBody } from './entry';

/** Entries after corrections, in order, and those that lost their ground: listed, never dropped. */
export interface Corrected {
  /** The entries that are left when corrections are applied. */
  entries: Entry[];
  /** Entry ids whose own content was withdrawn. */
  withdrawn: Set<string>;
  /** Corrections that did not apply: unknown target, or a body that does not fit. */
  stray: EntryOf<'correction'>[];
  /** Corrections whose author may not touch their target. */
  refused: Set<string>;
  /** Entries that a standing correction replaced, with the orderAt of that correction. */
  replacedAt: Map<string, string>;
}

/** Whether a correction may touch its target. */
export type MayCorrect = (target: Entry, correction: EntryOf<'correction'>) => boolean;

/**
 * Applies corrections: each takes its target's place in the order; the last by order wins; a correction can itself be
 * withdrawn or replaced. `sorted` must be in `compareEntries` order; `may` says who may correct what.
 */
export function applyCorrections(sorted: readonly Entry[], may: MayCorrect = () => true): Corrected {
  const byTarget = new Map<string, EntryOf<'correction'>[]>();
  for (const e of sorted) {
    if (e.kind !== 'correction') continue;
    const list = byTarget.get(e.body.target);
    if (list) list.push(e);
    else byTarget.set(e.body.target, [e]);
  }
  if (byTarget.size === 0)
    return { entries: [...sorted], withdrawn: new Set(), stray: [], refused: new Set(), replacedAt: new Map() };
  const ids = new Set(sorted.map((e) => e.id));
  const withdrawn = new Set<string>();
  const stray: EntryOf<'correction'>[] = [];

  const refused = new Set<string>();
  const replacedAt = new Map<string, string>();
  const allowed = (target: Entry, c: EntryOf<'correction'>): boolean => {
    const fine = may(target, c);
    if (!fine) refused.add(c.id);
    return fine;
  };
  const effective = (e: Entry, depth: number): Entry | null => {
    if (depth > 50) return e;
    const standing = (byTarget.get(e.id) ?? [])
      .filter((c) => allowed(e, c))
      .map((c) => effective(c, depth + 1))
      .filter((c): c is EntryOf<'correction'> => c?.kind === 'correction');
    const last = standing.at(-1);
    if (!last) return e;
    if (last.body.action === 'withdraw') return null;
    const body = readBody(e.kind, last.body.body);
    if (body.ok) {
      replacedAt.set(e.id, last.orderAt);
      return { ...e, body: body.value } as Entry;
    }
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
  return { entries, withdrawn, stray, refused, replacedAt };
}
