import { lowestCurbMm, outsideFaces } from '../checks/waterProof';
import { DRY, type SiteTest, type SiteTestKind, WATER } from '../log/callBodies';
import { edgeId } from '../shower/geometry/showerGeometry';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { isWall } from '../shower/geometry/wallFrame';
import { type Odds, STARTING_ODDS } from './odds';
import { SPREAD_MM } from './startingValues';
import { edgeOf, type Suspect } from './suspects';
import { type WettingTest, wetsOf } from './traceWets';

/** One name for a test: what was done is not proposed again. */
export const testKey = ({ kind, levelMm, wall, corner, element }: SiteTest): string =>
  [kind, levelMm === undefined ? '' : Math.round(levelMm), wall ?? '', corner ?? '', element ?? '']
    .filter((part) => part !== '')
    .join(' ');

/** Minutes that each takes [common practice, no source; a flood: its filling and two hours of looking]. */
const TEST_MINUTES: Readonly<Record<SiteTestKind, number>> = {
  supply: 20,
  'drain-line': 15,
  flood: 140,
  spray: 25,
  door: 20,
  dam: 30,
  map: 15,
  trim: 15,
  open: 60,
};
/** A flood that is raised stands already: it takes the raising and the looking alone, minutes [common practice, no source]. */
const RAISE_MINUTES = 75;

/** Minutes that a test takes after others: water that stands is raised, not filled again. */
export function minutesOf(test: SiteTest, done: readonly SiteTest[]): number {
  const stands = done.some((d) => d.kind === 'flood' && (d.levelMm ?? 0) < (test.levelMm ?? 0));
  return test.kind === 'flood' && stands ? RAISE_MINUTES : TEST_MINUTES[test.kind];
}

/** What a test spoils, as minutes of work to make it good again [common practice, no source]. */
export const DAMAGE_MINUTES: Readonly<Record<SiteTestKind, number>> = {
  supply: 0,
  'drain-line': 0,
  flood: 0,
  spray: 0,
  door: 0,
  dam: 0,
  map: 0,
  trim: 5,
  open: 240,
};

/** Sides of a shower that a moisture meter tells apart: its edges, and round the drain. */
function sidesOf(model: ShowerModel): { id: string; at: readonly [number, number] }[] {
  const { footprint, drain } = model.geometry;
  const edges = footprint.map((a, k) => {
    const b = footprint[(k + 1) % footprint.length]!;
    return { id: edgeId(model.geometry, k), at: [(a.xMm + b.xMm) / 2, (a.yMm + b.yMm) / 2] as const };
  });
  return [...edges, { id: 'drain', at: [drain.xMm, drain.yMm] as const }];
}

/** What each test can show. */
export function outcomesOf(model: ShowerModel, { kind }: SiteTest): string[] {
  return kind === 'map' ? [...sidesOf(model).map((s) => s.id), DRY] : [WATER, DRY];
}

/** How likely a moisture map shows nothing although there is water, and how often it shows any other side [invented starting values]. */
const MAP_SHOWS_NOTHING = 0.12;
const MAP_ANY_SIDE = 0.15;

/** How likely each side is the wettest, where a suspect lets water through. */
function mapGiven(model: ShowerModel, suspect: Suspect): number[] {
  const sides = sidesOf(model);
  const weights = sides.map(({ at }) => {
    const reach = suspect.points.map((p) => {
      const mm = Math.hypot(p[0] - at[0], p[1] - at[1]);
      return Math.exp(-(mm * mm) / (2 * SPREAD_MM * SPREAD_MM));
    });
    return reach.reduce((sum, r) => sum + r, 0) / reach.length;
  });
  const total = weights.reduce((sum, w) => sum + w, 0);
  const shows = 1 - MAP_SHOWS_NOTHING;
  const given = weights.map(
    (w) => shows * ((1 - MAP_ANY_SIDE) * (total > 0 ? w / total : 1 / sides.length) + MAP_ANY_SIDE / sides.length),
  );
  return [...given, MAP_SHOWS_NOTHING];
}

/** How likely a look behind a trim shows water [invented starting values]. */
const TRIM_SHOWS = { opening: 0.8, supply: 0.5 };
/** An opened tile shows the way, or that it is none [invented starting values]. */
const OPEN_SHOWS = 0.97;

/** What a test wets, by element; asked once for a test, not once for each suspect. */
function wetShares(model: ShowerModel, test: SiteTest): (suspect: Suspect) => number {
  const wetting: WettingTest = { kind: test.kind as WettingTest['kind'], levelMm: test.levelMm, wall: test.wall };
  const wets = wetsOf(model, wetting);
  const byId = new Map(wets.ok ? wets.value.elements.map((e) => [e.id, e.lengthMm]) : []);
  return ({ id, lengthMm }) => {
    const mm = byId.get(id);
    return mm === undefined ? 0 : lengthMm > 0 ? Math.min(1, mm / lengthMm) : 1;
  };
}

