import {
  FALL_RESERVE_MM,
  type FallDesign,
  fallDesign,
  MAX_FALL,
  MIN_FALL,
} from '@careful-seam/core/floor/fall/fallDesign';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { edgeLengthMm } from '@careful-seam/core/shower/geometry/checkGeometry';
import { type Room, type RoomSide, roomShape } from '@careful-seam/core/shower/geometry/roomShapes';
import type {
  Bench,
  Edge,
  Niche,
  Penetration,
  ShowerGeometry,
  WallLine,
} from '@careful-seam/core/shower/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import {
  diagonalErrorMm,
  outOfSquareMm,
  spreadClosing,
  type Traverse,
  traverse,
} from '@careful-seam/core/shower/geometry/traverse';
import { type BoardLayout, boardLayout } from '@careful-seam/core/walls/boardLayout';
import { OPENING_MM, SHELF_MM } from '@careful-seam/core/walls/usualSizes';
import { problemWords } from '../../ui/words';
import { type DrawingWords, type Field, LengthReader, type Problems } from './lengthReader';
import { type LengthName, lengthsOf, OPTIONAL, type Typed } from './typed';

/** A room as the tape went round it. */
interface Tape {
  /** Where it went before it was closed, and by how much it missed. */
  open: Traverse;
  /** The outline can be drawn: it closes, or its error was spread. */
  closes: boolean;
  /** The diagonal that would show whether it is square, mm; null without one. */
  diagonalMm: number | null;
  /** How far it is out of square, mm; null where that was not taped. */
  outOfSquareMm: number | null;
}

/** What is drawn from what is typed: all that can be, with what can not be beside its field. */
export interface Drawn {
  /** The shower; null while it can not be drawn. */
  model: ShowerModel | null;
  /** What is kept of it; null while it can not be drawn. */
  geometry: ShowerGeometry | null;
  /** The sides of the room, in their order. */
  sides: readonly RoomSide[];
  /** The fall of the floor; null without a rise. */
  fall: FallDesign | null;
  /** How the tape closed; null where the room was not taped. */
  tape: Tape | null;
  /** Pieces, sheets and the narrowest strip of the boards; null where they are not laid out. */
  boards: { pieces: number; sheets: number; narrowestMm: number } | null;
  /** What is wrong, by its field. */
  problems: Problems;
}

/** All lengths of the form, mm. */
type Sizes = Record<LengthName, number>;
/** The id of a part, kept while the form is changed. */
type Id = (part: string) => string;

/** A length of the form that is less is a slip of the finger, mm [common practice, no source]. */
const LEAST_MM: Partial<Record<LengthName, number>> = {
  width: 600,
  depth: 600,
  first: 100,
  second: 100,
  wallHeight: 300,
  curbWidth: 25,
  halfThick: 25,
  sheetShort: 200,
  sheetLong: 200,
};
/** A length of the form that is more is a slip of the finger, mm [common practice, no source]. */
const MOST_MM: Partial<Record<LengthName, number>> = {
  width: 6000,
  depth: 6000,
  wallHeight: 5000,
  curbHeight: 600,
  curbWidth: 600,
  halfThick: 600,
};
/** A taped outline whose end misses its start by less is drawn as it is, mm: less than the tape's own step. */
const CLOSES_MM = 2;

/** All lengths, with those that can not be beside their field. */
function readSizes(reader: LengthReader, typed: Typed, words: DrawingWords): Sizes {
  const sizes = {} as Sizes;
  for (const name of lengthsOf(typed))
    sizes[name] = reader.length(typed[name], name, {
      name: words.names[name],
      optional: OPTIONAL.has(name),
      ...(LEAST_MM[name] ? { least: LEAST_MM[name] } : {}),
      ...(MOST_MM[name] ? { most: MOST_MM[name] } : {}),
    });
  return sizes;
}

/** The sides with what each of them is. */
const withKinds = (sides: readonly RoomSide[], typed: Typed): RoomSide[] =>
  sides.map((side) => ({ ...side, kind: typed.kinds[side.name] ?? side.kind }));

