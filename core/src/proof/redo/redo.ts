import { distanceTo, facesOf, lowestOf, partsOfFace, type Shape, shapeOf, stretchOn } from '../../checks/place';
import { WHOLE_SHOWER } from '../../checks/requirements';
import type { EntryOf } from '../../log/entry';
import type { Place } from '../../log/places';
import { allEvidence, type Evidence, type ShowerState } from '../../log/state';
import { followsStage } from '../../rules/checks/check';
import type { Point3 } from '../../shower/geometry/point';
import type { ShowerModel } from '../../shower/geometry/showerModel';
import type { Stretch } from '../../shower/seams/intervals';
import { pointOnSeam } from '../../shower/seams/seam';
import { beginStage, takeReleaseBack } from '../fold/stageState';
import { isUnderFlood, voidFlood } from '../water/foldFlood';

const STEP_MM = 10;

/** Parts of a seam within reach of a shape in space, to the step of 10 mm. */
function withinReach(points: readonly Point3[], lengthMm: number, shape: Shape, reachMm: number): Stretch[] {
  const stretches: Stretch[] = [];
  for (let at = 0; at < lengthMm; at += STEP_MM) {
    const to = Math.min(lengthMm, at + STEP_MM);
    if (distanceTo(pointOnSeam(points, (at + to) / 2), shape) <= reachMm) stretches.push({ fromMm: at, toMm: to });
  }
  return stretches;
}

function voidOnStretch(e: Evidence, stretch: Stretch | null): boolean {
  if (stretch === null) {
    e.voided = true;
    return true;
  }
  if (e.kind === 'reading') {
    const inside = e.atMm >= stretch.fromMm && e.atMm <= stretch.toMm;
    if (inside) e.voided = true;
    else e.voids.push(stretch);
    return inside;
  }
  if (stretch.toMm <= e.stretch.fromMm || stretch.fromMm >= e.stretch.toMm) return false;
  e.voids.push(stretch);
  return true;
}

/** One place of a redo, with what it is on this drawing. */
interface Redone {
  model: ShowerModel;
  place: Place;
  order: number;
  shape: Shape | null;
  /** Everything that goes with a face; null for a place that is no face. */
  parts: ReadonlySet<string> | null;
  reachMm: number;
}

/** What a redo of one place does to one piece of evidence: true when something was taken away. */
function take(redone: Redone, e: Evidence, order: number): boolean {
  const { model, place, shape, parts } = redone;
  if (e.voided || order < redone.order) return false;
  if (place.element === WHOLE_SHOWER || parts?.has(e.element)) return voidOnStretch(e, null);
  const seam = model.seams.find((s) => s.id === e.element);
  if (e.element === place.element) {
    const whole = !seam || place.fromMm === undefined || place.toMm === undefined;
    const stretch = whole ? null : stretchOn(seam, place);
    return whole || stretch !== null ? voidOnStretch(e, stretch) : false;
  }
  const later = order > redone.order;
  if (model.faces.some((f) => f.id === e.element))
    return (later || e.kind === 'look') && facesOf(model, place.element).includes(e.element) && voidOnStretch(e, null);
  if (!later || !shape) return false;
  if (seam)
    return withinReach(seam.points, seam.lengthMm, shape, redone.reachMm).filter((s) => voidOnStretch(e, s)).length > 0;
  const own = shapeOf(model, { element: e.element });
  const point = own && 'line' in own ? own.line[0] : undefined;
  return point !== undefined && distanceTo(point, shape) <= redone.reachMm && voidOnStretch(e, null);
}

/** Below the water line a redo voids the whole test: it proved the basin as it was. */
function redoInWater(state: ShowerState, model: ShowerModel, redo: EntryOf<'redo'>): void {
  if (!state.flood || !isUnderFlood(state, redo.body.stage)) return;
  const lowest = Math.min(...redo.body.places.map((p) => lowestOf(model, p)));
  if (lowest <= state.flood.waterLineMm) voidFlood(state, { cause: 'redo', entry: redo.id, at: redo.observedAt });
}

/** A stretch built again wants a reading of its own, however close its neighbours stand. */
function rememberStretch(state: ShowerState, place: Place, stageOrder: number): void {
  if (place.fromMm === undefined || place.toMm === undefined) return;
  const known = state.redone.get(place.element) ?? [];
  state.redone.set(place.element, [...known, { place, stageOrder, seq: state.seq }]);
}

/** Acceptances end that lie on a redone place, at its stage or a later one. */
function endDeviations(state: ShowerState, { place, order, parts }: Redone, orders: ReadonlyMap<string, number>): void {
  for (const d of state.deviations.values()) {
    const { element } = d.asked.place;
    const hit = place.element === WHOLE_SHOWER || element === place.element || parts?.has(element);
    if (hit && (orders.get(d.asked.stage) ?? 0) >= order) d.ended = true;
  }
}

/** Stages with a wait that begins anew when this stage is built again. */
export function stagesWaitingFor(state: ShowerState, stageKey: string): string[] {
  return (state.rules?.method.stages ?? [])
    .filter((s) => s.checks.some((c) => followsStage(c, stageKey)))
    .map((s) => s.key);
}

/**
 * Applies a redo: evidence of its stage and later ones on its stretch goes; of a face with its seams, corners, openings and
 * what lies on it; of the shower all of it; in space, later-stage elements within the rule book's reach and looks at a whole
 * area it lies on; below the water line the whole flood test. Releases that rested on what went are taken back, and those
 * of waits that begin anew. Acceptances on the place end.
 */
export function applyRedo(state: ShowerState, redo: EntryOf<'redo'>): void {
  state.redos.push(redo);
  state.seqOf.set(redo.id, state.seq);
  const model = state.geometry?.model;
  const orders = new Map(state.rules?.method.stages.map((s) => [s.key, s.order]) ?? []);
  const order = orders.get(redo.body.stage);
  if (!model || order === undefined) return;
  const concerned = new Set([redo.body.stage, ...stagesWaitingFor(state, redo.body.stage)]);
  const taken: Pick<Evidence, 'stage' | 'check' | 'element' | 'side'>[] = [];
  state.provedAgain.set(redo.id, taken);
  for (const place of redo.body.places) {
    const isFace = model.faces.some((f) => f.id === place.element);
    const redone: Redone = {
      model,
      place,
      order,
      shape: shapeOf(model, place),
      parts: isFace ? partsOfFace(model, place.element) : null,
      reachMm: state.rules!.book.redoReachMm,
    };
    for (const e of allEvidence(state)) {
      if (!take(redone, e, orders.get(e.stage) ?? 0)) continue;
      concerned.add(e.stage);
      taken.push({ stage: e.stage, check: e.check, element: e.element, side: e.side });
    }
    rememberStretch(state, place, order);
    endDeviations(state, redone, orders);
  }
  beginStage(state, redo.body.stage);
  for (const key of concerned) takeReleaseBack(state, key, 'redo', redo.id);
  redoInWater(state, model, redo);
  const defect = redo.body.defect ? state.defects.get(redo.body.defect) : undefined;
  if (defect) defect.redoneAt = redo.observedAt;
}
