import { dot, minus, type Point2 } from '@careful-seam/core/shower/geometry/point';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { wallFrame } from '@careful-seam/core/shower/geometry/wallFrame';
import { type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';
import { pathOf } from './pathOf';

/** A thin line that ties a part drawn beside its place to its wall or the plan, while something of it is chosen. */
export function Leaders({
  model,
  panels,
  chosen,
}: {
  model: ShowerModel;
  panels: readonly PlacedPanel[];
  chosen: string | null;
}) {
  return panels.map((placed) => {
    const { faces, seams, points } = placed.panel;
    const holds =
      faces.some((f) => f.face === chosen) ||
      seams.some((d) => d.seam === chosen) ||
      points.some((p) => p.element === chosen);
    if (!holds) return null;
    const from = leaderOf(model, panels, placed);
    if (!from) return null;
    const to: Point2 = [Math.min(Math.max(from[0], placed.x), placed.x + placed.width), placed.y - 18];
    return (
      <g key={placed.panel.id} className="fill-none stroke-soft opacity-60" strokeWidth={0.8}>
        <circle cx={from[0]} cy={from[1]} r={2.5} className="fill-soft stroke-none" />
        <path d={pathOf([from, to])} />
      </g>
    );
  });
}

/** Where a part belongs on the sheet: a niche on its wall, all else on the plan. */
function leaderOf(model: ShowerModel, panels: readonly PlacedPanel[], { panel }: PlacedPanel): Point2 | null {
  const { belongsAt, edge } = panel;
  if (!belongsAt) return null;
  if (panel.kind !== 'niche' || edge === null) {
    const plan = panels.find((p) => p.panel.kind === 'plan')!;
    return toSheet(plan, [belongsAt[0], belongsAt[1]]);
  }
  const home = panels.find((p) => p.panel.kind === 'wall' && p.panel.edge === edge)!;
  const frame = wallFrame(model.geometry, edge);
  return toSheet(home, [dot(minus(belongsAt, frame.left), frame.right), belongsAt[2]]);
}
