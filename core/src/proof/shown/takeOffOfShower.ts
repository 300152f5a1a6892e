import { askedOfKind } from '../../checks/asked';
import { filmAreas, filmLimits } from '../../checks/film';
import { partOfFace } from '../../checks/requirements';
import type { ShowerState } from '../../log/state';
import { type FilmNeed, type TakeOffLine, takeOff } from '../../materials/takeOff';
import { methodsInUse, methodsOfParts } from '../../rules/combineMethods';
import { findMethod } from '../../rules/ruleBook';
import { PARTS } from '../../shower/geometry/parts';

/** The film that a method's parts need, by the check that asks for it; null where it coats nothing. */
function filmOf(state: ShowerState, key: string): FilmNeed | null {
  const byPart = methodsOfParts(state.rules!.pinned);
  const found = askedOfKind(state.requirements, 'film').find(({ check }) =>
    (check.parts ?? PARTS).some((p) => byPart[p] === key),
  )?.check;
  if (!found) return null;
  return { areas: filmAreas(state.geometry!.model, found), limits: filmLimits(found) };
}

/** What a shower uses, by each method that builds a part of it. Empty without rules or dimensions. */
export function showerTakeOff(state: ShowerState): TakeOffLine[] {
  const { rules, geometry } = state;
  if (!rules || !geometry) return [];
  const byPart = methodsOfParts(rules.pinned);
  const parts = new Map(geometry.model.faces.map((f) => [f.id, partOfFace(f.kind)]));
  return methodsInUse(rules.pinned).flatMap((key) => {
    const method = findMethod(rules.book, key);
    const counts = (faces: readonly string[]) =>
      faces.some((f) => {
        const part = parts.get(f);
        return part != null && byPart[part] === key;
      });
    return method ? takeOff(geometry.model, method.takeOff, counts, filmOf(state, key)) : [];
  });
}

/** What was used of each item, as it was last told; null where nobody told. */
export function usedOf(state: ShowerState): Readonly<Record<string, number>> | null {
  const looks = (state.evidence.get('shower') ?? []).filter((e) => e.used && !e.voided);
  return looks.at(-1)?.used ?? null;
}
