import { NOT_KNOWN } from '../rules/notKnown';
import type { PlanPoint, Point3 } from '../shower/geometry/point';
import { edgeId } from '../shower/geometry/showerGeometry';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { type Corner, pointOnSeam, type Seam, type SeamKind } from '../shower/seams/seam';
import { curbEnds } from './curbEnds';
import {
  ACCEPTED_FACTOR,
  type Behaviour,
  LEDGER_FACTORS,
  type LedgerWord,
  RATES,
  REDONE_FACTOR,
  type SuspectKind,
} from './startingValues';
import { DOOR, DRAIN_LINE, SUPPLY } from './traceWets';

/** No pre-slope below a liner, or weep holes that are blocked: a cause without a place. */
export const BED = 'bed';
/** Steam without a check against vapour: a cause without a place. */
export const VAPOUR = 'vapour';

/** What is suspected and is no part of the surface: each is its own name. */
export const PLACELESS: readonly string[] = [SUPPLY, DRAIN_LINE, DOOR, BED, VAPOUR];

/** Something that may let water through. Lengths and places in mm. */
export interface Suspect {
  /** The element’s id, or the name of what is no part of the surface. */
  id: string;
  kind: SuspectKind;
  behaviour: Behaviour;
  /** Its faces; none for what is no part of the surface. */
  faces: readonly string[];
  /** Where it is: places along it. */
  points: readonly Point3[];
  lengthMm: number;
  lowMm: number;
  highMm: number;
  /** How likely before the call, against the others. */
  prior: number;
  /** What the ledger says of most of it. */
  says: LedgerWord;
  redone: boolean;
  accepted: boolean;
}

/** Places along a seam at which its distance to a stain is taken. */
const ALONG = 7;

/** Kinds of seams as suspects. */
const OF_SEAM: Partial<Record<SeamKind, SuspectKind>> = {
  'floor-wall': 'floor-seam',
  'curb-floor': 'floor-seam',
  'bench-floor': 'bench',
  'bench-wall': 'bench',
  'bench-edge': 'bench',
  'niche-mouth': 'niche',
  'niche-edge': 'niche',
  'niche-shelf': 'niche',
  'niche-shelf-edge': 'niche',
  'curb-wall': 'curb',
  'curb-curb': 'curb',
  'curb-top-edge': 'curb',
  'curb-outside-floor': 'curb',
  'curb-end-edge': 'curb-end',
  'wall-wall-inside': 'wall-seam',
  'wall-wall-outside': 'wall-seam',
  'board-joint': 'wall-seam',
  'sheet-lap': 'wall-seam',
  transition: 'wall-seam',
  'wall-ceiling': 'ceiling',
  'ceiling-edge': 'ceiling',
};

/** A corner is the thing's that it belongs to. */
function kindOfCorner(corner: Corner, ends: ReadonlySet<string>): SuspectKind {
  if (ends.has(corner.id)) return 'curb-end';
  const has = (part: string) => corner.faces.some((f) => f.startsWith(part));
  if (has('niche:')) return 'niche';
  if (has('bench:')) return 'bench';
  return 'corner';
}

/** A pan stands below this height over the drain's rim: water can stand there, mm. */
const BASIN_MM = 60;

/** How much of it there is: metres of a seam, or one. */
const amountOf = (lengthMm: number): number => (lengthMm > 0 ? lengthMm / 1000 : 1);

/** By how much an element is suspected, what is said of most of it, and whether it was built again or accepted. */
export interface Said {
  factor: number;
  says: LedgerWord;
  redone: boolean;
  accepted: boolean;
}

/** Nobody ever asked. */
export const NOT_ASKED: Said = {
  factor: LEDGER_FACTORS['not-asked'],
  says: 'not-asked',
  redone: false,
  accepted: false,
};

/** A firm's own finds move the rates of kinds. */
export type Rates = Readonly<Record<SuspectKind, number>>;

/** What is known beside the drawing. */
export interface Known {
  /** A firm's own finds move the rates of kinds. */
  rates: Rates;
  /** The method's key; null where nobody knows how it was built. */
  method: string | null;
  /** What the ledger says of an element; of a point with its height over the drain's rim, mm. */
  saidOf: (element: { id: string; faces: readonly string[] }, seam: Seam | null, heightMm: number) => Said;
}

