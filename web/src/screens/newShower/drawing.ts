import { FALL_RESERVE_MM, type FallDesign, fallDesign, MAX_FALL, MIN_FALL } from '@careful-seam/core/fall/fallDesign';
import type { Edge, ShowerGeometry } from '@careful-seam/core/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '@careful-seam/core/geometry/showerModel';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { parseLength } from '@careful-seam/core/units/length';

/** The lengths of the form, as typed. */
export const LENGTHS = [
  'width',
  'depth',
  'wallHeight',
  'curbHeight',
  'curbWidth',
  'drainLeft',
  'drainFront',
  'boardJoint',
  'sheetLap',
  'valveFront',
  'valveHeight',
  'armHeight',
] as const;
export type LengthName = (typeof LENGTHS)[number];

export interface Typed extends Record<LengthName, string> {
  shape: 'alcove' | 'corner';
}

/** Ids made once for the drawing, so that it keeps them while its dimensions change. */
export type PartIds = Record<
  | 'front'
  | 'right'
  | 'back'
  | 'left'
  | 'drain'
  | 'valve'
  | 'arm'
  | 'rightJoint'
  | 'backJoint'
  | 'leftJoint'
  | 'rightLap'
  | 'backLap'
  | 'leftLap',
  string
>;

export interface Drawn {
  model: ShowerModel | null;
  geometry: ShowerGeometry | null;
  fall: FallDesign | null;
  /** The first thing wrong by form field; `form` when it concerns no single one. */
  problems: Partial<Record<LengthName | 'form', string>>;
}

type Sizes = Record<LengthName, number>;

const FIELD_OF: [RegExp, LengthName][] = [
  [/^drain/, 'drainLeft'],
  [/boardJoints/, 'boardJoint'],
  [/sheetLaps/, 'sheetLap'],
  [/^penetrations\.0/, 'valveFront'],
  [/^penetrations\.1/, 'armHeight'],
  [/^footprint/, 'width'],
];

function fieldOf(problem: Problem, geometry: ShowerGeometry): LengthName | 'form' {
  const edge = /^edges\.(\d+)\.heightMm/.exec(problem.field);
  if (edge) return geometry.edges[Number(edge[1])]?.kind === 'curb' ? 'curbHeight' : 'wallHeight';
  return FIELD_OF.find(([pattern]) => pattern.test(problem.field))?.[1] ?? 'form';
}

function geometryOf(shape: Typed['shape'], s: Sizes, ids: PartIds, riseMm: number): ShowerGeometry {
  const footprint = [
    { xMm: 0, yMm: 0 },
    { xMm: s.width, yMm: 0 },
    { xMm: s.width, yMm: s.depth },
    { xMm: 0, yMm: s.depth },
  ];
  const line = (id: string, atMm: number) => (atMm > 0 ? [{ id, run: 'level' as const, atMm }] : []);
  const wall = (part: 'right' | 'back' | 'left'): Edge => ({
    kind: 'wall',
    id: ids[part],
    heightMm: s.wallHeight,
    boardJoints: line(ids[`${part}Joint`], s.boardJoint),
    sheetLaps: line(ids[`${part}Lap`], s.sheetLap),
  });
  const curb = (id: string): Edge => ({ kind: 'curb', id, heightMm: s.curbHeight, widthMm: s.curbWidth });
  const hole = (id: string, kind: 'valve' | 'shower-arm', heightMm: number, diameterMm: number) => ({
    id,
    kind,
    edge: 3,
    alongMm: s.valveFront,
    heightMm,
    diameterMm,
  });
  return {
    footprint,
    edges: [curb(ids.front), shape === 'corner' ? curb(ids.right) : wall('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: ids.drain, xMm: s.drainLeft, yMm: s.drainFront },
    perimeterRiseMm: riseMm,
    penetrations:
      s.valveFront > 0
        ? [hole(ids.valve, 'valve', s.valveHeight, 127), hole(ids.arm, 'shower-arm', s.armHeight, 38)].filter(
            (p) => p.heightMm > 0,
          )
        : [],
  };
}

/** Lengths that may be left empty: there is then no such part. */
const OPTIONAL = new Set<LengthName>(['boardJoint', 'sheetLap', 'valveFront', 'valveHeight', 'armHeight']);
const LEAST_MM: Partial<Record<LengthName, number>> = { width: 600, depth: 600, wallHeight: 300, curbWidth: 25 };
const MOST_MM: Partial<Record<LengthName, number>> = {
  width: 6000,
  depth: 6000,
  wallHeight: 5000,
  curbHeight: 600,
  curbWidth: 600,
};

/** Reads the form and builds the shower; every fault is told beside the field it concerns. */
export function drawShower(
  typed: Typed,
  ids: PartIds,
  unit: 'in' | 'mm',
  words: { small: (least: number) => string; large: (most: number) => string; names: Record<LengthName, string> },
): Drawn {
  const problems: Drawn['problems'] = {};
  const sizes = {} as Sizes;
  for (const name of LENGTHS) {
    if (typed[name].trim() === '' && OPTIONAL.has(name)) {
      sizes[name] = 0;
      continue;
    }
    const read = parseLength(typed[name], unit, words.names[name]);
    if (!read.ok) problems[name] = read.problem.message;
    else if (read.value.mm < (LEAST_MM[name] ?? 0)) problems[name] = words.small(LEAST_MM[name]!);
    else if (read.value.mm > (MOST_MM[name] ?? 100_000)) problems[name] = words.large(MOST_MM[name]!);
    else sizes[name] = read.value.mm;
  }
  if (Object.keys(problems).length > 0) return { model: null, geometry: null, fall: null, problems };
  const flat = geometryOf(typed.shape, sizes, ids, 0);
  const fall = fallDesign({
    footprint: flat.footprint,
    drain: flat.drain,
    minFall: MIN_FALL,
    maxFall: MAX_FALL,
    reserveMm: FALL_RESERVE_MM,
  });
  if (!fall.ok)
    return {
      model: null,
      geometry: null,
      fall: null,
      problems: { [fieldOf(fall.problem, flat)]: fall.problem.message },
    };
  const geometry = geometryOf(typed.shape, sizes, ids, fall.value.riseMm + fall.value.reserveThatFitsMm);
  const model = showerModel(geometry);
  if (!model.ok)
    return {
      model: null,
      geometry: null,
      fall: fall.value,
      problems: { [fieldOf(model.problem, geometry)]: model.problem.message },
    };
  return { model: model.value, geometry, fall: fall.value, problems };
}
