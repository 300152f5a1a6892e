import type { ShowerModel } from '../shower/geometry/showerModel';

/** Corners where a curb ends: at a wall beside it, or free. */
export function curbEnds(model: ShowerModel): Set<string> {
  const curb = (face: string) => face.startsWith('curb:');
  return new Set(
    model.corners
      .filter(
        (c) =>
          c.faces.some(curb) && c.faces.some((f) => f.startsWith('wall') || f.includes(':end-') || f === 'outside'),
      )
      .map((c) => c.id),
  );
}
