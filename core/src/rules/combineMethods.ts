import { PARTS, type Part } from '../shower/geometry/parts';
import type { ShowerGeometry } from '../shower/geometry/showerGeometry';
import { type Check, ruleOf } from './checks/check';
import type { Variant } from './checks/checkBase';
import { withLabels } from './labelLimits';
import type { ProductLine } from './productLine';
import { findMethod, type Method, type RuleBook, type Stage } from './ruleBook';
import { asksTransition } from './tools';

/** How a shower is built: its main method, parts that differ, ways of building, and where its inspection begins. */
export interface Pinned {
  method: string;
  parts?: Partial<Record<Part, string>> | undefined;
  variants?: readonly Variant[] | undefined;
  beginsAt?: string | undefined;
  /** Product lines in use, by their ids in the book. */
  lines?: readonly string[] | undefined;
}

/** Ways of building that the drawing shows by itself. */
export function drawnVariants(geometry: ShowerGeometry): Variant[] {
  const found: Variant[] = [];
  if (geometry.edges.some((e) => e.kind === 'open')) found.push('curbless');
  if (geometry.ceiling?.waterproof) found.push('steam');
  if (geometry.edges.some((e) => e.kind === 'wall' && e.keptAbove)) found.push('renovation');
  return found;
}

/** The method of each part of a shower. */
export function methodsOfParts(pinned: Pinned): Record<Part, string> {
  return Object.fromEntries(PARTS.map((part) => [part, pinned.parts?.[part] ?? pinned.method])) as Record<Part, string>;
}

/** The product lines in use, as the book describes them; ids that it doesn't hold are left out. */
export function linesOf(book: RuleBook, pinned: Pinned): ProductLine[] {
  return (pinned.lines ?? []).flatMap((id) => book.productLines.filter((line) => line.id === id));
}

/** Every method that builds some part of the shower. */
export function methodsInUse(pinned: Pinned): string[] {
  return [...new Set([pinned.method, ...Object.values(methodsOfParts(pinned))])];
}

const sameCheck = (a: Check, b: Check): boolean =>
  JSON.stringify({ ...a, parts: null }) === JSON.stringify({ ...b, parts: null });

/**
 * Checks of the shower or its drain belong to one method: that of the floor, and the slowest wait of all. A film belongs
 * to the parts that are coated.
 */
function isOfWhole(check: Check): boolean {
  if (ruleOf(check).ofWhole === 'parts') return false;
  return check.on.element === 'shower' || check.on.element === 'drain';
}

function partsFor(check: Check, parts: readonly Part[]): Part[] {
  return check.parts ? parts.filter((p) => check.parts!.includes(p)) : [...parts];
}

/** Puts a check beside those that are there: the same one grows by its parts, another one of that id gets its method's name. */
function addCheck(into: Check[], check: Check, parts: readonly Part[], method: Method, mixed: boolean): void {
  const own = mixed && !isOfWhole(check) ? { ...check, parts: partsFor(check, parts) } : check;
  if (mixed && !isOfWhole(check) && own.parts!.length === 0) return;
  const k = into.findIndex((c) => c.id === check.id);
  if (k < 0) into.push(own);
  else if (sameCheck(into[k]!, own)) {
    const had = into[k]!;
    if (had.parts && own.parts) into[k] = { ...had, parts: [...had.parts, ...own.parts] };
  } else if (ruleOf(check).ofWhole === 'stricter' && into[k]!.kind === check.kind) {
    const leastOf = (c: Check) => ruleOf(c).figures(c)?.least ?? 0;
    if (leastOf(check) > leastOf(into[k]!)) into[k] = check;
  } else into.push({ ...own, id: `${check.id}@${method.key}` });
}

function combineStage(key: string, used: readonly { method: Method; parts: Part[] }[], floor: string): Stage {
  const mixed = used.length > 1;
  const first = used.flatMap((u) => u.method.stages.filter((s) => s.key === key))[0]!;
  const checks: Check[] = [];
  for (const { method, parts } of used)
    for (const check of method.stages.find((s) => s.key === key)?.checks ?? []) {
      if (mixed && isOfWhole(check) && ruleOf(check).ofWhole === 'floor' && method.key !== floor) continue;
      addCheck(checks, check, parts, method, mixed);
    }
  return { ...first, checks };
}

/** Combinations that are remembered of one book; showers are built in few ways. */
const KEPT_METHODS = 64;
/** What was combined, by the book and what was pinned. Nothing here is changed after it was made: many showers share it. */
const combined = new WeakMap<RuleBook, Map<string, Method | null>>();

/** The rules of one shower as one method, worked out once for all showers that are built so. See {@link combine}. */
export function combineMethods(book: RuleBook, pinned: Pinned, variants: readonly Variant[]): Method | null {
  const { method, parts, variants: told, beginsAt, lines } = pinned;
  const key = JSON.stringify([method, parts, told, beginsAt, lines, variants]);
  const known = combined.get(book) ?? new Map<string, Method | null>();
  combined.set(book, known);
  const found = known.get(key);
  if (found !== undefined) return found;
  const made = combine(book, pinned, variants);
  known.set(key, made);
  if (known.size > KEPT_METHODS) known.delete(known.keys().next().value!);
  return made;
}

/**
 * The rules of one shower as one method: what each part's method asks of that part, the detail that every transition
 * needs, only what applies to the way it is built, and nothing of stages before its inspection began. Null when a
 * method is unknown.
 */
function combine(book: RuleBook, pinned: Pinned, variants: readonly Variant[]): Method | null {
  const byPart = methodsOfParts(pinned);
  const lines = linesOf(book, pinned);
  const keys = methodsInUse(pinned);
  const used = keys.flatMap((key) => {
    const method = findMethod(book, key);
    return method ? [{ method: withLabels(method, lines), parts: PARTS.filter((p) => byPart[p] === key) }] : [];
  });
  if (used.length !== keys.length) return null;
  const main = used[0]!.method;
  const order = new Map(used.flatMap((u) => u.method.stages.map((s) => [s.key, s.order] as const)));
  const begins = pinned.beginsAt === undefined ? -1 : (order.get(pinned.beginsAt) ?? -1);
  const standsAlready = main.stages.some((s) => s.existing && s.key === pinned.beginsAt);
  const holds = new Set<Variant>([...variants, ...(pinned.variants ?? [])]);
  const stages = [...order]
    .sort((a, b) => a[1] - b[1])
    .map(([key, at]) => {
      const stage = combineStage(key, used, byPart.floor);
      if (at < begins) return { ...stage, checks: [], notInspected: true };
      const old = stage.existing === true && standsAlready;
      const checks = stage.checks.filter((c) => !c.when || holds.has(c.when) || (old && c.when === 'renovation'));
      if (asksTransition(stage) && used.length > 1 && book.transition) checks.push(book.transition);
      return { ...stage, checks };
    });
  const label = used.length > 1 ? used.map((u) => u.method.label).join(' + ') : main.label;
  const kit = used.flatMap((u) => u.method.kit).filter((k, i, all) => all.findIndex((o) => o.id === k.id) === i);
  return { ...main, label, stages, kit };
}
