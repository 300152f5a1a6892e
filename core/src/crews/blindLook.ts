import { judge } from '../checks/judge';
import { WHOLE_SHOWER } from '../checks/requirements';
import type { Entry } from '../log/entry';
import type { ShowerState } from '../log/state';
import { done, type Outcome } from '../outcome/outcome';
import { isOpen } from '../proof/holds/defectLife';
import { BLIND_VERDICTS, type BlindAnswer, type BlindVerdict } from './codes';
import { kappa } from './kappa';
import { clopperPearson } from './rateInterval';

/** What one inspector said, by element. */
export type BlindAnswers = Readonly<Record<string, BlindAnswer>>;

/** A question that can be asked blind, with the places of which the record says nothing yet. */
export interface BlindQuestion {
  /** Key of the stage. */
  stage: string;
  /** Id of the check. */
  check: string;
  /** Elements, in the order of the drawing. */
  places: string[];
}

/**
 * What two inspectors can be asked of a shower so that neither knows the other's answer: questions that are answered by looking, at
 * places where nothing was answered, found or covered. A place of which the record already says something would only be copied. A
 * stage on which nobody told work shows nothing to look at.
 */
export function blindQuestions(state: ShowerState): BlindQuestion[] {
  const marred = new Set([...state.defects.values()].filter(isOpen).flatMap((d) => d.places.map((p) => p.element)));
  const found = new Map<string, BlindQuestion & { taken: Set<string> }>();
  for (const r of state.requirements) {
    if (r.check.kind !== 'looked' || r.check.proof || r.element === WHOLE_SHOWER) continue;
    const stage = state.stages.get(r.stage.key);
    if (!stage || !(stage.begun || stage.work.length > 0)) continue;
    const key = `${r.stage.key} ${r.check.id}`;
    const question = found.get(key) ?? { stage: r.stage.key, check: r.check.id, places: [], taken: new Set<string>() };
    found.set(key, question);
    const j = judge(state, r);
    const said = j.deviation !== null || j.verdict !== 'unseen' || j.seen.length + j.failed.length > 0;
    if (said || marred.has(r.element) || state.covered.has(r.element)) question.taken.add(r.element);
    if (!question.places.includes(r.element)) question.places.push(r.element);
  }
  return [...found.values()]
    .map(({ stage, check, places, taken }) => ({ stage, check, places: places.filter((p) => !taken.has(p)) }))
    .filter((q) => q.places.length > 0);
}

/** Elements of which an entry says something to whoever reads the record: of this question, or a defect of any. */
function saysOf(entry: Entry, { stage, check }: BlindQuestion): string[] {
  if (entry.kind === 'defect-found') return [entry.body.place.element];
  if (entry.kind !== 'look' || entry.body.stage !== stage || !entry.body.checks.includes(check)) return [];
  return entry.body.places.map((p) => p.element);
}

/**
 * Places of a question where `by` could read in the record what somebody else saw there: their answer would not be blind. What was
 * taken back was read too.
 */
export function shownByOthers(entries: readonly Entry[], question: BlindQuestion, by: string): string[] {
  const shown = new Set(entries.filter((e) => e.author.id !== by).flatMap((e) => saysOf(e, question)));
  return question.places.filter((place) => shown.has(place));
}

/** Two inspectors' answers of the same places. */
export interface AnswerPair {
  /** Of the one who was named first. */
  first: BlindVerdict;
  /** Of the other. */
  second: BlindVerdict;
}

/** How far two see the same. */
export interface Agreement {
  /** Places that both answered. */
  places: number;
  /** Of which they said the same. */
  same: number;
  /** Of all places like these they say the same at this share and more, 95 of 100: the lower end of the exact interval. */
  sameAtLeast: number;
  /** First sound and second not, and the other way round. */
  onlySecond: number;
  onlyFirst: number;
  /** Both found it not sound. */
  both: number;
  /** Agreement beyond chance with its interval of 95 %; null where all was answered alike by both, or nothing was. */
  kappa: number | null;
  low: number | null;
  high: number | null;
}

/** An answer that says how a place is; null for none, and for one that could not be seen. */
const verdictOf = (answers: BlindAnswers, place: string): BlindVerdict | null =>
  BLIND_VERDICTS.find((v) => v === answers[place]) ?? null;

/** What both answered of each place; those that one of them was not asked or could not see are left out. */
export function pairsOf(first: BlindAnswers, second: BlindAnswers): (AnswerPair & { place: string })[] {
  return Object.keys(first).flatMap((place) => {
    const [one, other] = [verdictOf(first, place), verdictOf(second, place)];
    return one && other ? [{ place, first: one, second: other }] : [];
  });
}

/** Of every interval here. */
const CONFIDENCE = 0.95;

/** How far pairs of answers agree, beyond chance. */
export function agreement(pairs: readonly AnswerPair[]): Outcome<Agreement> {
  const count = (first: BlindVerdict, second: BlindVerdict) =>
    pairs.filter((p) => p.first === first && p.second === second).length;
  const [sound, onlySecond, onlyFirst, both] = [
    count('ok', 'ok'),
    count('ok', 'defect'),
    count('defect', 'ok'),
    count('defect', 'defect'),
  ];
  const counts = { places: pairs.length, same: sound + both, onlySecond, onlyFirst, both };
  if (pairs.length === 0) return done({ ...counts, sameAtLeast: 0, kappa: null, low: null, high: null });
  const told = { ...counts, sameAtLeast: clopperPearson(counts.same, pairs.length, CONFIDENCE).low };
  const found = kappa({
    table: [
      [sound, onlySecond],
      [onlyFirst, both],
    ],
  });
  return found.ok ? done({ ...told, ...found.value }) : found;
}
