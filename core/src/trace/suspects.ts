import { judge } from '../checks/judge';
import { FLOOD_MARGIN_MM } from '../checks/waterProof';
import type { Judgement } from '../log/judgement';
import type { ShowerState } from '../log/state';
import { isOpen } from '../proof/holds/defectLife';
import { type LinePiece, seamLine } from '../proof/shown/seamLine';
import type { Point3 } from '../shower/geometry/point';
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

/** What a piece of line says. */
const WORD_OF: Readonly<Record<LinePiece['state'], LedgerWord>> = {
  unseen: 'unseen',
  seen: 'seen',
  measured: 'measured',
  defect: 'defect',
  covered: 'covered',
  'not-required': 'not-asked',
};

/** By how much an element is suspected, and what is said of most of it. */
interface Said {
  factor: number;
  says: LedgerWord;
}

/** The ledger over a seam, inch by inch. */
function ofSeam(state: ShowerState, seam: Seam, judgements: readonly Judgement[]): Said {
  const byWord = new Map<LedgerWord, number>();
  let factor = 0;
  for (const piece of seamLine(state, seam, judgements).pieces) {
    const word = WORD_OF[piece.state];
    const share = (piece.toMm - piece.fromMm) / seam.lengthMm;
    // What stood under water and was found sound is suspected less, whatever else is known of it; an open defect is one all the same.
    const wet = piece.water && word !== 'defect';
    factor += share * (wet ? Math.min(1, LEDGER_FACTORS[word]) * LEDGER_FACTORS.water : LEDGER_FACTORS[word]);
    const shown = wet ? 'water' : word;
    byWord.set(shown, (byWord.get(shown) ?? 0) + share);
  }
  const says = [...byWord].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'not-asked';
  return { factor: factor || 1, says };
}

/** The ledger over a corner, an opening, a drain. */
function ofPoint(state: ShowerState, id: string, heightMm: number, judgements: readonly Judgement[]): Said {
  const asked = judgements.filter((j) => j.requirement.check.severity !== 'note');
  const defect = [...state.defects.values()].some((d) => isOpen(d) && d.places.some((p) => p.element === id));
  const below = state.flood?.provedBelowMm ?? null;
  const wet = below !== null && heightMm <= below - FLOOD_MARGIN_MM;
  const word: LedgerWord = defect
    ? 'defect'
    : state.covered.has(id)
      ? 'covered'
      : asked.length === 0
        ? 'not-asked'
        : asked.every((j) => j.satisfied)
          ? 'seen'
          : 'unseen';
  if (!wet || word === 'defect') return { factor: LEDGER_FACTORS[word], says: word };
  return { factor: Math.min(1, LEDGER_FACTORS[word]) * LEDGER_FACTORS.water, says: 'water' };
}

/** What a person set aside or built again there. */
function marksOf(state: ShowerState, id: string): Pick<Suspect, 'redone' | 'accepted'> {
  const accepted = [...state.deviations.values()].some(
    (d) => d.decision?.accepted === true && !d.ended && d.asked.place.element === id,
  );
  return { redone: state.redone.has(id), accepted };
}

/** A firm's own finds move the rates of kinds. */
export type Rates = Readonly<Record<SuspectKind, number>>;

const middle = (points: readonly Point3[]): Point3 => {
  const sum = points.reduce<Point3>((s, p) => [s[0] + p[0], s[1] + p[1], s[2] + p[2]], [0, 0, 0]);
  return [sum[0] / points.length, sum[1] / points.length, sum[2] / points.length];
};

