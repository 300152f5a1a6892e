import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { lengthMm, positiveMm } from '../units/bounded';

/** The sides of a tray, seen from its front. */
const SIDES = ['left', 'right', 'front', 'back'] as const;
/** A side of a tray as one stands before it. */
export type TraySide = (typeof SIDES)[number];
/** A length for each side, mm. */
const sides = z.object({ left: z.number(), right: z.number(), front: z.number(), back: z.number() });

/** Narrower than this what is cut off is a sliver, mm: a saw can't hold it [common practice, no source]. */
const SLIVER_MM = 6;

/** A bought sloped tray and the opening it is cut for. */
export const TrayCutInput = z.object({
  /** The opening, and the drain's middle in it from the left and the front, mm. */
  opening: z.object({ widthMm: positiveMm, depthMm: positiveMm }),
  drain: z.object({ xMm: positiveMm, yMm: positiveMm }),
  /** The tray, its drain's middle from its left and front, and the flat rim round it, mm. */
  tray: z.object({
    widthMm: positiveMm,
    depthMm: positiveMm,
    xMm: positiveMm,
    yMm: positiveMm,
  }),
  flatRimMm: lengthMm,
  /** Room left to each wall, mm. */
  gapMm: lengthMm,
  /** Fall of the tray, rise / run. */
  fall: z.number().min(0).max(0.2),
});
/** A tray and the floor that it must fit. */
export type TrayCutInput = z.infer<typeof TrayCutInput>;

/** What comes off a tray, and what that does to its edge. */
export interface TrayCut {
  /** What comes off each side so that the drain stays where it is, mm; below zero the tray is too short there. */
  cutsMm: Record<TraySide, number>;
  /** Flat rim that stays on each side, mm. */
  rimsMm: Record<TraySide, number>;
  /** How much lower each side's edge comes to lie where its rim is gone, mm. */
  dropsMm: Record<TraySide, number>;
  /** Sides whose edge needs its notch again, and those where the piece cut off is a sliver. */
  notchAgain: TraySide[];
  /** Sides at which too little would be left. */
  slivers: TraySide[];
  /** Sides that the tray does not reach: filled by an extension. */
  short: TraySide[];
  /** Whether the edge stays level all round. */
  level: boolean;
}

/** How much comes off which side of a tray or pan so that the drain stays in its place, and what that does to its edge. */
export function trayCut({ opening, drain, tray, flatRimMm, gapMm, fall }: TrayCutInput): Outcome<TrayCut> {
  if (drain.xMm >= opening.widthMm || drain.yMm >= opening.depthMm) return refuse('drain-outside-opening', 'drain');
  if (tray.xMm >= tray.widthMm || tray.yMm >= tray.depthMm) return refuse('drain-outside-tray', 'tray');
  const room = {
    left: drain.xMm,
    right: opening.widthMm - drain.xMm,
    front: drain.yMm,
    back: opening.depthMm - drain.yMm,
  };
  const has = { left: tray.xMm, right: tray.widthMm - tray.xMm, front: tray.yMm, back: tray.depthMm - tray.yMm };
  const each = (of: (side: TraySide) => number) => sides.parse(Object.fromEntries(SIDES.map((s) => [s, of(s)])));
  const cutsMm = each((s) => has[s] - (room[s] - gapMm));
  const rimsMm = each((s) => Math.max(0, flatRimMm - Math.max(0, cutsMm[s])));
  const dropsMm = each((s) => fall * Math.max(0, cutsMm[s] - flatRimMm));
  const drops = SIDES.map((s) => dropsMm[s]);
  return done({
    cutsMm,
    rimsMm,
    dropsMm,
    notchAgain: SIDES.filter((s) => cutsMm[s] > 0),
    slivers: SIDES.filter((s) => cutsMm[s] > 0 && cutsMm[s] < SLIVER_MM),
    short: SIDES.filter((s) => cutsMm[s] < -0.5),
    level: Math.max(...drops) - Math.min(...drops) < 0.8,
  });
}
