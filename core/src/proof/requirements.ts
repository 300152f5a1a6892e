import type { ShowerModel } from '../geometry/showerModel';
import type { Check, Method } from '../rules/ruleBook';
import type { Requirement } from './state';

/** The element of checks that concern the shower as one. */
export const WHOLE_SHOWER = 'shower';

type Target = Pick<Requirement, 'element' | 'side' | 'lengthMm' | 'hasLength'>;

const whole = (element: string): Target => ({ element, side: null, lengthMm: 1, hasLength: false });

function targets(model: ShowerModel, check: Check): Target[] {
  const { on } = check;
  switch (on.element) {
    case 'seam':
      return model.seams
        .filter((s) => on.kinds.includes(s.kind))
        .flatMap((s) => {
          const sides = on.sides === 'each' && s.faces.length > 1 ? s.faces : [null];
          return sides.map((side) => ({ element: s.id, side, lengthMm: s.lengthMm, hasLength: true }));
        });
    case 'corner':
      return model.corners.map((c) => whole(c.id));
    case 'penetration':
      return model.penetrations.map((p) => whole(p.id));
    case 'drain':
      return [whole(model.drain.id)];
    case 'shower':
      return [whole(WHOLE_SHOWER)];
    case 'face':
      return model.faces.filter((f) => on.kinds.includes(f.kind)).map((f) => whole(f.id));
  }
}

/** Everything a method asks of a shower: each check on each element (and side) it applies to, in stage order. */
export function requirementsOf(model: ShowerModel, method: Method): Requirement[] {
  const stages = [...method.stages].sort((a, b) => a.order - b.order);
  return stages.flatMap((stage) =>
    stage.checks.flatMap((check) => targets(model, check).map((target) => ({ stage, check, ...target }))),
  );
}
