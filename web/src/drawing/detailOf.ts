import { partOfFace } from '@careful-seam/core/checks/requirements';
import type { ShowerState } from '@careful-seam/core/log/state';
import { methodsOfParts } from '@careful-seam/core/rules/combineMethods';
import { type Details, findMethod } from '@careful-seam/core/rules/ruleBook';

/** A detail that can be drawn: what it is a detail of, and how this method makes it. */
export type Detail = { [W in 'corner' | 'penetration' | 'drain']: { what: W; kind: Details[W] } }[
  | 'corner'
  | 'penetration'
  | 'drain'];

/** The detail of the method that builds this element; null where it has none, or where the element is none to draw. */
export function detailOf(state: ShowerState, element: string): Detail | null {
  const model = state.geometry!.model;
  const corner = model.corners.find((c) => c.id === element);
  const hole = model.penetrations.find((p) => p.id === element);
  const isDrain = element === model.drain.id;
  if (!corner && !hole && !isDrain) return null;
  const faces = corner?.faces ?? (hole ? [hole.face] : ['floor']);
  const parts = faces.map((id) => model.faces.find((f) => f.id === id)).map((f) => (f ? partOfFace(f.kind) : null));
  const part = parts.includes('floor') ? 'floor' : parts.find((p) => p !== null);
  const { book, pinned } = state.rules!;
  const details: Details | undefined = part ? findMethod(book, methodsOfParts(pinned)[part])?.details : undefined;
  if (!details) return null;
  if (corner) return { what: 'corner', kind: details.corner };
  if (hole) return { what: 'penetration', kind: details.penetration };
  return { what: 'drain', kind: details.drain };
}