/** A room from the lengths and angles of the tape, closed by the compass rule. */
function tapedRoom(reader: LengthReader, typed: Typed, words: DrawingWords): { room: Room; tape: Tape } | null {
  const sides = typed.taped.map((side, k) => {
    const angleDeg = Number(side.angle.replace(',', '.'));
    if (!Number.isFinite(angleDeg) || side.angle.trim() === '') reader.tell(`taped.${k}`, words.angle);
    return { lengthMm: reader.length(side.length, `taped.${k}`), angleDeg };
  });
  if (!reader.sound) return null;
  const open = traverse(sides);
  if (!open.ok) {
    const k = /^sides\.(\d+)/.exec(open.problem.field)?.[1];
    reader.tell(k === undefined ? 'form' : `taped.${Number(k)}`, problemWords(open.problem));
    return null;
  }
  const closes = open.value.closingMm < CLOSES_MM || typed.spread;
  const footprint = closes ? spreadClosing(open.value, sides) : open.value.points;
  const diagonal = reader.length(typed.diagonal, 'diagonal', { optional: true });
  const tape: Tape = {
    open: open.value,
    closes,
    diagonalMm: diagonal > 0 ? diagonalErrorMm(footprint, 0, 2, diagonal) : null,
    outOfSquareMm: footprint.length === 4 && diagonal > 0 ? outOfSquareMm(footprint) : null,
  };
  const names = typed.taped.map((s, k): RoomSide => ({ name: s.key, kind: k === 0 ? 'curb' : 'wall' }));
  return { room: { footprint, sides: withKinds(names, typed) }, tape };
}

/** The sides with their heights, and the boards on the walls. */
function edges(
  typed: Typed,
  s: Sizes,
  room: Room,
  id: Id,
  reader: LengthReader,
): { edges: Edge[]; boards: Drawn['boards'] } {
  let boards: Drawn['boards'] = null;
  const outside = s.outside > 0 ? { outsideMm: s.outside } : {};
  const built = room.sides.map((side, i): Edge => {
    if (side.kind === 'open') return { kind: 'open', id: id(side.name), ...outside };
    if (side.kind === 'curb')
      return { kind: 'curb', id: id(side.name), heightMm: s.curbHeight, widthMm: s.curbWidth, ...outside };
    const heightMm = side.kind === 'half-wall' ? s.halfHeight : s.wallHeight;
    const laid =
      typed.boards === 'laid' ? layBoards(typed, s, edgeLengthMm(room.footprint, i), heightMm, reader) : null;
    if (laid)
      boards = {
        pieces: (boards?.pieces ?? 0) + laid.pieces,
        sheets: (boards?.sheets ?? 0) + laid.sheets,
        narrowestMm: Math.min(boards?.narrowestMm ?? Infinity, laid.narrowestMm),
      };
    const lines = {
      boardJoints: laid
        ? laid.joints.map((j, k): WallLine => ({ id: id(`${side.name} board ${k}`), ...j }))
        : levelLine(id(`${side.name}Joint`), s.boardJoint, heightMm, side.kind),
      sheetLaps: levelLine(id(`${side.name}Lap`), s.sheetLap, heightMm, side.kind),
    };
    if (side.kind === 'half-wall')
      return { kind: 'half-wall', id: id(side.name), heightMm, thicknessMm: s.halfThick, ...lines };
    const kept = typed.kept ? { keptAbove: true } : {};
    const cold = (typed.outsideWalls ?? []).includes(side.name) ? { outsideWall: true } : {};
    return { kind: 'wall', id: id(side.name), heightMm, ...kept, ...cold, ...lines };
  });
  return { edges: built, boards };
}

/** One joint at a height; a half wall that ends below it has none. */
function levelLine(id: string, atMm: number | undefined, heightMm: number, kind: Edge['kind']): WallLine[] {
  if (!atMm || (kind === 'half-wall' && atMm >= heightMm)) return [];
  return [{ id, run: 'level', atMm }];
}

