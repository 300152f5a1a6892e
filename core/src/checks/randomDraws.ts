import { sha256Hex } from '../log/chain';
import { allEvidence, type Evidence, type ShowerState } from '../log/state';
import { type DrawnPlace, drawPlaces } from '../membrane/samplingPlan';
import { type AskedOf, askedOfKind } from './asked';
import { outsideLimit } from './measured';
import { partsOfFace } from './place';
import { WHOLE_SHOWER } from './requirements';

/** A measured line that random places are drawn on. */
export type Lap = AskedOf<'measured'>;

/** The measured seams of a stage that places can be drawn on: those of the check with the longest lines, and of it alone. */
export function lapRequirements(state: ShowerState, stage: string): Lap[] {
  const all = askedOfKind(state.requirements, 'measured').filter(
    (r) => r.stage.key === stage && r.hasLength && r.check.limit.atLeastMm !== undefined,
  );
  const total = (id: string) => all.filter((r) => r.check.id === id).reduce((sum, r) => sum + r.lengthMm, 0);
  const ids = [...new Set(all.map((r) => r.check.id))].sort((a, b) => total(b) - total(a));
  return all.filter((r) => r.check.id === ids[0]);
}

/** A reading stands at the place it was drawn for within this, mm. */
const AT_ITS_PLACE_MM = 50;

/** Readings at the places of one draw. One that was taken away, or withdrawn by a redo, stays in the count. */
export interface RandomDraw {
  /** The first draw of a check on a shower is 1. */
  number: number;
  /** What its places were drawn from: anybody can draw them again. */
  seed: number;
  /** Numbers of the draw's places that were read. */
  read: ReadonlySet<number>;
  /** How many of them were outside the limit, each place by its worst reading. */
  short: number;
  /** Why it says nothing of the seams as they stand now: they were built again, or a reading does not lie where it was drawn. */
  over: 'repaired' | 'elsewhere' | null;
}

/**
 * The seed of a draw. It follows from shower, check and number, so that nobody draws until the places are convenient, and
 * every tablet draws the same.
 */
export function drawSeed(shower: string, check: string, number: number): number {
  return Number.parseInt(sha256Hex(JSON.stringify([shower, check, number])).slice(0, 8), 16);
}

/** Whether a redo after a draw's first reading built any of its lines again. */
function repairedSince(state: ShowerState, laps: readonly Lap[], firstSeq: number): boolean {
  const model = state.geometry?.model;
  const orders = new Map(state.rules?.method.stages.map((s) => [s.key, s.order]) ?? []);
  const elements = new Set(laps.map((lap) => lap.element));
  const { check, stage } = laps[0]!;
  return state.redos.some((redo) => {
    if ((state.seqOf.get(redo.id) ?? 0) < firstSeq) return false;
    if (state.provedAgain.get(redo.id)?.some((taken) => taken.check === check.id)) return true;
    if ((orders.get(redo.body.stage) ?? 0) > stage.order) return false;
    return redo.body.places.some(({ element }) => {
      if (element === WHOLE_SHOWER || elements.has(element)) return true;
      const isFace = model?.faces.some((f) => f.id === element);
      return isFace && [...partsOfFace(model!, element)].some((part) => elements.has(part));
    });
  });
}

/** True for a reading that lies where it was drawn for. */
const atItsPlace = (e: Evidence, places: readonly DrawnPlace[]): boolean => {
  const place = places[e.drawn!.number - 1]!;
  return (
    e.element === place.element &&
    e.side === place.side &&
    !e.lookAgain &&
    Math.abs(e.atMm - place.atMm) <= AT_ITS_PLACE_MM
  );
};

/**
 * Every draw of random places on the given lines (of one check), oldest first; the last one is that which goes on, empty
 * where the one before it is over. After a repair the seams are others than those that were drawn on: what was read speaks
 * no longer, and a new draw begins.
 */
export function drawsOf(state: ShowerState, laps: readonly Lap[]): RandomDraw[] {
  const { check } = laps[0]!;
  const bySeed = new Map<number, Evidence[]>();
  const drawn = allEvidence(state).filter((e) => e.check === check.id && e.drawn && e.valueMm !== null);
  for (const e of drawn.sort((a, b) => a.seq - b.seq))
    bySeed.set(e.drawn!.seed, [...(bySeed.get(e.drawn!.seed) ?? []), e]);
  const draws = [...bySeed].map(([seed, readings], i): RandomDraw => {
    const places = drawPlaces(laps, Math.max(...readings.map((e) => e.drawn!.number)), seed);
    const short = new Set(readings.filter((e) => outsideLimit(check, e.valueMm!)).map((e) => e.drawn!.number));
    const repaired = readings.some((e) => e.voided) || repairedSince(state, laps, readings[0]!.seq);
    const over = repaired ? 'repaired' : readings.every((e) => atItsPlace(e, places)) ? null : 'elsewhere';
    return { number: i + 1, seed, read: new Set(readings.map((e) => e.drawn!.number)), short: short.size, over };
  });
  if (draws.at(-1)?.over === null) return draws;
  const number = draws.length + 1;
  const seed = drawSeed(state.created?.showerId ?? '', check.id, number);
  return [...draws, { number, seed, read: new Set(), short: 0, over: null }];
}
