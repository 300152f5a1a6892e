import type { Requirement } from '../log/judgement';
import { type CheckKind, type CheckOf, isOf } from '../rules/checks/check';

/** What is asked of an element by a check of one kind. */
export type AskedOf<K extends CheckKind> = Requirement & { check: CheckOf<K> };

/** What is asked of one kind, in the order of the stages. */
export const askedOfKind = <K extends CheckKind>(requirements: readonly Requirement[], kind: K): AskedOf<K>[] =>
  requirements.filter((r): r is AskedOf<K> => isOf(r.check, kind));
