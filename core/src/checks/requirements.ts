import type { Requirement } from '../log/judgement';
import type { Check } from '../rules/checks/check';
import type { Method } from '../rules/ruleBook';
import type { FaceKind } from '../shower/geometry/face';
import type { Part } from '../shower/geometry/parts';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { onThisDrawing } from './raisedLimits';

/** The element of checks that concern the shower as one. */
export const WHOLE_SHOWER = 'shower';

/** An element, or one side of a seam, that something is asked of. */
type Target = Pick<Requirement, 'element' | 'side' | 'lengthMm' | 'hasLength'>;

/** An element without a length. */
const whole = (element: string): Target => ({ element, side: null, lengthMm: 1, hasLength: false });

/** The part of the shower that a face belongs to; null for what only closes the body. */
export function partOfFace(kind: FaceKind): Part | null {
  if (kind === 'outside') return null;
  if (kind === 'floor' || kind === 'ceiling' || kind === 'outside-floor') return kind;
  if (kind.startsWith('wall')) return 'walls';
  return kind.startsWith('curb') ? 'curb' : kind.startsWith('niche') ? 'niche' : 'bench';
}

/** Whether a side of the footprint is an outside wall of the house. */
function isOutsideWall({ geometry }: ShowerModel, edge: number): boolean {
  const side = geometry.edges[edge];
  return side?.kind === 'wall' && side.outsideWall === true;
}

/** Everything on a drawing that a check is asked of. */
function targets(model: ShowerModel, check: Check, methods: Readonly<Record<Part, string>> | null): Target[] {
  const { on } = check;
  const parts = new Map(model.faces.map((f) => [f.id, partOfFace(f.kind)]));
  const counts = (face: string) => {
    const part = parts.get(face) ?? null;
    return !check.parts || (part !== null && check.parts.includes(part));
  };
  const kinds = new Map(model.faces.map((f) => [f.id, f.kind]));
  const any = (faces: readonly string[]) => faces.some(counts);
  switch (on.element) {
    case 'seam':
      return model.seams
        .filter((s) => on.kinds.includes(s.kind) && any(s.faces))
        .filter((s) => !on.beside || s.faces.some((f) => on.beside!.includes(kinds.get(f)!)))
        .flatMap((s) => {
          const both = on.sides === 'each' && s.faces.length > 1;
          const sides = both ? s.faces.filter(counts) : [null];
          return sides.map((side) => ({ element: s.id, side, lengthMm: s.lengthMm, hasLength: true }));
        });
    case 'transition':
      return model.seams
        .filter((s) => new Set(s.faces.flatMap((f) => methodOf(parts.get(f) ?? null, methods))).size > 1)
        .map((s) => ({ element: s.id, side: null, lengthMm: s.lengthMm, hasLength: true }));
    case 'corner':
      return model.corners.filter((c) => any(c.faces)).map((c) => whole(c.id));
    case 'penetration':
      return model.penetrations.filter((p) => counts(p.face)).map((p) => whole(p.id));
    case 'drain':
      return [whole(model.drain.id)];
    case 'shower':
      return [whole(WHOLE_SHOWER)];
    case 'face':
      return model.faces
        .filter((f) => on.kinds.includes(f.kind) && counts(f.id))
        .filter((f) => !on.inWall || (f.edge !== null && isOutsideWall(model, f.edge)))
        .filter((f) => !on.sides || on.sides.includes(f.id.split(':')[2] ?? ''))
        .map((f) => whole(f.id));
  }
}

/** The method that builds a part; none for what is no part. */
function methodOf(part: Part | null, methods: Readonly<Record<Part, string>> | null): string[] {
  return part && methods ? [methods[part]] : [];
}

/**
 * Everything a method asks of a shower: each check on each element (and side) it applies to, in stage order. `methods`
 * says which method each part is built by; without it there are no transitions.
 */
export function requirementsOf(
  model: ShowerModel,
  method: Method,
  methods: Readonly<Record<Part, string>> | null = null,
): Requirement[] {
  const stages = [...method.stages].sort((a, b) => a.order - b.order);
  return stages.flatMap((stage) =>
    stage.checks.flatMap((check) =>
      targets(model, check, methods).map((target) => ({
        stage,
        ...onThisDrawing(model, method, check, target.element),
        ...target,
      })),
    ),
  );
}
