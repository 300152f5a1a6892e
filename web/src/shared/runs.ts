import { judgeOf } from '@careful-seam/core/checks/judges';
import { placeOf } from '@careful-seam/core/checks/place';
import type { LookGroup } from '@careful-seam/core/checks/walk';
import type { Requirement } from '@careful-seam/core/log/judgement';
import type { Place } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';

/** How far one answer reaches: this element, a stretch of it, all of its kind, or all that touches its wall. */
export type Scope = 'this' | 'stretch' | 'kind' | 'wall';

/** What kind of thing an element is. */
function kindOf(state: ShowerState, element: string): string {
  const model = state.geometry!.model;
  const seam = state.seamById.get(element);
  if (seam) return seam.kind;
  if (model.corners.some((c) => c.id === element)) return 'corner';
  if (model.penetrations.some((p) => p.id === element)) return 'penetration';
  return model.faces.find((f) => f.id === element)?.kind ?? 'drain';
}

/** The faces that an element lies on. */
function facesOf(state: ShowerState, element: string): string[] {
  const model = state.geometry!.model;
  const found = state.seamById.get(element) ?? model.corners.find((c) => c.id === element);
  if (found) return found.faces;
  const hole = model.penetrations.find((p) => p.id === element);
  return hole ? [hole.face] : [element];
}

/** The wall that a run "all of wall B" means for an element, or null when it touches none. */
export function wallOf(state: ShowerState, element: string): string | null {
  return facesOf(state, element).find((f) => f.startsWith('wall:')) ?? null;
}

/** The elements that a look is meant for: this one, those like it, or those of its wall. */
function elementsIn(state: ShowerState, stage: string, element: string, scope: Scope): string[] {
  const asked = [...new Set(state.requirements.filter((r) => r.stage.key === stage).map((r) => r.element))];
  if (scope === 'this' || scope === 'stretch') return [element];
  if (scope === 'kind') return asked.filter((e) => kindOf(state, e) === kindOf(state, element));
  const wall = wallOf(state, element);
  return asked.filter((e) => wall !== null && facesOf(state, e).includes(wall));
}

/** One answer spread over a run: elements that share the same checks go together, one look each group. */
export function lookGroups(
  state: ShowerState,
  stage: string,
  element: string,
  scope: Scope,
  stretch: Partial<Place> = {},
): LookGroup[] {
  const groups = new Map<string, LookGroup>();
  for (const target of elementsIn(state, stage, element, scope)) {
    const asked = state.requirements.filter((r) => r.stage.key === stage && r.element === target);
    const checks = [...new Set(asked.filter(wantsLook).map((r) => r.check.id))];
    if (checks.length === 0) continue;
    const key = checks.join(' ');
    const group = groups.get(key) ?? { checks, places: [] };
    group.places.push(placeOf(state, target, scope === 'stretch' ? stretch : {}));
    groups.set(key, group);
  }
  return [...groups.values()];
}

/** True when a look alone answers the check, wholly or as a part of it; what shows a proof has to be named. */
function wantsLook(r: Requirement): boolean {
  return judgeOf(r.check).wantsLook?.(r.check) === true;
}
