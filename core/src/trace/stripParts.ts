import type { StripPart } from '../log/callBodies';
import { edgeId } from '../shower/geometry/showerGeometry';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { isWall } from '../shower/geometry/wallFrame';
import { walkingOrder } from '../shower/map/unfold';
import type { StripOut } from './stripOut';

/** The side of what belongs to no side. */
export const WHOLE = 'shower';
/** The side of the floor, its drain among it. */
export const FLOOR = 'floor';

/** How deep each part lies on its side: what is deeper comes out later. */
export const DEPTH: Readonly<Record<StripPart, number>> = {
  safety: 0,
  fittings: 0,
  'door-frame': 1,
  'wall-tile': 1,
  'wall-membrane': 2,
  'wall-board': 3,
  'stud-bay': 4,
  curb: 1,
  'floor-tile': 1,
  bed: 2,
  'floor-membrane': 3,
  base: 4,
  drain: 4,
  subfloor: 5,
  trap: 6,
};

/** Parts of a wall and of the floor, from the tile inwards. */
const WALL = ['wall-tile', 'wall-membrane', 'wall-board', 'stud-bay'] as const;
const FLOORS = ['floor-tile', 'bed', 'floor-membrane', 'base', 'drain', 'subfloor', 'trap'] as const;

/** What a floor of a method does not have; of a shower that nobody knows, all is asked. */
const LACKS: Readonly<Record<string, readonly StripPart[]>> = {
  'bonded-sheet': ['bed'],
  'sealant-board': ['bed'],
  liquid: ['bed'],
  'ready-pan': ['bed', 'floor-membrane', 'floor-tile'],
};

/** One part to be taken out, or to be looked at where it stays. */
export interface PartOut {
  part: StripPart;
  /** Id of the edge that it belongs to, `floor` or `shower`. */
  side: string;
  /** It must come out for what is thought to have failed; whatever else is opened is told as well. */
  comesOut: boolean;
}

/** One name for a part. */
export const partKey = ({ part, side }: Pick<PartOut, 'part' | 'side'>): string => `${part} ${side}`;

/**
 * Parts in the order in which they come out: cautions, fittings, door frame; wall after wall as one goes round, from the tile inwards, curbs, then the floor
 * down to the trap [common practice, no source]. `out` tells which of them must.
 */
export function stripParts(
  model: ShowerModel,
  method: string | null,
  out: Pick<StripOut, 'scope' | 'walls'>,
): PartOut[] {
  const { geometry } = model;
  const edges = walkingOrder(model).map((k) => ({ ...geometry.edges[k]!, id: edgeId(geometry, k) }));
  const isFloor = out.scope === 'bottom' || out.scope === 'all';
  const isOpened = (wall: string) => out.walls.includes(wall) || (out.scope === 'opening' && out.walls.length === 0);
  const lacks = LACKS[method ?? ''] ?? [];
  const walls = edges.filter((e) => isWall(e));
  const openings = edges.filter((e) => e.kind === 'curb' || e.kind === 'open');
  const anything = out.scope !== 'none';
  return [
    { part: 'safety', side: WHOLE, comesOut: anything },
    { part: 'fittings', side: WHOLE, comesOut: anything },
    ...openings.map(({ id }) => ({ part: 'door-frame' as const, side: id, comesOut: isFloor || out.scope === 'none' })),
    ...walls.flatMap(({ id }) =>
      WALL.map((part) => ({
        part,
        side: id,
        comesOut: isOpened(id) && (out.scope !== 'opening' || part !== 'stud-bay'),
      })),
    ),
    ...edges.filter((e) => e.kind === 'curb').map(({ id }) => ({ part: 'curb' as const, side: id, comesOut: isFloor })),
    ...FLOORS.filter((part) => !lacks.includes(part)).map((part) => ({ part, side: FLOOR, comesOut: isFloor })),
  ];
}
