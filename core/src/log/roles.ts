import type { EntryKind } from './bodies';

/** Who somebody is in the firm. */
export const ROLES = ['inspector', 'manager', 'crew-lead'] as const;
/** One of them. */
export type Role = (typeof ROLES)[number];

/** Who may say how something is. */
const INSPECTING: readonly Role[] = ['inspector', 'manager'];
/** Who may answer for what was built: asks for a look, says a defect is put right. That work is done is told by whoever saw it. */
const BUILDING: readonly Role[] = ['manager', 'crew-lead'];
/** Anybody who may sign in. */
const EVERYBODY: readonly Role[] = ROLES;

/** From the one who may least to the one who may most. */
const RANK: Record<Role, number> = { 'crew-lead': 0, inspector: 1, manager: 2 };

/** True when somebody of the role `actual` may write as `claimed`: their own role or one that may less. */
export const mayActAs = (actual: Role, claimed: Role): boolean => RANK[claimed] <= RANK[actual];

/** Who may write which kind of entry. Crew leads only on their own crew's showers; corrections have their own rule. */
export const ENTRY_RIGHTS: Record<EntryKind, readonly Role[]> = {
  'shower-created': INSPECTING,
  'geometry-set': INSPECTING,
  'rules-pinned': INSPECTING,
  'work-done': EVERYBODY,
  'look-requested': BUILDING,
  reading: INSPECTING,
  look: INSPECTING,
  photo: EVERYBODY,
  'climate-reading': INSPECTING,
  'defect-found': INSPECTING,
  'defect-assigned': INSPECTING,
  'defect-answered': BUILDING,
  redo: INSPECTING,
  'defect-closed': INSPECTING,
  'deviation-asked': EVERYBODY,
  'deviation-decided': ['manager'],
  'stage-released': INSPECTING,
  'stage-reopened': INSPECTING,
  'flood-started': INSPECTING,
  'flood-reading': INSPECTING,
  'flood-event': INSPECTING,
  'moisture-look': INSPECTING,
  'flood-ended': INSPECTING,
  'call-opened': INSPECTING,
  'call-tested': INSPECTING,
  'part-stripped': INSPECTING,
  'floor-watched': INSPECTING,
  'call-closed': INSPECTING,
  note: EVERYBODY,
  correction: EVERYBODY,
  'record-signed': INSPECTING,
};

/** True when people of that role may write entries of that kind. */
export function mayWrite(role: Role, kind: EntryKind): boolean {
  return ENTRY_RIGHTS[kind].includes(role);
}
