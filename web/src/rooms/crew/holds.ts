import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { type DefectStep, defectStep, dueAtMs, isOpen } from '@careful-seam/core/proof/holds/defectLife';
import type { Seam } from '@careful-seam/core/shower/seams/seam';
import { showLength } from '@careful-seam/core/units/length';
import { defectKindLabel, limitWords, type ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Words } from '@careful-seam/words/texts/language';
import { faceName, placesName } from '@careful-seam/words/texts/names';

/** One thing that a crew has to put right, in plain words. */
export interface Hold {
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** How far it has come. */
  step: DefectStep;
  /** Its place, in words. */
  where: string;
  /** What is wrong, in words. */
  what: string;
  /** What it looks like when it is right. */
  right: string;
  /** What the inspector wrote for the crew. */
  words: string;
  /** By when it must be right, ms since 1970; null without a day. */
  dueMs: number | null;
}

/** What right looks like: the limit that was not kept. */
function rightWords(t: Words, state: ShowerState, defect: Defect, unit: ShownUnit): string {
  const stage = state.rules!.method.stages.find((s) => s.key === defect.stage);
  const check = stage?.checks.find((c) => c.id === defect.check);
  if (!check)
    return (
      stage?.checks
        .map((c) => c.label)
        .slice(0, 1)
        .join('') ?? ''
    );
  const limit = limitWords(t, check, unit);
  return t('crew.right', { check: check.label, limit: limit ? ` (${limit})` : '', why: check.why });
}

/** A seam that stands is measured from its lower end, one that lies from its left one. */
const isUpright = (seam: Seam): boolean => seam.highMm - seam.lowMm > seam.lengthMm * 0.7;

/** What was found: the figure that failed, or the kind of defect. */
function whatWords(t: Words, state: ShowerState, defect: Defect, unit: ShownUnit): string {
  const kind = defectKindLabel(state.rules!.book, defect.kind, defect.check);
  const model = state.geometry!.model;
  const at = defect.places.flatMap(({ element, fromMm, toMm }) => {
    const seam = state.seamById.get(element);
    if (!seam || fromMm === undefined || toMm === undefined) return [];
    const end = t(isUpright(seam) ? 'crew.lowerEnd' : 'crew.leftEnd');
    return [t('crew.stretch', { from: showLength(fromMm, unit), to: showLength(toMm, unit), end })];
  });
  const sides = defect.places.flatMap(({ side }) => (side ? [t('side', { part: faceName(t, model, side) })] : []));
  const value = defect.valueMm === null ? '' : t('crew.measured', { value: showLength(defect.valueMm, unit) });
  return [kind, value, ...new Set([...sides, at.join('; ')])].filter((part) => part !== '').join(', ');
}

/** Nothing is said of it yet that waits for a look: it is for the crew to put right. */
export const isToFix = ({ step }: Hold): boolean => step !== 'answered' && step !== 'redone';

/** When the first of them must be right, ms since 1970; endless where none has a day. */
export const firstDueMs = (holds: readonly Hold[]): number =>
  Math.min(Number.POSITIVE_INFINITY, ...holds.filter(isToFix).map((h) => h.dueMs ?? Number.POSITIVE_INFINITY));

/** Everything of a shower that its crew has to put right; what is due first comes first, answered things last. */
export function holdsOf(t: Words, state: ShowerState, unit: ShownUnit): Hold[] {
  if (!state.geometry || !state.rules) return [];
  const model = state.geometry.model;
  return [...state.defects.values()]
    .filter((d) => isOpen(d) && d.severity !== 'note')
    .map((defect) => ({
      defect,
      step: defectStep(defect),
      where: placesName(t, model, defect.places),
      what: whatWords(t, state, defect, unit),
      right: rightWords(t, state, defect, unit),
      words: [defect.words, defect.assignments.at(-1)?.words ?? ''].filter((w) => w !== '').join('. '),
      dueMs: dueAtMs(defect),
    }))
    .sort((a, b) => Number(isToFix(b)) - Number(isToFix(a)) || (a.dueMs ?? Infinity) - (b.dueMs ?? Infinity));
}
