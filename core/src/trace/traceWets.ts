import { z } from 'zod';
import { outsideFaces, outsideWater, stretchBelow } from '../checks/waterProof';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { edgeId, ShowerGeometry } from '../shower/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '../shower/geometry/showerModel';
import { anyMm } from '../units/bounded';

/** What water can be put on. */
export const WETTING_KINDS = ['supply', 'drain-line', 'flood', 'spray', 'door'] as const;

/** A test that wets some of a shower: pressure on the supply, water down the drain, a flood to a level, a wall or the door sprayed. */
export const WettingTest = z.object({
  kind: z.enum(WETTING_KINDS),
  /** Of a flood: its level over the drain's rim. */
  levelMm: anyMm.optional(),
  /** Of a spray: the wall, by its number in the footprint or its id. */
  wall: z.union([z.number().int().min(0).max(1000), z.string().min(1).max(60)]).optional(),
});
export type WettingTest = z.infer<typeof WettingTest>;

/** A shower and a test on it. */
export const TraceWetsInput = z.object({ model: ShowerGeometry, test: WettingTest });
export type TraceWetsInput = z.infer<typeof TraceWetsInput>;

/** What a test wets, with the mm of each; points have none. */
export interface Wets {
  elements: { id: string; lengthMm: number }[];
  totalMm: number;
}

/** Pipes are no part of a shower’s surface: they have names of their own. */
export const SUPPLY = 'supply';
/** The trap and the pipe below the drain. */
export const DRAIN_LINE = 'drain-line';
/** The door, its frame and its sweep. */
export const DOOR = 'door';

/** Less of a seam under water than this is not wet, mm. */
const LEAST_MM = 0.5;

/** Seams, corners, openings and the drain below a level: what stands in the water. */
function flooded(model: ShowerModel, levelMm: number): Wets['elements'] {
  const seams = model.seams.flatMap((seam) => {
    const below = outsideWater(seam) ? null : stretchBelow(seam, levelMm);
    const lengthMm = below ? below.toMm - below.fromMm : 0;
    return lengthMm > LEAST_MM ? [{ id: seam.id, lengthMm }] : [];
  });
  const points = [
    ...model.corners.filter((c) => c.point[2] <= levelMm && !outsideFaces(c.faces)).map((c) => c.id),
    ...model.penetrations.filter((p) => p.point[2] - p.diameterMm / 2 <= levelMm).map((p) => p.id),
    ...(levelMm >= 0 ? [model.drain.id] : []),
  ];
  return [...seams, ...points.map((id) => ({ id, lengthMm: 0 }))];
}

/** All that lies on some faces: their seams, corners and openings. */
function onFaces(model: ShowerModel, faces: ReadonlySet<string>): Wets['elements'] {
  const touches = (its: readonly string[]) => its.some((f) => faces.has(f));
  return [
    ...model.seams.filter((s) => touches(s.faces)).map(({ id, lengthMm }) => ({ id, lengthMm })),
    ...model.corners.filter((c) => touches(c.faces)).map(({ id }) => ({ id, lengthMm: 0 })),
    ...model.penetrations.filter((p) => faces.has(p.face)).map(({ id }) => ({ id, lengthMm: 0 })),
  ];
}

/** Faces that stand on an edge of the footprint: a wall with its niches and benches, a curb. */
const facesOn = (model: ShowerModel, edge: number): Set<string> =>
  new Set(model.faces.filter((f) => f.edge === edge && f.kind !== 'outside').map((f) => f.id));

/** A wall with what stands in and before it, its foot, and the drain that all of it runs to. */
function sprayed(model: ShowerModel, edge: number): Wets['elements'] {
  return [
    ...onFaces(model, facesOn(model, edge)),
    { id: model.drain.id, lengthMm: 0 },
    { id: DRAIN_LINE, lengthMm: 0 },
  ];
}

/** The opening of the shower: the door, and the curb or the edge under it. */
function atDoor(model: ShowerModel): Wets['elements'] {
  const edges = model.geometry.edges.flatMap((e, k) => (e.kind === 'curb' || e.kind === 'open' ? [k] : []));
  const faces = new Set(edges.flatMap((k) => [...facesOn(model, k)]));
  return [...onFaces(model, faces), { id: DOOR, lengthMm: 0 }];
}

/** What a test wets of a shower. Refuses a flood without its level and a spray on what is no wall. */
export function wetsOf(model: ShowerModel, test: WettingTest): Outcome<Wets> {
  const of = (elements: Wets['elements']): Outcome<Wets> =>
    done({ elements, totalMm: elements.reduce((sum, e) => sum + e.lengthMm, 0) });
  switch (test.kind) {
    case 'supply':
      return of([{ id: SUPPLY, lengthMm: 0 }]);
    case 'drain-line':
      return of([{ id: DRAIN_LINE, lengthMm: 0 }]);
    case 'flood':
      return test.levelMm === undefined
        ? refuse('trace-level-missing', 'test.levelMm')
        : of(flooded(model, test.levelMm));
    case 'door':
      return of(atDoor(model));
    default: {
      const { edges } = model.geometry;
      const edge =
        typeof test.wall === 'number' ? test.wall : edges.findIndex((_, k) => edgeId(model.geometry, k) === test.wall);
      const kind = edges[edge]?.kind;
      return kind === 'wall' || kind === 'half-wall'
        ? of(sprayed(model, edge))
        : refuse('trace-no-wall', 'test.wall', { wall: String(test.wall ?? '') });
    }
  }
}

/** What a test wets, from the dimensions of a shower. */
export function traceWets({ model: geometry, test }: TraceWetsInput): Outcome<Wets> {
  const model = showerModel(geometry);
  return model.ok ? wetsOf(model.value, test) : model;
}
