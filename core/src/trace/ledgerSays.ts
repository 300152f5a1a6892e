import { judge } from '../checks/judge';
import { outsideFaces } from '../checks/waterProof';
import type { Judgement } from '../log/judgement';
import type { Call, ShowerState } from '../log/state';
import { isOpen } from '../proof/holds/defectLife';
import { type LinePiece, seamLine } from '../proof/shown/seamLine';
import type { Seam } from '../shower/seams/seam';
import { LEDGER_FACTORS, type LedgerWord, RATES } from './startingValues';
import { type Rates, type Said, type Suspect, suspectsOfModel } from './suspects';

/** What a piece of line says. */
const WORD_OF: Readonly<Record<LinePiece['state'], LedgerWord>> = {
  unseen: 'unseen',
  seen: 'seen',
  measured: 'measured',
  defect: 'defect',
  covered: 'covered',
  'not-required': 'not-asked',
};

/** The ledger over a seam, inch by inch. */
function ofSeam(state: ShowerState, seam: Seam, judgements: readonly Judgement[]): Pick<Said, 'factor' | 'says'> {
  const byWord = new Map<LedgerWord, number>();
  let factor = 0;
  for (const piece of seamLine(state, seam, judgements).pieces) {
    const word = WORD_OF[piece.state];
    const share = (piece.toMm - piece.fromMm) / seam.lengthMm;
    // What stood under water and was found sound is suspected less, whatever else is known of it; an open defect is one all the same.
    const wet = piece.water && word !== 'defect';
    factor += share * (wet ? Math.min(1, LEDGER_FACTORS[word]) * LEDGER_FACTORS.water : LEDGER_FACTORS[word]);
    const shown = wet ? 'water' : word;
    byWord.set(shown, (byWord.get(shown) ?? 0) + share);
  }
  const says = [...byWord].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'not-asked';
  return { factor: factor || 1, says };
}

/** The ledger over a corner, an opening, a drain. */
function ofPoint(
  state: ShowerState,
  { id, faces }: { id: string; faces: readonly string[] },
  heightMm: number,
  judgements: readonly Judgement[],
): Pick<Said, 'factor' | 'says'> {
  const asked = judgements.filter((j) => j.requirement.check.severity !== 'note');
  const defect = [...state.defects.values()].some((d) => isOpen(d) && d.places.some((p) => p.element === id));
  const below = state.flood?.provedBelowMm ?? null;
  // The proof's own line has its margin already; what is outside never stood in the water, however low it lies.
  const wet = below !== null && heightMm <= below && !outsideFaces(faces);
  const word: LedgerWord = defect
    ? 'defect'
    : state.covered.has(id)
      ? 'covered'
      : asked.length === 0
        ? 'not-asked'
        : asked.every((j) => j.satisfied)
          ? 'seen'
          : 'unseen';
  if (!wet || word === 'defect') return { factor: LEDGER_FACTORS[word], says: word };
  return { factor: Math.min(1, LEDGER_FACTORS[word]) * LEDGER_FACTORS.water, says: 'water' };
}

/** What a person set aside or built again there. */
function marksOf(state: ShowerState, id: string): Pick<Suspect, 'redone' | 'accepted'> {
  const accepted = [...state.deviations.values()].some(
    (d) => d.decision?.accepted === true && !d.ended && d.asked.place.element === id,
  );
  return { redone: state.redone.has(id), accepted };
}

/** Requirements by what they are asked of, judged. */
function judged(state: ShowerState): Map<string, Judgement[]> {
  const found = new Map<string, Judgement[]>();
  for (const r of state.requirements) {
    const list = found.get(r.element) ?? [];
    list.push(judge(state, r));
    found.set(r.element, list);
  }
  return found;
}

/**
 * Everything in a shower that may let water through, each by what its record says of it: an unseen corner is suspected more than one that
 * stood under water. `without` are defects that don't count: what a call found itself is no reason to have suspected it. Nothing where nothing
 * is drawn.
 */
export function suspectsOf(
  state: ShowerState,
  rates: Rates = RATES,
  without: ReadonlySet<string> = new Set(),
): Suspect[] {
  const model = state.geometry?.model;
  if (!model) return [];
  const judgements = judged(state);
  const defects = new Map([...state.defects].filter(([id]) => !without.has(id)));
  const seen = without.size === 0 ? state : { ...state, defects };
  return suspectsOfModel(model, {
    rates,
    method: state.rules?.method.key ?? null,
    saidOf: (element, seam, heightMm) => {
      const its = judgements.get(element.id) ?? [];
      const said = seam ? ofSeam(seen, seam, its) : ofPoint(seen, element, heightMm, its);
      return { ...said, ...marksOf(state, element.id) };
    },
  });
}

/** The stage at which what a call finds is found. */
export const CALL_BACK = 'call-back';

/** Defects that were written down at a call-back since a call was opened: its own finds. */
export const findsOf = (state: ShowerState, { opened }: Call): Set<string> =>
  new Set(
    [...state.defects.values()]
      .filter((d) => d.stage === CALL_BACK && Date.parse(d.observedAt) >= Date.parse(opened.observedAt))
      .map((d) => d.id),
  );