/** Pipes, door, bed: what is suspected and is no part of the surface. */
function besides(model: ShowerModel, { rates, method }: Known): Suspect[] {
  const { geometry, drain, penetrations } = model;
  const { footprint, edges, ceiling } = geometry;
  const inPlan = (p: PlanPoint, heightMm = 0): Point3 => [p.xMm, p.yMm, heightMm];
  const opening = edges.flatMap((e, k) =>
    e.kind === 'curb' || e.kind === 'open' ? [footprint[k]!, footprint[(k + 1) % footprint.length]!] : [],
  );
  const pipes = penetrations.map((p) => p.point);
  const one = (id: string, kind: SuspectKind, behaviour: Behaviour, points: readonly Point3[]): Suspect => {
    const heights = points.map((p) => p[2]);
    const [lowMm, highMm] = [Math.min(...heights, 0), Math.max(...heights, 0)];
    const { factor: _factor, ...said } = NOT_ASKED;
    return { id, kind, behaviour, faces: [], points, lengthMm: 0, lowMm, highMm, prior: rates[kind], ...said };
  };
  // Only a liner under mortar has a bed that must drain; of a shower that others built nobody knows.
  const hasBed = method === null || method === 'liner-mortar' || method === NOT_KNOWN;
  return [
    one(DRAIN_LINE, 'drain-line', 'drain-line', [drain.point]),
    ...(pipes.length > 0 ? [one(SUPPLY, 'supply', 'supply', pipes)] : []),
    ...(opening.length > 0
      ? [
          one(
            DOOR,
            'door',
            'door',
            opening.map((p) => inPlan(p)),
          ),
        ]
      : []),
    ...(hasBed
      ? [
          one(
            BED,
            'bed',
            'slow',
            footprint.map((p) => inPlan(p)),
          ),
        ]
      : []),
    ...(ceiling?.waterproof
      ? [one(VAPOUR, 'vapour', 'slow', [[drain.point[0], drain.point[1], ceiling.heightMm]])]
      : []),
  ];
}

/**
 * Everything in a shower that may let water through, with how likely each is before a call: the rate of its kind, how much of it there
 * is, and what is known of it.
 */
export function suspectsOfModel(
  model: ShowerModel,
  known: Known = { rates: RATES, method: null, saidOf: () => NOT_ASKED },
): Suspect[] {
  const ends = curbEnds(model);
  const make = (
    id: string,
    kind: SuspectKind,
    faces: readonly string[],
    points: readonly Point3[],
    seam: Seam | null,
  ): Suspect => {
    const heights = points.map((p) => p[2]);
    const lowMm = Math.min(...heights);
    const lengthMm = seam?.lengthMm ?? 0;
    const { factor, ...said } = known.saidOf({ id, faces }, seam, lowMm);
    return {
      id,
      kind,
      behaviour: lowMm <= BASIN_MM ? 'basin' : 'spray',
      faces,
      points,
      lengthMm,
      lowMm,
      highMm: Math.max(...heights),
      prior:
        known.rates[kind] *
        amountOf(lengthMm) *
        factor *
        (said.redone ? REDONE_FACTOR : 1) *
        (said.accepted ? ACCEPTED_FACTOR : 1),
      ...said,
    };
  };
  return [
    ...model.seams
      .filter((s) => s.lengthMm > 0)
      .map((s) => {
        const along = Array.from({ length: ALONG }, (_, k) => pointOnSeam(s.points, ((k + 0.5) / ALONG) * s.lengthMm));
        return make(s.id, OF_SEAM[s.kind] ?? 'edge', s.faces, along, s);
      }),
    ...model.corners.map((c) => make(c.id, kindOfCorner(c, ends), c.faces, [c.point], null)),
    ...model.penetrations.map((p) => make(p.id, 'opening', [p.face], [p.point], null)),
    make(model.drain.id, 'drain', ['floor'], [model.drain.point], null),
    ...besides(model, known),
  ];
}

/** The edge of the footprint that an id names; −1 where none has it. */
export const edgeOf = (model: ShowerModel, id: string): number =>
  model.geometry.edges.findIndex((_, k) => edgeId(model.geometry, k) === id);
