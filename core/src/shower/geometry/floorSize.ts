import type { ShowerModel } from './showerModel';

/** How wide and how deep the floor's outline reaches, mm: the width first, as it is typed and told. */
export function floorSize(model: ShowerModel): { widthMm: number; depthMm: number } {
  const { loop } = model.faces[0]!;
  const reach = (axis: 0 | 1) => Math.max(...loop.map((p) => p[axis])) - Math.min(...loop.map((p) => p[axis]));
  return { widthMm: reach(0), depthMm: reach(1) };
}
