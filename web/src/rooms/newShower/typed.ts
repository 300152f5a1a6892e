import { type RoomShape, roomShape } from '@careful-seam/core/shower/geometry/roomShapes';
import type { Edge, Penetration } from '@careful-seam/core/shower/geometry/showerGeometry';

/** The lengths of the form that stand for the whole shower, as typed. */
export const LENGTHS = [
  'width',
  'depth',
  'first',
  'second',
  'wallHeight',
  'curbHeight',
  'curbWidth',
  'halfHeight',
  'halfThick',
  'outside',
  'drainLeft',
  'drainFront',
  'drainLong',
  'drainWide',
  'boardJoint',
  'sheetLap',
  'sheetLong',
  'sheetShort',
  'sheetOffset',
  'ceilingRise',
] as const;
/** One of them. */
export type LengthName = (typeof LENGTHS)[number];

/** What a side is. */
export type EdgeKind = Edge['kind'];
/** What a side can be, the usual one first. */
export const EDGE_KINDS: readonly EdgeKind[] = ['wall', 'half-wall', 'curb', 'open'];

/** One side taken with the tape, corner by corner. `angle` is the room's angle at its far end, degrees. */
interface TapedTyped {
  /** Its name while it is typed. */
  key: string;
  /** Along the side, as typed. */
  length: string;
  /** At its end, degrees as typed; empty for a square corner. */
  angle: string;
}
/** A niche as it is typed. */
export interface NicheTyped {
  /** It keeps this id while it is changed, so that what was proved of it stays with it. */
  id: string;
  /** Letter of the wall that it stands in. */
  wall: string;
  /** From the left corner of its wall, as typed. */
  along: string;
  /** Height of its sill over the floor, as typed. */
  sill: string;
  /** As typed, in the unit of the screen. */
  width: string;
  /** As typed, in the unit of the screen. */
  height: string;
  /** As typed, in the unit of the screen. */
  depth: string;
  /** Underside of a shelf above the sill; none without it. */
  shelf: string;
}
/** A bench as it is typed. */
export interface BenchTyped {
  /** It keeps this id while it is changed, so that what was proved of it stays with it. */
  id: string;
  /** Which kind it is. */
  kind: 'along' | 'corner' | 'floating';
  /** The side it stands along, or whose far end is its corner. */
  wall: string;
  /** From the left corner of its wall, as typed. */
  along: string;
  /** As typed, in the unit of the screen. */
  width: string;
  /** As typed, in the unit of the screen. */
  depth: string;
  /** Height of its top over the floor, as typed. */
  top: string;
  /** Underside of a floating one. */
  under: string;
}
/** A pipe, valve or spray as it is typed. */
export interface PipeTyped {
  /** It keeps this id while it is changed, so that what was proved of it stays with it. */
  id: string;
  /** Which kind it is. */
  kind: Penetration['kind'];
  /** Letter of the wall that it stands in. */
  wall: string;
  /** From the left corner of its wall, as typed. */
  along: string;
  /** As typed, in the unit of the screen. */
  height: string;
}

/** The whole form as it is typed: nothing of it is lost while it can not be drawn. */
export interface Typed extends Record<LengthName, string> {
  /** The room by its shape, or from the tape. */
  shape: RoomShape | 'tape';
  /** What stands on a side where it differs from the shape's own. */
  kinds: Record<string, EdgeKind>;
  /** The sides as the tape went round them. */
  taped: TapedTyped[];
  /** The closing error of the tape may be spread over the sides. */
  spread: boolean;
  /** Two corners and the diagonal between them, as a check. */
  diagonal: string;
  /** Old tile stays above the walls: a renovation. */
  kept: boolean;
  /** Sides that are outside walls of the house. */
  outsideWalls: string[];
  /** Round or square, or a line. */
  drainKind: 'point' | 'line';
  /** A line drain that runs from front to back. */
  turned: boolean;
  /** One joint on each wall, or boards of a size laid out. */
  boards: 'line' | 'laid';
  /** How sheets lie. */
  sheetRun: 'level' | 'upright';
  /** Whether it is sealed, and how it falls. */
  ceiling: 'none' | 'flat' | 'sloped';
  /** Its lower edge where it slopes, as typed. */
  ceilingLow: string;
  /** As typed. */
  niches: NicheTyped[];
  /** As typed. */
  benches: BenchTyped[];
  /** As typed. */
  pipes: PipeTyped[];
}

/** Lengths that may be left empty: there is then no such part. */
export const OPTIONAL: ReadonlySet<LengthName> = new Set(['outside', 'boardJoint', 'sheetLap', 'sheetOffset']);

/** Which lengths a drawing needs at all: the others are not read. */
export function lengthsOf(typed: Typed): LengthName[] {
  const kinds = Object.values(typed.kinds);
  const tape = typed.shape === 'tape';
  const first = ['neo-angle', 'l-shape', 'half-wall'].includes(typed.shape);
  const half = typed.shape === 'half-wall' || kinds.includes('half-wall');
  const needed: [boolean, LengthName[]][] = [
    [!tape, ['width', 'depth']],
    [first, ['first']],
    [typed.shape === 'neo-angle' || typed.shape === 'l-shape', ['second']],
    [true, ['wallHeight', 'curbHeight', 'curbWidth', 'outside', 'drainLeft', 'drainFront', 'sheetLap']],
    [half, ['halfHeight', 'halfThick']],
    [typed.drainKind === 'line', ['drainLong', 'drainWide']],
    [typed.boards === 'line', ['boardJoint']],
    [typed.boards === 'laid', ['sheetLong', 'sheetShort', 'sheetOffset']],
    [typed.ceiling === 'sloped', ['ceilingRise']],
  ];
  return needed.flatMap(([is, names]) => (is ? names : []));
}

