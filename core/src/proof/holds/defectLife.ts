import { judge } from '../../checks/judge';
import type { Defect } from '../../log/defect';
import type { Judgement } from '../../log/judgement';
import type { ShowerState } from '../../log/state';

/** Where a defect stands on its way: who has to do something about it follows from the step. */
export const DEFECT_STEPS = ['found', 'assigned', 'answered', 'redone', 'again', 'closed'] as const;
/** One of them. */
export type DefectStep = (typeof DEFECT_STEPS)[number];

/** True until the defect was looked at again and closed. */
export const isOpen = (defect: Defect): boolean => defect.closedAt === null;

const after = (a: number | undefined, b: number | undefined): boolean => a !== undefined && (b === undefined || a > b);

/**
 * found → assigned → answered (the crew says it is put right) → redone (written down as built again) → closed; a look
 * that finds it wrong still sends it back: again.
 */
export function defectStep(defect: Defect): DefectStep {
  if (!isOpen(defect)) return 'closed';
  const assigned = defect.assignments.at(-1);
  const answered = defect.answers.at(-1);
  if (defect.redoneAt !== null) return 'redone';
  if (after(answered?.seq, assigned?.seq)) return 'answered';
  if (assigned) return assigned.again ? 'again' : 'assigned';
  return answered ? 'answered' : 'found';
}

/** When it must be put right, ms since 1970, or null when nobody set a day. */
export const dueAtMs = (defect: Defect): number | null => defect.assignments.at(-1)?.dueAtMs ?? null;

/** True when its day is over and it is still open. What is overdue stops the next layer, whatever its severity; a note never. */
export function isOverdue(defect: Defect, nowMs: number): boolean {
  const due = dueAtMs(defect);
  return isOpen(defect) && defect.severity !== 'note' && due !== null && due < nowMs;
}

/** What a redo for this defect took the proof from and what has not been shown again since. */
export function toProveAgain(state: ShowerState, defect: Defect): Judgement[] {
  const redos = state.redos.filter((r) => r.body.defect === defect.id);
  const taken = redos.flatMap((r) => state.provedAgain.get(r.id) ?? []);
  const asked = state.requirements.filter((r) =>
    taken.some(
      (x) =>
        x.stage === r.stage.key &&
        x.check === r.check.id &&
        x.element === r.element &&
        (x.side === r.side || x.side === null),
    ),
  );
  return asked.map((r) => judge(state, r)).filter((j) => !j.satisfied);
}

const overlap = (a: Defect, b: Defect): boolean =>
  a.places.some((p) =>
    b.places.some(
      (q) =>
        p.element === q.element && (p.fromMm ?? 0) <= (q.toMm ?? Infinity) && (q.fromMm ?? 0) <= (p.toMm ?? Infinity),
    ),
  );

/** Earlier defects that this one repeats: those a person linked, and those on the same stretch of the same part. */
export function repeatsOf(state: ShowerState, defect: Defect): Defect[] {
  const all = [...state.defects.values()];
  const earlier = all.slice(0, all.indexOf(defect));
  return earlier.filter((d) => d.id === defect.repeats || overlap(d, defect));
}
