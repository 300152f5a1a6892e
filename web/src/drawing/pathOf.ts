import type { Point2 } from '@careful-seam/core/shower/geometry/point';

/** An open SVG path through points, in sheet units. */
export const pathOf = (points: readonly Point2[]): string =>
  `M${points.map((p) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`).join('L')}`;