/** The lengths that a form begins with. */
type Start = Pick<Typed, LengthName>;
/** A usual alcove, in inches. */
const INCHES: Start = {
  width: '60',
  depth: '36',
  first: '24',
  second: '24',
  wallHeight: '96',
  curbHeight: '6',
  curbWidth: '4 1/2',
  halfHeight: '42',
  halfThick: '4 1/2',
  outside: '',
  drainLeft: '30',
  drainFront: '18',
  drainLong: '28',
  drainWide: '2 1/2',
  boardJoint: '48',
  sheetLap: '39',
  sheetLong: '60',
  sheetShort: '36',
  sheetOffset: '',
  ceilingRise: '2',
};
/** A usual alcove, in millimetres. */
const METRIC: Start = {
  width: '1500',
  depth: '900',
  first: '600',
  second: '600',
  wallHeight: '2400',
  curbHeight: '150',
  curbWidth: '110',
  halfHeight: '1050',
  halfThick: '110',
  outside: '',
  drainLeft: '750',
  drainFront: '450',
  drainLong: '700',
  drainWide: '60',
  boardJoint: '1200',
  sheetLap: '1000',
  sheetLong: '1500',
  sheetShort: '900',
  sheetOffset: '',
  ceilingRise: '150',
};

/** A form as it opens: an alcove of common size, its valve and arm in the left wall. */
export function startTyped(unit: 'in' | 'mm', id: (part: string) => string): Typed {
  const inch = unit === 'in';
  const pipe = (part: string, kind: PipeTyped['kind'], height: string): PipeTyped => ({
    id: id(part),
    kind,
    wall: 'left',
    along: inch ? '18' : '450',
    height,
  });
  const taped = (inch ? ['60', '36', '60', '36'] : ['1500', '900', '1500', '900']).map((length, k) => ({
    key: `side-${k + 1}`,
    length,
    angle: '90',
  }));
  return {
    ...(inch ? INCHES : METRIC),
    shape: 'alcove',
    kinds: {},
    taped,
    spread: false,
    diagonal: '',
    kept: false,
    outsideWalls: [],
    drainKind: 'point',
    turned: false,
    boards: 'line',
    sheetRun: 'level',
    ceiling: 'none',
    ceilingLow: 'back',
    niches: [],
    benches: [],
    pipes: [pipe('valve', 'valve', inch ? '44' : '1100'), pipe('arm', 'shower-arm', inch ? '78' : '2000')],
  };
}

/** Sizes that a shape opens with where they differ from an alcove's. */
const SHAPE_SIZES: Partial<Record<Typed['shape'], { in: Partial<Start>; mm: Partial<Start> }>> = {
  'neo-angle': {
    in: { width: '48', depth: '48', drainLeft: '22', drainFront: '26' },
    mm: { width: '1200', depth: '1200', drainLeft: '550', drainFront: '650' },
  },
  corner: {
    in: { width: '42', depth: '42', drainLeft: '21', drainFront: '21' },
    mm: { width: '1050', depth: '1050', drainLeft: '525', drainFront: '525' },
  },
  'l-shape': {
    in: { width: '72', depth: '60', first: '36', second: '24', drainLeft: '36', drainFront: '40' },
    mm: { width: '1800', depth: '1500', first: '900', second: '600', drainLeft: '900', drainFront: '1000' },
  },
};

/** The sizes to show when another shape is chosen: those that nobody has changed become the new shape's own. */
export function sizesFor(typed: Typed, shape: Typed['shape'], unit: 'in' | 'mm'): Partial<Start> {
  const plain = unit === 'in' ? INCHES : METRIC;
  const own = (of: Typed['shape']): Start => ({ ...plain, ...SHAPE_SIZES[of]?.[unit] });
  const [before, after] = [own(typed.shape), own(shape)];
  return Object.fromEntries(LENGTHS.filter((n) => typed[n] === before[n]).map((n) => [n, after[n]]));
}

/** Where the parts of a shape stand in another one: on the side of the same name, else on its last. */
export function movedParts(typed: Typed, shape: Typed['shape']): Pick<Typed, 'niches' | 'benches' | 'pipes'> {
  const names =
    shape === 'tape'
      ? typed.taped.map((s) => s.key)
      : roomShape(shape, { widthMm: 1, depthMm: 1, firstMm: 1, secondMm: 1 }).sides.map((s) => s.name);
  const moved = <P extends { wall: string }>(part: P): P =>
    names.includes(part.wall) ? part : { ...part, wall: names.at(-1)! };
  return {
    niches: typed.niches.map(moved),
    benches: typed.benches.map(moved),
    pipes: typed.pipes.map(moved),
  };
}

/** A niche as it is added: of common size, at a height that most people reach. */
export function newNiche(unit: 'in' | 'mm', id: string, wall: string): NicheTyped {
  return unit === 'in'
    ? { id, wall, along: '20', sill: '48', width: '12', height: '14', depth: '3 1/2', shelf: '' }
    : { id, wall, along: '500', sill: '1200', width: '300', height: '350', depth: '90', shelf: '' };
}

/** A bench as it is added: in a corner, at the height of a chair. */
export function newBench(unit: 'in' | 'mm', id: string, wall: string): BenchTyped {
  return unit === 'in'
    ? { id, kind: 'corner', wall, along: '0', width: '16', depth: '16', top: '18', under: '15' }
    : { id, kind: 'corner', wall, along: '0', width: '400', depth: '400', top: '450', under: '380' };
}
