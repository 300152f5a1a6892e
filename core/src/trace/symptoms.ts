import { SIGNS, type Symptom, type SymptomPlace } from '../log/callBodies';
import type { Point3 } from '../shower/geometry/point';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { isWall, onWall, wallFrame } from '../shower/geometry/wallFrame';
import { type Odds, STARTING_ODDS } from './odds';
import { SELDOM, SPREAD_MM, WICKS_MM } from './startingValues';
import { edgeOf, type Suspect } from './suspects';

/** A floor that is still dark after so long holds water under it, hours [common practice, no source]. */
export const DARK_HOURS = 24;

/** How near a distance is, 0 to 1: a bell curve. */
const near = (mm: number): number => Math.exp(-(mm * mm) / (2 * SPREAD_MM * SPREAD_MM));
const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/** A point of an edge of the footprint in plan, mm from the end that lies left as seen from inside. */
function onEdge({ geometry }: ShowerModel, index: number, alongMm: number): readonly [number, number] {
  const n = geometry.footprint.length;
  const [a, b] = [geometry.footprint[index]!, geometry.footprint[(index + 1) % n]!];
  const lengthMm = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
  const share = lengthMm === 0 ? 0 : alongMm / lengthMm;
  return [b.xMm + (a.xMm - b.xMm) * share, b.yMm + (a.yMm - b.yMm) * share];
}

/** Where a symptom is in the shower’s own space, mm; null for one that is only inside, or on an edge that the drawing has no more. */
export function symptomPoint(model: ShowerModel, place: SymptomPlace): Point3 | null {
  if (place.on === 'inside') return null;
  if (place.on === 'ceiling') return [place.xMm, place.yMm, 0];
  const index = edgeOf(model, place.edge);
  const built = model.geometry.edges[index];
  if (!built) return null;
  if (place.on === 'wall' && isWall(built))
    return onWall(wallFrame(model.geometry, index), place.alongMm, place.heightMm);
  const [x, y] = onEdge(model, index, place.alongMm);
  return [x, y, place.on === 'wall' ? place.heightMm : 0];
}

/** How near a suspect comes to a symptom’s place, 0 to 1: in plan, since water runs down and along; what lies below it only wicks up. */
export function nearness(model: ShowerModel, suspect: Suspect, place: SymptomPlace): number {
  const at = symptomPoint(model, place);
  if (place.on === 'inside') return suspect.behaviour === 'slow' ? 0.9 : suspect.behaviour === 'basin' ? 0.5 : 0.25;
  // On a side that the drawing has no more it tells of no place.
  if (at === null) return 0;
  const reach = suspect.points.map((p) => {
    const above = place.on !== 'wall' || p[2] >= at[2] - WICKS_MM ? 1 : SELDOM;
    return near(Math.hypot(p[0] - at[0], p[1] - at[1])) * above;
  });
  return mean(reach);
}

/** True for two stains that are one: of the same time, on the same thing, as near as one hole's water spreads. */
function isSame(model: ShowerModel, a: Symptom, b: Symptom): boolean {
  if (a.when !== b.when || a.place.on !== b.place.on) return false;
  const [p, q] = [symptomPoint(model, a.place), symptomPoint(model, b.place)];
  return p === null || q === null ? p === q : Math.hypot(p[0] - q[0], p[1] - q[1]) < SPREAD_MM;
}

/** Symptoms that each tell something of their own: one stain told twice is one. */
export const distinct = (model: ShowerModel, symptoms: readonly Symptom[]): Symptom[] =>
  symptoms.filter((s, k) => !symptoms.slice(0, k).some((before) => isSame(model, before, s)));

/** How likely a symptom is where a suspect lets water through. */
export function symptomGiven(
  model: ShowerModel,
  suspect: Suspect,
  symptom: Symptom,
  odds: Odds = STARTING_ODDS,
): number {
  const place = odds.anywhere + (1 - odds.anywhere) * nearness(model, suspect, symptom.place);
  const when = odds.when[suspect.behaviour][symptom.when];
  const isDark = symptom.darkHours === undefined ? null : symptom.darkHours >= DARK_HOURS;
  let signs = 1;
  for (const sign of SIGNS) {
    const told = sign === 'dark-floor' && isDark !== null ? isDark : symptom.signs.includes(sign) ? true : null;
    // What nobody told may be there all the same.
    if (told !== null) signs *= told ? odds.sign[sign][suspect.behaviour] : 1 - odds.sign[sign][suspect.behaviour];
  }
  return place * when * signs;
}
