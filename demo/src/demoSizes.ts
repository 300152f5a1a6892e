import { FALL_RESERVE_MM, fallDesign, MAX_FALL, MIN_FALL } from '@careful-seam/core/floor/fall/fallDesign';
import type { Edge, ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { v5 } from 'uuid';

/** An inch, mm. */
export const IN = 25.4;
/** Namespace of its ids: the same in each demo. */
const EDGE_IDS = '7f0d3f0a-54f7-4f1c-9c1c-3b8f6f2f9a77';
/** A shower from a few lengths. */
export interface Size {
  /** What it is called on site. */
  name: string;
  /** Along the front, in. */
  widthIn: number;
  /** From front to back, in. */
  depthIn: number;
  /** From the left and from the front, in. */
  drainIn: [number, number];
  /** Two sides are open to the room. */
  corner?: boolean;
}
/** Plan: x to the right, y to the back; the front edge is the curb; a corner shower is open on the right too. */
export function dimensions({ name, widthIn, depthIn, drainIn, corner }: Size): ShowerGeometry {
  const id = (part: string) => v5(`${name} ${part}`, EDGE_IDS);
  const footprint = [
    [0, 0],
    [widthIn, 0],
    [widthIn, depthIn],
    [0, depthIn],
  ].map(([x, y]) => ({ xMm: x! * IN, yMm: y! * IN }));
  const drain = { xMm: drainIn[0] * IN, yMm: drainIn[1] * IN };
  const fall = fallDesign({ footprint, drain, minFall: MIN_FALL, maxFall: MAX_FALL, reserveMm: FALL_RESERVE_MM });
  const curb = (part: string): Edge => ({ kind: 'curb', id: id(part), heightMm: 6 * IN, widthMm: 4.5 * IN });
  const wall = (part: string): Edge => ({
    kind: 'wall',
    id: id(part),
    heightMm: 96 * IN,
    boardJoints: [{ id: id(`${part} joint`), run: 'level', atMm: 48 * IN }],
    sheetLaps: [{ id: id(`${part} lap`), run: 'level', atMm: 39 * IN }],
  });
  return {
    footprint,
    edges: [curb('front'), corner ? curb('right') : wall('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: id('drain'), ...drain },
    perimeterRiseMm: fall.ok ? fall.value.riseMm + fall.value.reserveThatFitsMm : 0,
    penetrations: [
      { id: id('valve'), kind: 'valve', edge: 3, alongMm: (depthIn / 2) * IN, heightMm: 44 * IN, diameterMm: 5 * IN },
      {
        id: id('arm'),
        kind: 'shower-arm',
        edge: 3,
        alongMm: (depthIn / 2) * IN,
        heightMm: 78 * IN,
        diameterMm: 1.5 * IN,
      },
    ],
  };
}
