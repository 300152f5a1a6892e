import { done, type Outcome } from '../../outcome/outcome';
import { findCorners, findSeams } from '../seams/findSeams';
import { CORNER_KINDS, type Corner, type CornerKind, type Seam, type SeamKind } from '../seams/seam';
import { buildFaces, countEuler, type EulerCount } from './body';
import { checkGeometry } from './checkGeometry';
import { type Face, faceAreaMm2 } from './face';
import type { Point3 } from './point';
import { DRAIN_DIAMETER_MM, drainId, edgeId, type Penetration, type ShowerGeometry } from './showerGeometry';
import { onWall, wallFrame } from './wallFrame';

/** An opening as an element that is checked. */
export interface PenetrationElement {
  id: string;
  kind: Penetration['kind'];
  /** The face that it goes through. */
  face: string;
  /** Its middle, mm. */
  point: Point3;
  diameterMm: number;
}

/** The shower as built surface: everything that can be checked, each with its stable id. Lengths in mm. */
export interface ShowerModel {
  geometry: ShowerGeometry;
  faces: { id: string; kind: Face['kind']; edge: number | null; loop: Point3[]; rings: Point3[][]; areaMm2: number }[];
  seams: Seam[];
  corners: Corner[];
  penetrations: PenetrationElement[];
  /** Middle of the drain, mm. */
  drain: { id: string; point: Point3; diameterMm: number };
  totals: {
    seamMm: number;
    seamMmByKind: Partial<Record<SeamKind, number>>;
    cornersByKind: Record<CornerKind, number>;
    floorMm2: number;
  };
  euler: EulerCount;
}

function totals(seams: readonly Seam[], corners: readonly Corner[], faces: readonly Face[]): ShowerModel['totals'] {
  const seamMmByKind: Partial<Record<SeamKind, number>> = {};
  for (const s of seams) seamMmByKind[s.kind] = (seamMmByKind[s.kind] ?? 0) + s.lengthMm;
  const count = (kind: CornerKind) => corners.filter((c) => c.kind === kind).length;
  return {
    seamMm: seams.reduce((sum, s) => sum + s.lengthMm, 0),
    seamMmByKind,
    cornersByKind: Object.fromEntries(CORNER_KINDS.map((k) => [k, count(k)])) as Record<CornerKind, number>,
    floorMm2: faces.filter((f) => f.kind === 'floor').reduce((sum, f) => sum + faceAreaMm2(f), 0),
  };
}

/**
 * Builds faces, seams, corners and openings from the dimensions. Refuses what can't be built with the field that is
 * wrong. The same input always gives the same ids.
 */
export function showerModel(geometry: ShowerGeometry): Outcome<ShowerModel> {
  const checked = checkGeometry(geometry);
  if (!checked.ok) return checked;
  const faces = buildFaces(geometry);
  const seams = findSeams(geometry, faces);
  const corners = findCorners(faces);
  return done({
    geometry,
    faces: faces.map((f) => ({
      id: f.id,
      kind: f.kind,
      edge: f.edge,
      loop: f.loop,
      rings: f.rings,
      areaMm2: faceAreaMm2(f),
    })),
    seams,
    corners,
    penetrations: (geometry.penetrations ?? []).map((p) => ({
      id: `penetration:${p.id}`,
      kind: p.kind,
      face: `wall:${edgeId(geometry, p.edge)}`,
      point: onWall(wallFrame(geometry, p.edge), p.alongMm, p.heightMm),
      diameterMm: p.diameterMm,
    })),
    drain: {
      id: `drain:${drainId(geometry)}`,
      point: [geometry.drain.xMm, geometry.drain.yMm, 0],
      diameterMm:
        geometry.drain.kind === 'line' ? geometry.drain.widthMm : (geometry.drain.diameterMm ?? DRAIN_DIAMETER_MM),
    },
    totals: totals(seams, corners, faces),
    euler: countEuler(faces),
  });
}
