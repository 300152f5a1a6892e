import type { LookAnswer } from '../log/bodies';
import type { Requirement } from '../log/judgement';
import type { Evidence } from '../log/state';
import { type Check, isOf } from '../rules/checks/check';
import { type Stretch, subtract, union } from '../shower/seams/intervals';
import type { Measured } from './found';

/** Evidence that counts: neither taken away nor to be looked at again. */
export const live = (e: Evidence): boolean => !e.voided && !e.lookAgain;

/**
 * Whether a look that says "sound" comes with what its check asks to be shown: a picture where a picture is asked, else the name of
 * what shows it. Looks that were written when none could hold a picture name where it is kept.
 */
export function showsProof(check: Check, { answer, shownBy, photos }: Evidence): boolean {
  if (!isOf(check, 'looked') || !check.proof || answer !== 'ok') return true;
  if (check.proof === 'photo') return photos === null ? shownBy !== null : photos.length > 0;
  return shownBy !== null || (photos ?? []).length > 0;
}

/** Answers by stretch, the latest look winning where two overlap. What waits for a manager stands apart. */
function paintLooks(looks: readonly Evidence[]): Record<LookAnswer | 'waits', Stretch[]> {
  const painted: Record<LookAnswer | 'waits', Stretch[]> = {
    ok: [],
    defect: [],
    'could-not-see': [],
    'not-applicable': [],
    waits: [],
  };
  let taken: Stretch[] = [];
  for (const look of [...looks].reverse()) {
    const here = subtract(subtract([look.stretch], look.voids), taken);
    painted[look.waitsForManager ? 'waits' : look.answer!].push(...here);
    taken = union([...taken, look.stretch]);
  }
  return painted;
}

/** What the looks at an element come to: its stretches by answer. */
export function judgeLooks({ lengthMm }: Requirement, looks: readonly Evidence[]) {
  const painted = paintLooks(looks);
  const whole = [{ fromMm: 0, toMm: lengthMm }];
  const seen = union([...painted.ok, ...painted['not-applicable']]);
  const failed = union(painted.defect);
  const missing = subtract(whole, [...seen, ...failed]);
  return {
    seen,
    failed,
    missing,
    /** Answered, and not so that it counts: what could not be seen, and what waits for a manager. */
    setAside: union([...painted['could-not-see'], ...painted.waits]),
    whole: missing.length === 0 && failed.length === 0,
    /** Not applicable over the whole element satisfies the check and stands in every record. */
    notApplicable: looks.length > 0 && subtract(whole, painted['not-applicable']).length === 0,
    waits: painted.waits.length > 0,
    /** All that is missing is a manager's word. */
    onlyWaits: missing.length > 0 && subtract(missing, painted.waits).length === 0,
  };
}
/** What looks say of a check at a place: stretches seen, failed and missing. */
export type Looked = ReturnType<typeof judgeLooks>;

/** The verdict of looks alone. */
export function lookedVerdict(l: Looked): Measured['verdict'] {
  if (l.failed.length > 0) return 'fail';
  return l.missing.length > 0 ? 'unseen' : 'pass';
}

/** The last look of a requirement that still stands, or null. */
export const lastLook = (looks: readonly Evidence[]): Evidence | null => looks.at(-1) ?? null;