/** Boards of a size laid on the walls, with their joints. */
function layBoards(
  typed: Typed,
  s: Sizes,
  wallLengthMm: number,
  wallHeightMm: number,
  reader: LengthReader,
): BoardLayout | null {
  const laid = boardLayout({
    wallLengthMm,
    wallHeightMm,
    sheetLongMm: s.sheetLong,
    sheetShortMm: s.sheetShort,
    run: typed.sheetRun,
    offsetMm: s.sheetOffset,
  });
  if (laid.ok) return laid.value;
  reader.tell(laid.problem.field === 'offsetMm' ? 'sheetOffset' : 'sheetLong', problemWords(laid.problem));
  return null;
}

/** The niches that can be. */
function niches(typed: Typed, room: Room, reader: LengthReader): Niche[] {
  return typed.niches.map((n, k) => {
    const read = (text: string, optional = false) => reader.length(text, `niches.${k}`, { optional });
    const shelf = read(n.shelf, true);
    return {
      id: n.id,
      edge: room.sides.findIndex((side) => side.name === n.wall),
      alongMm: read(n.along),
      sillMm: read(n.sill),
      widthMm: read(n.width),
      heightMm: read(n.height),
      depthMm: read(n.depth),
      ...(shelf > 0 ? { shelves: [{ id: `${n.id.slice(0, 8)}-1`, heightMm: shelf, thicknessMm: SHELF_MM }] } : {}),
    };
  });
}
/** The benches that can be. */
function benches(typed: Typed, room: Room, reader: LengthReader): Bench[] {
  const n = room.sides.length;
  return typed.benches.map((b, k): Bench => {
    const read = (text: string) => reader.length(text, `benches.${k}`);
    const edge = room.sides.findIndex((side) => side.name === b.wall);
    const size = { id: b.id, topMm: read(b.top) };
    if (b.kind === 'corner')
      return { kind: 'corner', ...size, corner: (edge + n) % n, legLeftMm: read(b.width), legRightMm: read(b.depth) };
    const across = { edge, alongMm: read(b.along), widthMm: read(b.width), depthMm: read(b.depth) };
    return b.kind === 'floating'
      ? { kind: 'along', ...size, ...across, undersideMm: read(b.under) }
      : { kind: 'along', ...size, ...across };
  });
}

/** What comes through the walls. */
function pipes(typed: Typed, room: Room, reader: LengthReader): Penetration[] {
  return typed.pipes.map((p, k) => ({
    id: p.id,
    kind: p.kind,
    edge: room.sides.findIndex((side) => side.name === p.wall),
    alongMm: reader.length(p.along, `pipes.${k}`),
    heightMm: reader.length(p.height, `pipes.${k}`),
    diameterMm: OPENING_MM[p.kind],
  }));
}

/** The field of the form that a fault of the geometry belongs to. */
function fieldOf(problem: Problem, sides: readonly RoomSide[]): Field {
  const edge = /^edges\.(\d+)\.heightMm/.exec(problem.field);
  if (edge) return HEIGHT_OF[sides[Number(edge[1])]?.kind ?? 'wall'];
  const row = /^(niches|benches|penetrations)\.(\d+)/.exec(problem.field);
  if (row) return `${row[1] === 'penetrations' ? 'pipes' : (row[1] as 'niches' | 'benches')}.${Number(row[2])}`;
  if (problem.field.startsWith('drain')) return 'drainLeft';
  if (/boardJoints/.test(problem.field)) return 'boardJoint';
  if (/sheetLaps/.test(problem.field)) return 'sheetLap';
  return problem.field.startsWith('footprint') && sides[0]?.name === 'front' ? 'width' : 'form';
}
/** Which field says how high a side is. */
const HEIGHT_OF: Record<Edge['kind'], LengthName | 'form'> = {
  wall: 'wallHeight',
  'half-wall': 'halfHeight',
  curb: 'curbHeight',
  open: 'form',
};

