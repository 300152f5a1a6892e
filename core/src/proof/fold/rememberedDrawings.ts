import { requirementsOf } from '../../checks/requirements';
import type { Requirement } from '../../log/judgement';
import { questionOf } from '../../rules/checks/check';
import { combineMethods, drawnVariants, methodsOfParts, type Pinned } from '../../rules/combineMethods';
import type { Method, RuleBook } from '../../rules/ruleBook';
import type { ShowerGeometry } from '../../shower/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '../../shower/geometry/showerModel';

/**
 * What a drawing and pinned rules come to, remembered: a shower is folded anew after every entry, and few entries change
 * either. Nothing here is changed after it was made, so that several states may share it.
 */
const KEPT_DRAWINGS = 64;
const models = new Map<string, ReturnType<typeof showerModel>>();
const askedByModel = new WeakMap<ShowerModel, WeakMap<RuleBook, Map<string, Asked | null>>>();

/** The method as it applies to a drawing, and what it asks there. */
export interface Asked {
  method: Method;
  requirements: Requirement[];
}

/** The model of a drawing, or why it can't be one; the last 64 drawings are remembered. */
export function modelOf(geometry: ShowerGeometry): ReturnType<typeof showerModel> {
  const key = JSON.stringify(geometry);
  const known = models.get(key);
  if (known) models.delete(key);
  const model = known ?? showerModel(geometry);
  models.set(key, model);
  if (models.size > KEPT_DRAWINGS) models.delete(models.keys().next().value!);
  return model;
}

/** A stage asks what has a place on this shower; one that would ask only how the trade disagrees asks nothing. */
function onDrawing(method: Method, requirements: Requirement[]): Asked {
  const stages = method.stages.map((stage) => {
    const here = new Set(requirements.filter((r) => r.stage === stage).map((r) => r.check.id));
    const checks = stage.checks.filter((c) => here.has(c.id));
    return { ...stage, checks: checks.every((c) => questionOf(c) !== null) ? [] : checks };
  });
  return { method: { ...method, stages }, requirements };
}

/** What the pinned rules ask of a drawing: it tells of steam, of a way in without a curb, of parts. Null: no such method. */
export function askedOf(book: RuleBook, pinned: Pinned, model: ShowerModel): Asked | null {
  const books = askedByModel.get(model) ?? new WeakMap<RuleBook, Map<string, Asked | null>>();
  askedByModel.set(model, books);
  const pins = books.get(book) ?? new Map<string, Asked | null>();
  books.set(book, pins);
  const key = JSON.stringify(pinned);
  const known = pins.get(key);
  if (known !== undefined) return known;
  const method = combineMethods(book, pinned, drawnVariants(model.geometry));
  const made = method && onDrawing(method, requirementsOf(model, method, methodsOfParts(pinned)));
  pins.set(key, made);
  return made;
}
