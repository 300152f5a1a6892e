// Invented showers of an invented firm, written as its people would write them, entry by entry.
import { FALL_RESERVE_MM, fallDesign, MAX_FALL, MIN_FALL } from '@careful-seam/core/floor/fall/fallDesign';
import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import type { Pinned } from '@careful-seam/core/rules/combineMethods';
import { type RoomShape, roomShape } from '@careful-seam/core/shower/geometry/roomShapes';
import type { Bench, Ceiling, Edge, Niche, ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { v5 } from 'uuid';
import { coatThinly } from './demoFilm';
import { demoRuleBook } from './demoRuleBook';
import { type DemoWriter, demoWriter, passStage, release, workDone } from './writer';

/** An inch, mm. */
const IN = 25.4;
/** Namespace of its ids: the same in each demo. */
const IDS = '5b0f6a52-7f0e-4b53-9b8e-0d3f1c9f7a10';

/** A shower of the demo by its sizes in inches: what a person would put on a sketch. */
interface Sketch {
  /** What it is called on site. */
  name: string;
  /** The job that it belongs to. */
  job: string;
  /** The crew that builds it. */
  crew: 'heron' | 'otter' | 'wren';
  /** The room by its shape. */
  shape: RoomShape;
  /** Along the front, in. */
  widthIn: number;
  /** From front to back, in. */
  depthIn: number;
  /** Of an L or a neo-angle, in. */
  firstIn?: number;
  /** Of an L or a neo-angle, in. */
  secondIn?: number;
  /** Height of its walls, in. */
  wallIn: number;
  /** From the left and from the front, in. */
  drainIn: [number, number];
  /** A line instead of a round one. */
  lineDrain?: boolean;
  /** What its sides are, where they are not what the shape says. */
  kinds?: Record<string, Edge['kind']>;
  /** Membrane outside of a shower without a curb, in. */
  outsideIn?: number;
  /** Old tile stays above the walls. */
  keptAbove?: boolean;
  /** With their heights over the floor, in. */
  niches?: { wall: string; alongIn: number; sillIn: number; shelfIn?: number }[];
  /** With its height over the floor, in. */
  bench?: { wall: string; alongIn?: number; widthIn: number; depthIn: number; topIn: number; underIn?: number };
  /** Sealed too. */
  ceiling?: 'flat';
  /** The method of each part. */
  rules: Pinned;
}

/** A usual curb, in. */
const CURB_IN = { high: 6, wide: 4.5 };
/** A usual half wall, in. */
const HALF_WALL_IN = { high: 42, thick: 4.5 };
/** A usual niche, in. */
const NICHE_IN = { wide: 12, high: 14, deep: 3.5, shelf: 0.75 };

/** One for each method and each way of building, and one where two methods meet. */
export const SKETCHES: readonly Sketch[] = [
  {
    name: 'Loft east',
    job: 'Wharf Terrace',
    crew: 'wren',
    shape: 'alcove',
    widthIn: 48,
    depthIn: 36,
    wallIn: 96,
    drainIn: [24, 18],
    niches: [{ wall: 'back', alongIn: 18, sillIn: 48 }],
    rules: { method: 'liquid', beginsAt: 'base', lines: ['film-a', 'cloth-a', 'wash-b'] },
  },
  {
    name: 'Cellar',
    job: 'Wharf Terrace',
    crew: 'wren',
    shape: 'corner',
    widthIn: 42,
    depthIn: 42,
    wallIn: 84,
    drainIn: [21, 21],
    rules: { method: 'liner-mortar', beginsAt: 'base' },
  },
  {
    name: 'Hall bath',
    job: 'Wharf Terrace',
    crew: 'otter',
    shape: 'alcove',
    widthIn: 60,
    depthIn: 32,
    wallIn: 96,
    drainIn: [30, 16],
    rules: { method: 'ready-pan', beginsAt: 'base' },
  },
  {
    name: 'Crew wet room',
    job: 'Yard',
    crew: 'otter',
    shape: 'curbless',
    widthIn: 72,
    depthIn: 48,
    wallIn: 96,
    drainIn: [36, 40],
    lineDrain: true,
    outsideIn: 36,
    rules: { method: 'leak-control-flange', variants: ['wet-room'] },
  },
  {
    name: 'Steam room',
    job: 'Yard',
    crew: 'heron',
    shape: 'neo-angle',
    widthIn: 54,
    depthIn: 54,
    firstIn: 27,
    secondIn: 27,
    wallIn: 90,
    drainIn: [24, 30],
    kinds: { front: 'half-wall' },
    niches: [
      { wall: 'back', alongIn: 36, sillIn: 48 },
      { wall: 'left', alongIn: 20, sillIn: 48, shelfIn: 6 },
    ],
    bench: { wall: 'back', widthIn: 24, depthIn: 14, topIn: 18 },
    ceiling: 'flat',
    rules: { method: 'bonded-sheet', beginsAt: 'base' },
  },
  {
    name: 'Guest bath',
    job: 'Wharf Terrace',
    crew: 'heron',
    shape: 'alcove',
    widthIn: 60,
    depthIn: 30,
    wallIn: 32,
    drainIn: [30, 15],
    keptAbove: true,
    rules: { method: 'bonded-sheet' },
  },
  {
    name: 'Old house',
    job: 'Yard',
    crew: 'wren',
    shape: 'half-wall',
    widthIn: 60,
    depthIn: 36,
    firstIn: 20,
    wallIn: 96,
    drainIn: [30, 18],
    rules: { method: 'sealant-board', variants: ['unlevel'] },
  },
  {
    name: 'Annex two makers',
    job: 'Yard',
    crew: 'otter',
    shape: 'alcove',
    widthIn: 54,
    depthIn: 34,
    wallIn: 96,
    drainIn: [27, 17],
    bench: { wall: 'left', alongIn: 4, widthIn: 30, depthIn: 12, topIn: 18, underIn: 15 },
    rules: { method: 'liquid', parts: { floor: 'ready-pan', curb: 'ready-pan' }, beginsAt: 'base' },
  },
];

/** The shower of a sketch as geometry. */
export function geometryOf(s: Sketch): ShowerGeometry {
  const id = (part: string) => v5(`${s.job} ${s.name} ${part}`, IDS);
  const room = roomShape(s.shape, {
    widthMm: s.widthIn * IN,
    depthMm: s.depthIn * IN,
    firstMm: (s.firstIn ?? 0) * IN,
    secondMm: (s.secondIn ?? 0) * IN,
  });
  const outside = s.outsideIn ? { outsideMm: s.outsideIn * IN } : {};
  const edges = room.sides.map((side): Edge => {
    const kind = s.kinds?.[side.name] ?? side.kind;
    if (kind === 'open') return { kind, id: id(side.name), ...outside };
    if (kind === 'curb')
      return { kind, id: id(side.name), heightMm: CURB_IN.high * IN, widthMm: CURB_IN.wide * IN, ...outside };
    if (kind === 'half-wall')
      return { kind, id: id(side.name), heightMm: HALF_WALL_IN.high * IN, thicknessMm: HALF_WALL_IN.thick * IN };
    return { kind, id: id(side.name), heightMm: s.wallIn * IN, ...(s.keptAbove ? { keptAbove: true } : {}) };
  });
  const edgeOf = (name: string) => room.sides.findIndex((side) => side.name === name);
  const drain = { id: id('drain'), xMm: s.drainIn[0] * IN, yMm: s.drainIn[1] * IN };
  const fall = fallDesign({
    footprint: room.footprint,
    drain,
    minFall: MIN_FALL,
    maxFall: MAX_FALL,
    reserveMm: FALL_RESERVE_MM,
  });
  const niches = (s.niches ?? []).map(
    (n, k): Niche => ({
      id: id(`niche ${k}`),
      edge: edgeOf(n.wall),
      alongMm: n.alongIn * IN,
      sillMm: n.sillIn * IN,
      widthMm: NICHE_IN.wide * IN,
      heightMm: NICHE_IN.high * IN,
      depthMm: NICHE_IN.deep * IN,
      ...(n.shelfIn
        ? { shelves: [{ id: id(`shelf ${k}`), heightMm: n.shelfIn * IN, thicknessMm: NICHE_IN.shelf * IN }] }
        : {}),
    }),
  );
  const bench: Bench[] = s.bench
    ? [
        {
          kind: 'along',
          id: id('bench'),
          edge: edgeOf(s.bench.wall),
          alongMm: (s.bench.alongIn ?? 0) * IN,
          widthMm: s.bench.widthIn * IN,
          depthMm: s.bench.depthIn * IN,
          topMm: s.bench.topIn * IN,
          ...(s.bench.underIn ? { undersideMm: s.bench.underIn * IN } : {}),
        },
      ]
    : [];
  const ceiling: Ceiling | null = s.ceiling ? { kind: 'flat', heightMm: s.wallIn * IN, waterproof: true } : null;
  return {
    footprint: room.footprint,
    edges,
    drain: s.lineDrain ? { kind: 'line', ...drain, lengthMm: 30 * IN, widthMm: 2.5 * IN } : { kind: 'point', ...drain },
    perimeterRiseMm: fall.ok && fall.value.verdict === 'pass' ? fall.value.riseMm : 0,
    penetrations: [
      { id: id('valve'), kind: 'valve', edge: edgeOf('left'), alongMm: 10 * IN, heightMm: 28 * IN, diameterMm: 5 * IN },
    ],
    niches,
    benches: bench,
    ...(ceiling ? { ceiling } : {}),
  };
}

/** The one whose liquid membrane is on, thin in one zone. */
const COATED = 'Loft east';

/** A shower for each method and way of building, begun; some have their base built and looked at. */
export function demoMethods(todayMs: number, find: FindRuleBook): DemoWriter[] {
  const book = demoRuleBook();
  const day = new Date(todayMs).toISOString().slice(0, 10);
  return SKETCHES.map((s, k) => {
    const w = demoWriter(`${s.job} ${s.name}`, todayMs - 30 * 3_600_000 + k * 300_000, 40 + k, find);
    w.write('inspector', 'shower-created', {
      name: s.name,
      job: s.job,
      crewId: `crew-${s.crew}`,
      timeZone: 'America/Chicago',
    });
    w.write('inspector', 'geometry-set', { version: 1, geometry: geometryOf(s) });
    const { parts, variants, lines, ...pinned } = s.rules;
    w.write('inspector', 'rules-pinned', {
      ruleBook: book.id,
      version: book.version,
      ...pinned,
      ...(parts ? { parts } : {}),
      ...(variants ? { variants: [...variants] } : {}),
      ...(lines ? { lines: [...lines] } : {}),
    });
    if (s.rules.beginsAt === 'base' && k % 2 === 0) {
      workDone(w, s.crew, 'base', day);
      w.wait(40);
      passStage(w, 'inspector', 'base');
      // A mortar bed dries overnight before anything covers it.
      w.wait(13 * 60);
      release(w, 'inspector', 'base');
    }
    if (s.name === COATED) coatThinly(w, s.crew, day, w.nowMs);
    return w;
  });
}