/** A dam of putty round a corner keeps water within so far of it, mm, and stands so high [common practice, no source]. */
const DAM_MM = 400;
const DAM_HIGH_MM = 60;

/** What stands in the water behind a dam round a corner of the floor. */
function inDam(model: ShowerModel, corner: number): (suspect: Suspect) => number {
  const at = model.geometry.footprint[corner];
  const floorMm = model.geometry.perimeterRiseMm ?? 0;
  return ({ points, faces }) => {
    if (!at || outsideFaces(faces)) return 0;
    const wet = points.filter(
      (p) => Math.hypot(p[0] - at.xMm, p[1] - at.yMm) <= DAM_MM && p[2] <= floorMm + DAM_HIGH_MM,
    );
    return faces.length === 0 ? 0 : wet.length / points.length;
  };
}

/** Water that stands on a bed finds what does not drain; water that only runs over it, less often [invented starting values]. */
const BED_SHOWS = { flood: 0.4, spray: 0.15 };

/** How likely each outcome of a test is under each suspect: a row for each outcome. */
export function testGiven(
  model: ShowerModel,
  suspects: readonly Suspect[],
  test: SiteTest,
  odds: Odds = STARTING_ODDS,
): number[][] {
  if (test.kind === 'map') {
    const columns = suspects.map((s) => mapGiven(model, s));
    return outcomesOf(model, test).map((_, row) => columns.map((column) => column[row]!));
  }
  const water = waterGiven(model, suspects, test, odds);
  return [water, water.map((p) => 1 - p)];
}

/** How likely a test shows water under each suspect. */
function waterGiven(
  model: ShowerModel,
  suspects: readonly Suspect[],
  test: SiteTest,
  { falseWater, standing, running }: Odds,
): number[] {
  if (test.kind === 'open') return suspects.map((s) => (s.id === test.element ? OPEN_SHOWS : falseWater));
  if (test.kind === 'trim')
    return suspects.map((s) =>
      s.id === test.element ? TRIM_SHOWS.opening : s.kind === 'supply' ? TRIM_SHOWS.supply : falseWater,
    );
  const share = test.kind === 'dam' ? inDam(model, test.corner ?? -1) : wetShares(model, test);
  const shows = test.kind === 'flood' || test.kind === 'dam' ? standing : running;
  return suspects.map((s) => {
    if (s.kind === 'bed' && (test.kind === 'flood' || test.kind === 'spray')) return BED_SHOWS[test.kind];
    return falseWater + (shows - falseWater) * share(s);
  });
}

/** Levels that a flood is raised to step by step: over the drain alone, over the floor’s edge, to below the curb, mm over the drain’s rim. */
export function floodLevels(model: ShowerModel): number[] {
  const rise = model.geometry.perimeterRiseMm ?? 0;
  const top = (lowestCurbMm(model) ?? rise + 60) - 10;
  const levels = [Math.max(5, rise - 5), rise + 15, top].filter((level) => level > 0 && level <= top);
  return [...new Set(levels.map((level) => Math.round(level)))].sort((a, b) => a - b);
}

/** Every test that a shower allows; tile is opened at what is suspected most alone. */
export function siteTests(model: ShowerModel, likeliest: readonly Suspect[]): SiteTest[] {
  const walls = model.geometry.edges.flatMap((e, k) => (isWall(e) ? [edgeId(model.geometry, k)] : []));
  const hasDoor = model.geometry.edges.some((e) => e.kind === 'curb' || e.kind === 'open');
  return [
    ...(model.penetrations.length > 0 ? [{ kind: 'supply' as const }] : []),
    { kind: 'drain-line' },
    ...floodLevels(model).map((levelMm) => ({ kind: 'flood' as const, levelMm })),
    ...walls.map((wall) => ({ kind: 'spray' as const, wall })),
    ...(hasDoor ? [{ kind: 'door' as const }] : []),
    ...model.geometry.footprint.map((_, corner) => ({ kind: 'dam' as const, corner })),
    { kind: 'map' },
    ...model.penetrations.filter((p) => p.kind === 'valve').map(({ id }) => ({ kind: 'trim' as const, element: id })),
    ...likeliest.filter((s) => s.faces.length > 0).map(({ id }) => ({ kind: 'open' as const, element: id })),
  ];
}

/** A test that is on what a drawing has no more tells nothing. */
export function isPossible(model: ShowerModel, suspects: readonly Suspect[], test: SiteTest): boolean {
  if (test.kind === 'spray') return isWall(model.geometry.edges[edgeOf(model, test.wall ?? '')] ?? { kind: 'open' });
  if (test.kind === 'dam') return model.geometry.footprint[test.corner ?? -1] !== undefined;
  if (test.kind === 'open' || test.kind === 'trim') return suspects.some((s) => s.id === test.element);
  return test.kind !== 'flood' || test.levelMm !== undefined;
}
