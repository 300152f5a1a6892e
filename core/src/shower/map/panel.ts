import type { Point2, Point3 } from '../geometry/point';
import type { ShowerModel } from '../geometry/showerModel';

/** One seam as drawn on a panel, true length, from its start; `echo` marks a second drawing of the same seam. */
export interface DrawnSeam {
  seam: string;
  points: Point2[];
  echo: boolean;
}

/** A face as it is drawn on a panel, mm. */
export interface DrawnFace {
  face: string;
  outline: Point2[];
  /** Openings in it. */
  holes: Point2[][];
}

/** What is laid open as one piece. */
export const PANEL_KINDS = ['wall', 'plan', 'curb', 'niche', 'bench', 'ceiling'] as const;
/** One of them. */
export type PanelKind = (typeof PANEL_KINDS)[number];

/**
 * One flat part of the unfolded shower in its own coordinates, mm, y up. `letter` names walls and curbs in walking
 * order from the left as seen from inside, and the wall that a niche or a bench belongs to; walls and curbs stand
 * upright with y = height above the drain rim.
 */
export interface Panel {
  id: string;
  kind: PanelKind;
  letter: string | null;
  edge: number | null;
  lengthMm: number;
  faces: DrawnFace[];
  seams: DrawnSeam[];
  points: { element: string; at: Point2; diameterMm: number }[];
  box: { minX: number; minY: number; maxX: number; maxY: number };
  /** Where a part that is drawn beside its place belongs: a point in space on its wall or floor. */
  belongsAt: Point3 | null;
}

/** A face of the shower with the way it lies in a panel. */
export interface LaidFace {
  face: string;
  lay: (p: Point3) => Point2;
}

function boxOf(points: readonly Point2[]): Panel['box'] {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}

const same = (a: readonly Point2[], b: readonly Point2[]): boolean =>
  a.every((p, i) => Math.abs(p[0] - b[i]![0]) < 0.05 && Math.abs(p[1] - b[i]![1]) < 0.05);

/** A panel before its faces are laid. */
export interface PanelPlan {
  id: string;
  kind: PanelKind;
  letter: string | null;
  edge: number | null;
  lengthMm: number;
  laid: readonly LaidFace[];
  /** Seams of its faces that are drawn elsewhere only. */
  leaveOut?: (kind: ShowerModel['seams'][number]['kind']) => boolean;
  /** Seams whose first drawing is on another panel. */
  isEcho?: (kind: ShowerModel['seams'][number]['kind']) => boolean;
  belongsAt?: Point3 | null;
}

/** Draws a panel: its faces as they are laid, each seam of theirs once, and again where its two faces lie apart. */
export function makePanel(model: ShowerModel, plan: PanelPlan): Panel {
  const laid = new Map(plan.laid.map((l) => [l.face, l.lay]));
  const faces = model.faces
    .filter((f) => laid.has(f.id))
    .map((f) => {
      const lay = laid.get(f.id)!;
      return { face: f.id, outline: f.loop.map(lay), holes: f.rings.map((ring) => ring.map(lay)) };
    });
  const seams: DrawnSeam[] = [];
  for (const seam of model.seams) {
    if (plan.leaveOut?.(seam.kind)) continue;
    const echo = plan.isEcho?.(seam.kind) ?? false;
    const here = seam.faces.filter((f) => laid.has(f)).map((f) => seam.points.map(laid.get(f)!));
    here.forEach((points, k) => {
      if (k === 0 || !same(points, here[0]!)) seams.push({ seam: seam.id, points, echo: echo || k > 0 });
    });
  }
  const box = boxOf([...faces.flatMap((f) => f.outline), ...seams.flatMap((s) => s.points)]);
  const { laid: _laid, leaveOut: _leaveOut, isEcho: _isEcho, belongsAt = null, ...named } = plan;
  return { ...named, faces, seams, points: [], box, belongsAt };
}
