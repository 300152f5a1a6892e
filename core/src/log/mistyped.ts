import type { Body } from './bodies';
import { applyCorrections } from './corrections';
import { type Entry, type EntryOf, readBody } from './entry';
import { compareEntries, orderMs } from './order';
import { mayCorrect, SLIP_MS } from './who';

/** What is said of one place by one entry. */
export type StatementKind = 'reading' | 'look' | 'note';
/** One of them as it stands after corrections. */
export type Statement = { [K in StatementKind]: EntryOf<K> }[StatementKind];

/** What somebody said of a place, with what became of it. */
export interface Standing {
  /** As it stands now. */
  statement: Statement;
  /** As it was written first, where a correction says otherwise now. */
  first: Statement | null;
  /** Whether whoever asks may correct it: one's own, or any as a manager. */
  mayCorrect: boolean;
}

/** True where an entry speaks of an element at a stage. Shots of a survey and films have screens of their own. */
function speaksOf(e: Entry, stage: string, element: string): e is Statement {
  if (e.kind === 'reading')
    return e.body.stage === stage && e.body.place.element === element && !e.body.shot && !e.body.film;
  if (e.kind === 'look') return e.body.stage === stage && e.body.places.some((p) => p.element === element);
  return e.kind === 'note' && e.body.place?.element === element;
}

/**
 * All that stands of an element at a stage, the newest first. `who`: whoever asks. What was withdrawn is not in it; what was corrected
 * is there with what it was.
 */
export function statementsAt(
  entries: readonly Entry[],
  stage: string,
  element: string,
  who: Pick<Entry['author'], 'id' | 'role'>,
): Standing[] {
  const sorted = [...entries].sort(compareEntries);
  const { entries: standing, replacedAt } = applyCorrections(sorted, mayCorrect);
  const first = new Map(sorted.map((e) => [e.id, e]));
  return standing
    .filter((e): e is Statement => speaksOf(e, stage, element))
    .map((statement): Standing => {
      const written = first.get(statement.id) as Statement;
      const { kind: _kind, body: _body, ...rest } = written;
      const asked: EntryOf<'correction'> = {
        ...rest,
        kind: 'correction',
        author: { ...written.author, ...who },
        body: { target: written.id, action: 'withdraw' },
      };
      return {
        statement,
        first: replacedAt.has(statement.id) ? written : null,
        mayCorrect: mayCorrect(written, asked),
      };
    })
    .reverse();
}

/** The reading as it ought to have been typed, in the place of the one that was. Lengths in mm. */
export const readingCorrected = (
  { id, body }: EntryOf<'reading'>,
  { valueMm, typed, atMm }: Pick<Body<'reading'>, 'valueMm' | 'typed' | 'atMm'>,
  reason: string,
): Body<'correction'> => ({
  target: id,
  action: 'replace',
  body: { ...body, valueMm, typed: typed.slice(0, 40), atMm },
  reason,
});

/** Takes what was said back of one element: what was said of other places in the same breath stays. */
export function takenBack({ id, kind, body }: Statement, element: string, reason: string): Body<'correction'> {
  const rest = kind === 'look' ? body.places.filter((p) => p.element !== element) : [];
  if (rest.length === 0) return { target: id, action: 'withdraw', reason };
  return { target: id, action: 'replace', body: { ...body, places: rest }, reason };
}

/** What was said first and is said otherwise now, or no more. */
export interface CorrectionTold {
  /** The entry that was corrected. */
  entry: string;
  /** Which kind it is. */
  kind: Entry['kind'];
  /** Said otherwise, or not at all. */
  action: Body<'correction'>['action'];
  /** Stage, check and element that it spoke of, where it spoke of one. */
  stage: string | null;
  check: string | null;
  element: string | null;
  /** Of a reading: as it was first, and as it is now; mm. */
  firstMm: number | null;
  nowMm: number | null;
  /** Why, as whoever corrected it said. */
  reason: string;
  /** Name of who did, and when, by the clock of its device, ISO 8601. */
  by: string;
  at: string;
}

/** What drawings, rules and names became has lists of its own, and a signature is never corrected. */
const OWN_LISTS: ReadonlySet<Entry['kind']> = new Set([
  'shower-created',
  'geometry-set',
  'rules-pinned',
  'record-signed',
  'correction',
]);

/**
 * What was corrected or taken back later than a slip of the finger is ({@link SLIP_MS}), in the order in which it was written first: a
 * stranger sees what a reading was before it was what it is.
 */
export function correctionsTold(entries: readonly Entry[]): CorrectionTold[] {
  const sorted = [...entries].sort(compareEntries);
  const { decidedBy } = applyCorrections(sorted, mayCorrect);
  return sorted.flatMap((e): CorrectionTold[] => {
    if (OWN_LISTS.has(e.kind)) return [];
    const c = decidedBy.get(e.id);
    if (!c || orderMs(c.orderAt) - orderMs(e.orderAt) <= SLIP_MS) return [];
    const body = e.body as { stage?: string; check?: string; checks?: string[]; place?: { element: string } };
    const places = e.kind === 'look' || e.kind === 'redo' ? e.body.places : [];
    const now = e.kind === 'reading' && c.body.action === 'replace' ? readBody('reading', c.body.body) : null;
    return [
      {
        entry: e.id,
        kind: e.kind,
        action: c.body.action,
        stage: body.stage ?? null,
        check: body.check ?? body.checks?.[0] ?? null,
        element: body.place?.element ?? places[0]?.element ?? null,
        firstMm: e.kind === 'reading' ? e.body.valueMm : null,
        nowMm: now?.ok ? now.value.valueMm : null,
        reason: c.body.reason ?? '',
        by: c.author.name,
        at: c.observedAt,
      },
    ];
  });
}