/** Pipes, door, bed: what is suspected and is no part of the surface. */
function besides(state: ShowerState, model: ShowerModel, rates: Rates): Suspect[] {
  const { geometry, drain, penetrations } = model;
  const opening = geometry.edges.flatMap((e, k) =>
    e.kind === 'curb' || e.kind === 'open'
      ? [geometry.footprint[k]!, geometry.footprint[(k + 1) % geometry.footprint.length]!]
      : [],
  );
  const pipes = penetrations.map((p) => p.point);
  const method = state.rules?.method.key ?? null;
  const one = (id: string, kind: SuspectKind, behaviour: Behaviour, points: Point3[], says: LedgerWord): Suspect => {
    const heights = points.map((p) => p[2]);
    return {
      id,
      kind,
      behaviour,
      faces: [],
      points,
      lengthMm: 0,
      lowMm: Math.min(...heights, 0),
      highMm: Math.max(...heights, 0),
      prior: rates[kind] * LEDGER_FACTORS[says],
      says,
      redone: false,
      accepted: false,
    };
  };
  const found = [one(DRAIN_LINE, 'drain-line', 'drain-line', [drain.point], 'not-asked')];
  if (pipes.length > 0) found.push(one(SUPPLY, 'supply', 'supply', pipes, 'not-asked'));
  if (opening.length > 0)
    found.push(
      one(
        DOOR,
        'door',
        'door',
        opening.map(({ xMm, yMm }): Point3 => [xMm, yMm, 0]),
        'not-asked',
      ),
    );
  // Only a liner under mortar has a bed that must drain; of a shower that others built nobody knows.
  if (method === null || method === 'liner-mortar' || method === NOT_KNOWN)
    found.push(
      one(
        BED,
        'bed',
        'slow',
        [drain.point, middle(geometry.footprint.map(({ xMm, yMm }): Point3 => [xMm, yMm, 0]))],
        'not-asked',
      ),
    );
  if (geometry.ceiling?.waterproof)
    found.push(
      one(VAPOUR, 'vapour', 'slow', [[drain.point[0], drain.point[1], geometry.ceiling.heightMm]], 'not-asked'),
    );
  return found;
}

/** The method of a shower that others built. */
export const NOT_KNOWN = 'not-known';

/** Requirements by what they are asked of, judged. */
function judged(state: ShowerState): Map<string, Judgement[]> {
  const found = new Map<string, Judgement[]>();
  for (const r of state.requirements) {
    const list = found.get(r.element) ?? [];
    list.push(judge(state, r));
    found.set(r.element, list);
  }
  return found;
}

/**
 * Everything in a shower that may let water through, with how likely each is before a call: the rate of its kind, how much of it there
 * is, and what the ledger says of it. An unseen corner is suspected more than one that stood under water.
 */
export function suspectsOf(state: ShowerState, rates: Rates = RATES): Suspect[] {
  const model = state.geometry?.model;
  if (!model) return [];
  const judgements = judged(state);
  const ends = curbEnds(model);
  const make = (
    id: string,
    kind: SuspectKind,
    faces: readonly string[],
    points: readonly Point3[],
    lengthMm: number,
    said: Said,
  ): Suspect => {
    const heights = points.map((p) => p[2]);
    const marks = marksOf(state, id);
    const lowMm = Math.min(...heights);
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
        rates[kind] *
        amountOf(lengthMm) *
        said.factor *
        (marks.redone ? REDONE_FACTOR : 1) *
        (marks.accepted ? ACCEPTED_FACTOR : 1),
      says: said.says,
      ...marks,
    };
  };
  const of = (id: string) => judgements.get(id) ?? [];
  return [
    ...model.seams
      .filter((s) => s.lengthMm > 0)
      .map((s) => {
        const along = Array.from({ length: ALONG }, (_, k) => pointOnSeam(s.points, ((k + 0.5) / ALONG) * s.lengthMm));
        return make(s.id, OF_SEAM[s.kind] ?? 'edge', s.faces, along, s.lengthMm, ofSeam(state, s, of(s.id)));
      }),
    ...model.corners.map((c) =>
      make(c.id, kindOfCorner(c, ends), c.faces, [c.point], 0, ofPoint(state, c.id, c.point[2], of(c.id))),
    ),
    ...model.penetrations.map((p) =>
      make(p.id, 'opening', [p.face], [p.point], 0, ofPoint(state, p.id, p.point[2], of(p.id))),
    ),
    make(
      model.drain.id,
      'drain',
      ['floor'],
      [model.drain.point],
      0,
      ofPoint(state, model.drain.id, 0, of(model.drain.id)),
    ),
    ...besides(state, model, rates),
  ];
}

/** The edge of the footprint that an id names; −1 where none has it. */
export const edgeOf = (model: ShowerModel, id: string): number =>
  model.geometry.edges.findIndex((_, k) => edgeId(model.geometry, k) === id);
