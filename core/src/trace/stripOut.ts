import { leastDays } from '../plan/leastDays';
import { workHoursOf } from '../plan/usualHours';
import { WorkCalendar } from '../plan/workCalendar';
import { edgeId } from '../shower/geometry/showerGeometry';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { isWall } from '../shower/geometry/wallFrame';
import type { Suspect } from './suspects';

/**
 * What must come out so that the layer that failed can be made again and tied to what stays: nothing, a small opening, one wall, the floor
 * with its curb and the bottom third of the walls, or all of it [common practice, no source].
 */
export const SCOPES = ['none', 'opening', 'wall', 'bottom', 'all'] as const;
/** One of them. */
export type Scope = (typeof SCOPES)[number];

/** Of a wall so much comes out where only its foot must be tied in again [common practice, no source]. */
const BOTTOM_SHARE = 1 / 3;
/** Tile around an opening, mm², and what is bought beyond what is covered [common practice, no source]. */
const OPENING_MM2 = 0.4 * 1e6;
const WASTE = 1.1;
/**
 * Stages in the order in which they are built again, with the hours that each then waits [common practice, no source: bed, coats and tile over
 * night, the flood a day].
 */
const WAITS: readonly (readonly [stage: string, waitHours: number])[] = [
  ['strip-out', 0],
  ['framing', 0],
  ['subfloor', 0],
  ['base', 20],
  ['boards', 0],
  ['penetrations', 0],
  ['curb', 0],
  ['membrane', 14],
  ['drain-tie-in', 0],
  ['flood-test', 24],
  ['protection', 0],
  ['tile', 16],
  ['hand-over', 0],
];
/** Which of them each scope takes. */
const AGAIN: Readonly<Record<Scope, (stage: string) => boolean>> = {
  none: (stage) => stage === 'hand-over',
  opening: (stage) => ['strip-out', 'penetrations', 'tile'].includes(stage),
  wall: (stage) => ['strip-out', 'boards', 'penetrations', 'membrane', 'tile', 'hand-over'].includes(stage),
  bottom: (stage) => !['framing', 'subfloor', 'penetrations'].includes(stage),
  all: () => true,
};
/** Stages whose hours go by how much of the shower is built again; the others take what they take. */
const BY_AREA = ['strip-out', 'boards', 'membrane', 'tile', 'base'];

/** What must come out, and what it costs in work, days and material. */
export interface StripOut {
  scope: Scope;
  /** Ids of the walls' edges that are opened. */
  walls: string[];
  floorMm2: number;
  wallMm2: number;
  hours: number;
  /** Days of work at least, its waits kept. */
  days: number;
  /** Tile and membrane that are lost and bought again, mm². */
  lostMm2: number;
}

/** What must come out for an element that failed. */
export function scopeOf({ kind, behaviour }: Pick<Suspect, 'kind' | 'behaviour'>): Scope {
  if (kind === 'door') return 'none';
  if (kind === 'supply' || kind === 'opening') return 'opening';
  if (kind === 'vapour' || kind === 'ceiling') return 'all';
  // Whatever is below the water line, or under it, is tied to the floor.
  if (kind === 'bed' || kind === 'drain' || kind === 'drain-line' || kind === 'curb' || kind === 'curb-end')
    return 'bottom';
  return behaviour === 'basin' ? 'bottom' : 'wall';
}

/** Edges of the walls that an element lies on. */
function wallsOf(model: ShowerModel, { faces }: Pick<Suspect, 'faces'>): string[] {
  const edges = new Set(model.faces.filter((f) => faces.includes(f.id)).map((f) => f.edge));
  return model.geometry.edges.flatMap((e, k) => (edges.has(k) && isWall(e) ? [edgeId(model.geometry, k)] : []));
}

/**
 * What must come out for an element that failed, before anybody decides: the least that lets the layer be tied in again, its hours by the
 * firm's own figures where it has them (`stageHours`), its days by the waits that nobody can shorten. Areas in mm².
 */
export function stripOutOf(
  model: ShowerModel,
  suspect: Pick<Suspect, 'kind' | 'behaviour' | 'faces'>,
  stageHours: Readonly<Record<string, number>>,
): StripOut {
  const scope = scopeOf(suspect);
  const all = model.geometry.edges.flatMap((e, k) => (isWall(e) ? [edgeId(model.geometry, k)] : []));
  const own = wallsOf(model, suspect);
  const walls = scope === 'bottom' || scope === 'all' ? all : scope === 'wall' ? own : [];
  const areaOf = (id: string) =>
    model.faces.filter((f) => f.id === `wall:${id}`).reduce((sum, f) => sum + f.areaMm2, 0);
  const wholeWalls = all.reduce((sum, id) => sum + areaOf(id), 0);
  const opened = walls.reduce((sum, id) => sum + areaOf(id), 0) * (scope === 'bottom' ? BOTTOM_SHARE : 1);
  const wallMm2 = scope === 'opening' ? Math.min(OPENING_MM2, wholeWalls) : opened;
  const floorMm2 = scope === 'bottom' || scope === 'all' ? model.totals.floorMm2 : 0;
  const share = (wallMm2 + floorMm2) / (wholeWalls + model.totals.floorMm2 || 1);
  const stages = WAITS.filter(([key]) => AGAIN[scope](key)).map(([key, waitHours]) => ({
    key,
    workHours: workHoursOf(key, stageHours) * (BY_AREA.includes(key) ? Math.max(share, 0.1) : 1),
    waitHours,
    lookMinutes: 0,
  }));
  const least = leastDays({ stages, calendar: WorkCalendar.parse({}) });
  return {
    scope,
    walls,
    floorMm2,
    wallMm2,
    hours: stages.reduce((sum, s) => sum + s.workHours, 0),
    days: least.ok ? least.value.days : stages.length,
    lostMm2: (wallMm2 + floorMm2) * WASTE,
  };
}
