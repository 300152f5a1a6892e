import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { anyMm, lengthMm, positiveMm } from '../units/bounded';

/** A drain flange as a short level reads it both ways. */
export const FlangeLevelInput = z.object({
  /** Height of the flange's left over its right and of its front over its back end, read over this length, mm. */
  leftOverRightMm: anyMm,
  frontOverBackMm: anyMm,
  overMm: positiveMm,
  diameterMm: positiveMm,
  limitMm: lengthMm,
});
/** Readings across a flange. */
export type FlangeLevelInput = z.infer<typeof FlangeLevelInput>;

/** How far out of level the flange is, and where to raise it. */
export interface FlangeLevel {
  /** How much the lowest point of the rim lies under its highest, mm, and the tilt in degrees. */
  outMm: number;
  /** How far it hangs, degrees. */
  tiltDeg: number;
  /** Where to raise it: clock degrees from the back (0), to the right (90), and how far at the rim, mm. */
  raiseAtDeg: number | null;
  /** By how much its low side is raised, mm. */
  raiseMm: number;
  /** Fails where the rim is further out than the limit. */
  verdict: 'pass' | 'fail';
}

/** How far a flange is out of level from a bubble read two ways, which side to raise and by how much. */
export function flangeLevel({
  leftOverRightMm,
  frontOverBackMm,
  overMm,
  diameterMm,
  limitMm,
}: FlangeLevelInput): Outcome<FlangeLevel> {
  // Slope to the right and to the back, rise / run: where it falls, it is raised.
  const [toRight, toBack] = [-leftOverRightMm / overMm, -frontOverBackMm / overMm];
  const slope = Math.hypot(toRight, toBack);
  const outMm = slope * diameterMm;
  const lowDeg = ((Math.atan2(-toRight, -toBack) * 180) / Math.PI + 360) % 360;
  return done({
    outMm,
    tiltDeg: (Math.atan(slope) * 180) / Math.PI,
    raiseAtDeg: slope < 1e-9 ? null : lowDeg,
    raiseMm: outMm,
    verdict: outMm > limitMm + 1e-9 ? 'fail' : 'pass',
  });
}

/** A drain pipe that is to be cut to height. */
export const PipeCutInput = z.object({
  /** From the highest ridge that the pipe stands over to the flange's underside, spacer in place, mm. */
  ridgeToFlangeMm: positiveMm,
  /** How far the pipe stays standing within a socket that the flange brings, mm. */
  socketMm: lengthMm.default(0),
  /** What the first cut leaves standing to be taken off in small steps, mm. */
  reserveMm: lengthMm,
});
/** A pipe and the drain that it must meet. */
export type PipeCutInput = z.input<typeof PipeCutInput>;

/** What comes off, in two cuts: what is off can’t be put back. */
export interface PipeCut {
  /** What comes off the pipe in all, and at the first cut, mm. */
  cutOffMm: number;
  /** What the first cut takes off, mm. */
  firstCutOffMm: number;
}

/**
 * What is cut off a drain pipe so that the flange comes down to its seat. The first cut takes less by the reserve:
 * a pipe too long is cut again, a pipe too short is a new pipe. Neither is ever below zero.
 */
export function pipeCut({ ridgeToFlangeMm, socketMm = 0, reserveMm }: PipeCutInput): Outcome<PipeCut> {
  const cutOffMm = Math.max(0, ridgeToFlangeMm - socketMm);
  return done({ cutOffMm, firstCutOffMm: Math.max(0, cutOffMm - reserveMm) });
}

/** A room in the rough, whose drain shall stand in the middle of the finished floor. */
export const DrainCentreInput = z.object({
  widthMm: positiveMm,
  depthMm: positiveMm,
  /** Width of the curb, and whether it stands within that depth. */
  curbMm: lengthMm,
  curbWithin: z.boolean(),
  /** Thickness of board and finish on each wall, mm. */
  boardMm: lengthMm,
});
/** Where walls and curb will stand. */
export type DrainCentreInput = z.infer<typeof DrainCentreInput>;

/** Middle of the finished floor from the bare left wall and the bare front, mm: where a centred drain stands. */
export function drainCentre({
  widthMm,
  depthMm,
  curbMm,
  curbWithin,
  boardMm,
}: DrainCentreInput): Outcome<{ xMm: number; yMm: number; widthMm: number; depthMm: number }> {
  const inner = { widthMm: widthMm - 2 * boardMm, depthMm: depthMm - boardMm - (curbWithin ? curbMm : 0) };
  return done({
    xMm: widthMm / 2,
    yMm: (curbWithin ? curbMm : 0) + inner.depthMm / 2,
    ...inner,
  });
}
