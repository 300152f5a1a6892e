import type { EntryOf, Place } from '../entries/entry';
import { between, distance3, type Point3 } from '../geometry/point';
import type { ShowerModel } from '../geometry/showerModel';
import { pointOnSeam } from '../seams/seam';
import type { Stretch } from './intervals';
import { allEvidence, type Evidence, type ShowerState } from './state';

/** A redo reaches this far into the elements of later stages. [common practice, no source] */
export const REDO_REACH_MM = 150;
const STEP_MM = 10;

function distanceToSegment(p: Point3, a: Point3, b: Point3): number {
  const length2 = distance3(a, b) ** 2;
  if (length2 === 0) return distance3(p, a);
  const t = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1]) + (p[2] - a[2]) * (b[2] - a[2])) / length2;
  return distance3(p, between(a, b, Math.max(0, Math.min(1, t))));
}

/** The line in space that a place covers; a single point for elements without length, null for faces. */
function lineOf(model: ShowerModel, place: Place): Point3[] | null {
  const seam = model.seams.find((s) => s.id === place.element);
  if (seam) {
    const [from, to] = [place.fromMm ?? 0, place.toMm ?? seam.lengthMm];
    const inner: Point3[] = [];
    let run = 0;
    seam.points.slice(1).forEach((p, i) => {
      run += distance3(seam.points[i]!, p);
      if (run > from && run < to) inner.push(p);
    });
    return [pointOnSeam(seam.points, from), ...inner, pointOnSeam(seam.points, to)];
  }
  const point = [...model.corners, ...model.penetrations, model.drain].find((e) => e.id === place.element)?.point;
  return point ? [point, point] : null;
}

function distanceToLine(p: Point3, line: readonly Point3[]): number {
  return Math.min(...line.slice(1).map((b, i) => distanceToSegment(p, line[i]!, b)));
}

/** Parts of a seam within reach of a line in space, to the step of 10 mm. */
function withinReach(points: readonly Point3[], lengthMm: number, line: readonly Point3[]): Stretch[] {
  const stretches: Stretch[] = [];
  for (let at = 0; at < lengthMm; at += STEP_MM) {
    const to = Math.min(lengthMm, at + STEP_MM);
    if (distanceToLine(pointOnSeam(points, (at + to) / 2), line) <= REDO_REACH_MM)
      stretches.push({ fromMm: at, toMm: to });
  }
  return stretches;
}

function facesOf(model: ShowerModel, element: string): string[] {
  const found = [...model.seams, ...model.corners].find((e) => e.id === element);
  if (found) return found.faces;
  const hole = model.penetrations.find((p) => p.id === element);
  return hole ? [hole.face] : element === model.drain.id ? ['floor'] : [element];
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

/** What a redo of one place does to one piece of evidence: true when something was taken away. */
function touch(state: ShowerState, model: ShowerModel, place: Place, redoOrder: number, e: Evidence): boolean {
  const order = state.rules?.method.stages.find((s) => s.key === e.stage)?.order ?? 0;
  if (e.voided || order < redoOrder) return false;
  const seam = model.seams.find((s) => s.id === e.element);
  if (e.element === place.element) {
    const whole = !seam || place.fromMm === undefined || place.toMm === undefined;
    return voidOnStretch(e, whole ? null : { fromMm: place.fromMm!, toMm: place.toMm! });
  }
  const isFace = model.faces.some((f) => f.id === e.element);
  if (isFace)
    return (
      (order > redoOrder || e.kind === 'look') &&
      facesOf(model, place.element).includes(e.element) &&
      voidOnStretch(e, null)
    );
  if (order === redoOrder) return false;
  const line = lineOf(model, place);
  if (!line) return facesOf(model, e.element).includes(place.element) && voidOnStretch(e, null);
  if (seam)
    return withinReach(seam.points, seam.lengthMm, line).filter((stretch) => voidOnStretch(e, stretch)).length > 0;
  const own = lineOf(model, { element: e.element });
  return own !== null && distanceToLine(own[0]!, line) <= REDO_REACH_MM && voidOnStretch(e, null);
}

function redoInWater(state: ShowerState, model: ShowerModel, place: Place): void {
  const line = lineOf(model, place);
  if (!state.flood || !line) return;
  const level = state.flood.running ? state.flood.waterLineMm : state.flood.provedBelowMm;
  if (level === null || Math.min(...line.map((p) => p[2])) > level) return;
  if (state.flood.running) state.flood.endedByRedo = true;
  state.flood.running = false;
  const seam = model.seams.find((s) => s.id === place.element);
  const stretch = { fromMm: place.fromMm ?? 0, toMm: place.toMm ?? seam?.lengthMm ?? 1 };
  state.flood.voids.set(place.element, [...(state.flood.voids.get(place.element) ?? []), stretch]);
}

/** A stretch built again wants a reading of its own, however close its neighbours stand. */
function rememberStretch(state: ShowerState, place: Place, stageOrder: number): void {
  if (place.fromMm === undefined || place.toMm === undefined) return;
  const stretch = { fromMm: place.fromMm, toMm: place.toMm, stageOrder };
  state.redone.set(place.element, [...(state.redone.get(place.element) ?? []), stretch]);
}

/**
 * Applies a redo: evidence of its stage and later ones on its stretch goes; in space, later-stage elements within
 * 150 mm and looks at a whole area it lies on; below the water line the flood's proof. The stages concerned return to
 * `held`. Accepted deviations on the place end.
 */
export function applyRedo(state: ShowerState, redo: EntryOf<'redo'>): void {
  state.redos.push(redo);
  const model = state.geometry?.model;
  const order = state.rules?.method.stages.find((s) => s.key === redo.body.stage)?.order;
  if (!model || order === undefined) return;
  const concerned = new Set([redo.body.stage]);
  const taken: Pick<Evidence, 'stage' | 'check' | 'element' | 'side'>[] = [];
  state.provedAgain.set(redo.id, taken);
  for (const place of redo.body.places) {
    for (const e of allEvidence(state)) {
      if (!touch(state, model, place, order, e)) continue;
      concerned.add(e.stage);
      taken.push({ stage: e.stage, check: e.check, element: e.element, side: e.side });
    }
    redoInWater(state, model, place);
    rememberStretch(state, place, order);
    for (const d of state.deviations.values()) if (d.asked.place.element === place.element) d.ended = true;
  }
  for (const key of concerned) {
    const stage = state.stages.get(key);
    if (stage) {
      stage.word = 'held';
      stage.begun = true;
      stage.release = null;
    }
  }
  const defect = redo.body.defect ? state.defects.get(redo.body.defect) : undefined;
  if (defect) defect.redoneAt = redo.observedAt;
}