/** The room of the shape that is chosen. */
function readRoom(
  reader: LengthReader,
  typed: Typed,
  s: Sizes,
  words: DrawingWords,
): { room: Room; tape: Tape | null } | null {
  if (typed.shape === 'tape') return tapedRoom(reader, typed, words);
  const sizes = { widthMm: s.width, depthMm: s.depth, firstMm: s.first ?? 0, secondMm: s.second ?? 0 };
  const room = roomShape(typed.shape, sizes);
  return { room: { ...room, sides: withKinds(room.sides, typed) }, tape: null };
}

/** The ceiling, flat or with its fall. */
function ceilingOf(typed: Typed, s: Sizes, room: Room, unit: 'in' | 'mm'): Pick<ShowerGeometry, 'ceiling'> {
  const base = { heightMm: s.wallHeight, waterproof: true };
  if (typed.ceiling === 'flat') return { ceiling: { kind: 'flat', ...base } };
  if (typed.ceiling !== 'sloped') return {};
  const lowEdge = Math.max(
    0,
    room.sides.findIndex((side) => side.name === typed.ceilingLow),
  );
  return {
    ceiling: { kind: 'sloped', ...base, lowEdge, slope: Math.max(0.001, s.ceilingRise / CEILING_RUN_MM[unit]) },
  };
}
/** Run that a ceiling's rise is typed for: a foot or a metre, as its field says. */
const CEILING_RUN_MM = { in: 304.8, mm: 1000 };

/** The drain, round or as a line. */
function drainOf(typed: Typed, s: Sizes, id: Id): ShowerGeometry['drain'] {
  const place = { id: id('drain'), xMm: s.drainLeft, yMm: s.drainFront };
  if (typed.drainKind === 'point') return { kind: 'point', ...place };
  return { kind: 'line', ...place, lengthMm: s.drainLong, widthMm: s.drainWide, turnDeg: typed.turned ? 90 : 0 };
}

/** Reads the form and builds the shower; every fault is told beside the field it concerns. */
export function drawShower(typed: Typed, id: Id, unit: 'in' | 'mm', words: DrawingWords): Drawn {
  const reader = new LengthReader(unit, words);
  const sizes = readSizes(reader, typed, words);
  const none = (more: Partial<Drawn> = {}): Drawn => ({
    model: null,
    geometry: null,
    sides: [],
    fall: null,
    tape: null,
    boards: null,
    ...more,
    problems: reader.problems,
  });
  const read = readRoom(reader, typed, sizes, words);
  if (!read || !reader.sound) return none(read ? { sides: read.room.sides, tape: read.tape } : {});
  const { room, tape } = read;
  const { edges: built, boards } = edges(typed, sizes, room, id, reader);
  const flat: ShowerGeometry = {
    footprint: room.footprint,
    edges: built,
    drain: drainOf(typed, sizes, id),
    niches: niches(typed, room, reader),
    benches: benches(typed, room, reader),
    penetrations: pipes(typed, room, reader),
    ...ceilingOf(typed, sizes, room, unit),
  };
  const drawnSoFar = { sides: room.sides, tape, boards };
  if (tape && !tape.closes) reader.tell('form', words.notClosed);
  if (!reader.sound) return none(drawnSoFar);
  const fall = fallDesign({
    footprint: flat.footprint,
    drain: { xMm: flat.drain.xMm, yMm: flat.drain.yMm },
    minFall: MIN_FALL,
    maxFall: MAX_FALL,
    reserveMm: FALL_RESERVE_MM,
  });
  if (!fall.ok) {
    reader.tell(fieldOf(fall.problem, room.sides), problemWords(fall.problem));
    return none(drawnSoFar);
  }
  const geometry = { ...flat, perimeterRiseMm: fall.value.riseMm + fall.value.reserveThatFitsMm };
  const model = showerModel(geometry);
  if (model.ok) return { model: model.value, geometry, fall: fall.value, ...drawnSoFar, problems: reader.problems };
  reader.tell(fieldOf(model.problem, room.sides), problemWords(model.problem));
  return none({ ...drawnSoFar, fall: fall.value });
}
