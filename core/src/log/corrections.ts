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
  /** The correction that made an entry what it is, or that took it back, by the entry's id. */
  decidedBy: Map<string, EntryOf<'correction'>>;
}

/** Whether a correction may do what it says to its target, of which by then stands what other corrections left. */
export type MayCorrect = (target: Entry, correction: EntryOf<'correction'>, standing: Entry) => boolean;

/** What stands of an entry, and the correction that made it so; null where it stands as it was written. */
interface Decided {
  standing: Entry | null;
  by: EntryOf<'correction'> | null;
}

/** Nobody corrects corrections deeper than this; what does is left as it was written. */
const DEEPEST = 50;

/** Works out what stands of each entry. A class, since each correction is asked of what stood before it, and may itself be corrected. */
class Decisions {
  /** Corrections that did not apply: a body that does not fit. */
  readonly stray: EntryOf<'correction'>[] = [];
  /** Corrections whose author may not do what they come to. */
  readonly refused = new Set<string>();

  constructor(
    private readonly byTarget: ReadonlyMap<string, readonly EntryOf<'correction'>[]>,
    private readonly may: MayCorrect,
  ) {}

  /** Whether a correction may do what it says to an entry of which so much stands by now. */
  private permits(e: Entry, now: Entry | null, c: EntryOf<'correction'>): boolean {
    return this.may(e, c, now ?? e);
  }

  /** What an entry comes to by one correction; the same where its body does not fit. */
  private applied(e: Entry, before: Decided, c: EntryOf<'correction'>): Decided {
    if (c.body.action === 'withdraw') return { standing: null, by: c };
    const body = readBody(e.kind, c.body.body);
    if (body.ok) return { standing: { ...e, body: body.value } as Entry, by: c };
    this.stray.push(c);
    return before;
  }

  /**
   * A correction as it was corrected itself counts as what whoever did so says, and from when: a detour allows nothing that was not
   * allowed at once. What may not be done leaves the correction as it was written.
   */
  private asCorrected(e: Entry, before: Decided, c: EntryOf<'correction'>, over: Decided): Decided | null {
    const { standing, by } = over;
    if (by === null) return null;
    const later = { ...c, author: by.author, orderAt: by.orderAt };
    if (standing?.kind === 'correction') {
      const said = { ...later, body: standing.body };
      if (this.permits(e, before.standing, said)) return this.applied(e, before, said);
    } else {
      // Taken back: what stood before it stands again, which is said by whoever took it back.
      if (!this.permits(e, before.standing, c)) return before;
      const withIt = this.applied(e, before, c).standing;
      const body = before.standing
        ? { target: e.id, action: 'replace' as const, body: before.standing.body as Record<string, unknown> }
        : { target: e.id, action: 'withdraw' as const };
      if (withIt === null || this.permits(e, withIt, { ...later, body })) return before;
    }
    this.refused.add(by.id);
    return null;
  }

  /** What stands of an entry after all corrections of it, in their order: the last that applies wins. */
  decide(e: Entry, depth = 0): Decided {
    let now: Decided = { standing: e, by: null };
    if (depth > DEEPEST) return now;
    for (const c of this.byTarget.get(e.id) ?? []) {
      const corrected = this.asCorrected(e, now, c, this.decide(c, depth + 1));
      if (corrected) now = corrected;
      else if (this.permits(e, now.standing, c)) now = this.applied(e, now, c);
      else this.refused.add(c.id);
    }
    return now;
  }
}

/**
 * Applies corrections: each takes its target's place in the order; the last by order wins; a correction can itself be
 * withdrawn or replaced. `sorted` must be in `compareEntries` order; `may` says who may correct what, and is asked of what was written
 * first and of what stands by then.
 */
export function applyCorrections(sorted: readonly Entry[], may: MayCorrect = () => true): Corrected {
  const byTarget = new Map<string, EntryOf<'correction'>[]>();
  for (const e of sorted) {
    if (e.kind !== 'correction') continue;
    const list = byTarget.get(e.body.target);
    if (list) list.push(e);
    else byTarget.set(e.body.target, [e]);
  }
  const nothing = new Map<string, EntryOf<'correction'>>();
  if (byTarget.size === 0)
    return {
      ...{ entries: [...sorted], withdrawn: new Set(), stray: [], refused: new Set(), replacedAt: new Map() },
      decidedBy: nothing,
    };
  const ids = new Set(sorted.map((e) => e.id));
  const withdrawn = new Set<string>();
  const replacedAt = new Map<string, string>();
  const decidedBy = nothing;
  const decisions = new Decisions(byTarget, may);
  const entries: Entry[] = [];
  const lost: EntryOf<'correction'>[] = [];
  for (const e of sorted) {
    if (e.kind === 'correction') {
      if (!ids.has(e.body.target)) lost.push(e);
      continue;
    }
    const { standing, by } = decisions.decide(e);
    if (by) decidedBy.set(e.id, by);
    if (standing && by) replacedAt.set(e.id, by.orderAt);
    if (standing) entries.push(standing);
    else withdrawn.add(e.id);
  }
  const { stray, refused } = decisions;
  return { entries, withdrawn, stray: [...stray, ...lost], refused, replacedAt, decidedBy };
}
