import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { type DefectStep, defectStep, dueAtMs, isOpen } from '@careful-seam/core/proof/holds/defectLife';
import { showLength } from '@careful-seam/core/units/length';
import { defectKindLabel, limitWords, type ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Words } from '@careful-seam/words/texts/language';
import { placesName } from '@careful-seam/words/texts/names';

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

/** What was found: the figure that failed, or the kind of defect. */
function whatWords(t: Words, state: ShowerState, defect: Defect, unit: ShownUnit): string {
  const kind = defectKindLabel(state.rules!.book, defect.kind, defect.check);
  const at = defect.places
    .flatMap(({ fromMm, toMm }) =>
      fromMm === undefined || toMm === undefined
        ? []
        : [t('crew.stretch', { from: showLength(fromMm, unit), to: showLength(toMm, unit) })],
    )
    .join('; ');
  const value = defect.valueMm === null ? '' : t('crew.measured', { value: showLength(defect.valueMm, unit) });
  return [kind, value, at].filter((part) => part !== '').join(', ');
}

/** Everything of a shower that its crew has to put right; what is due first comes first, answered things last. */
export function holdsOf(t: Words, state: ShowerState, unit: ShownUnit): Hold[] {
  if (!state.geometry || !state.rules) return [];
  const model = state.geometry.model;
  const waits = (step: DefectStep) => (step === 'answered' || step === 'redone' ? 1 : 0);
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
    .sort((a, b) => waits(a.step) - waits(b.step) || (a.dueMs ?? Infinity) - (b.dueMs ?? Infinity));
}
