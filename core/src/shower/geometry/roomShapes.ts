import type { PlanPoint } from './point';
import type { Edge } from './showerGeometry';

/** Rooms that need a few numbers only. All else is drawn corner by corner. */
export const ROOM_SHAPES = ['alcove', 'corner', 'neo-angle', 'l-shape', 'half-wall', 'curbless'] as const;
/** A shape that a room is drawn in by a few lengths. */
export type RoomShape = (typeof ROOM_SHAPES)[number];

/** Sizes in mm. Width runs along the back, depth from the back to the front. */
export interface RoomSizes {
  widthMm: number;
  depthMm: number;
  /** neo-angle: the front and the side panel beside its door; l-shape: width and depth of the way in; half-wall: its length. */
  firstMm: number;
  secondMm: number;
}

/** A side of a drawn room. */
export interface RoomSide {
  /** Stays the same while sizes change, so that ids can be kept by it. */
  name: string;
  kind: Edge['kind'];
}

/** A room as it was drawn. */
export interface Room {
  /** Counter-clockwise, mm. */
  footprint: PlanPoint[];
  /** Side i runs from point i to point i+1. */
  sides: RoomSide[];
}

const points = (...xy: [number, number][]): PlanPoint[] => xy.map(([xMm, yMm]) => ({ xMm, yMm }));
const side = (name: string, kind: Edge['kind'] = 'wall'): RoomSide => ({ name, kind });

/** The room's footprint, counter-clockwise from its front left corner, and what stands on its sides until changed. */
export function roomShape(shape: RoomShape, { widthMm: w, depthMm: d, firstMm: a, secondMm: b }: RoomSizes): Room {
  const box = points([0, 0], [w, 0], [w, d], [0, d]);
  switch (shape) {
    case 'alcove':
      return { footprint: box, sides: [side('front', 'curb'), side('right'), side('back'), side('left')] };
    case 'corner':
      return { footprint: box, sides: [side('front', 'curb'), side('right', 'curb'), side('back'), side('left')] };
    case 'curbless':
      return { footprint: box, sides: [side('front', 'open'), side('right'), side('back'), side('left')] };
    case 'neo-angle':
      return {
        footprint: points([0, 0], [a, 0], [w, d - b], [w, d], [0, d]),
        sides: [side('front', 'curb'), side('door', 'curb'), side('right', 'curb'), side('back'), side('left')],
      };
    case 'l-shape':
      return {
        footprint: points([0, 0], [a, 0], [a, b], [w, b], [w, d], [0, d]),
        sides: [side('front', 'curb'), side('jamb'), side('return'), side('right'), side('back'), side('left')],
      };
    case 'half-wall':
      return {
        footprint: points([0, 0], [a, 0], [w, 0], [w, d], [0, d]),
        sides: [side('screen', 'half-wall'), side('front', 'curb'), side('right'), side('back'), side('left')],
      };
  }
}
