import { elementGroup } from '@careful-seam/core/crews/elementGroup';
import type { Place } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import { placeOf } from '../writer';
import type { Chance } from './chance';
import {
  CLUSTER_SHAPE,
  MORTAR_IN_A_SHOWER,
  RATES,
  TRAINED,
  type YearsCalendar,
  type YearsCrew,
  type YearsGroup,
} from './truths';

/** A foot, mm. */
const FT_MM = 304.8;

/** Kinds of defects by what they lie on; the stage that they are found at, and where they are sometimes found late. */
const KINDS: Readonly<Record<YearsGroup, readonly { kind: string; stage: string }[]>> = {
  floor: [
    { kind: 'short-lap', stage: 'membrane' },
    { kind: 'open-lap', stage: 'membrane' },
    { kind: 'dry-fleece', stage: 'membrane' },
    { kind: 'band-off-centre', stage: 'membrane' },
  ],
  wall: [
    { kind: 'short-lap', stage: 'membrane' },
    { kind: 'wrinkle', stage: 'membrane' },
    { kind: 'hole-tear', stage: 'membrane' },
  ],
  joint: [
    { kind: 'gap', stage: 'boards' },
    { kind: 'sealant-gap', stage: 'boards' },
    { kind: 'open-lap', stage: 'membrane' },
  ],
  niche: [
    { kind: 'niche-corner-open', stage: 'membrane' },
    { kind: 'sill-slopes-in', stage: 'niche' },
    { kind: 'short-lap', stage: 'membrane' },
  ],
  curb: [
    { kind: 'curb-slopes-out', stage: 'curb' },
    { kind: 'curb-end-open', stage: 'membrane' },
    { kind: 'fastener-through', stage: 'membrane' },
  ],
  edge: [{ kind: 'not-to-height', stage: 'membrane' }],
  corner: [
    { kind: 'pinhole-corner', stage: 'membrane' },
    { kind: 'missing-corner', stage: 'membrane' },
    { kind: 'corner-wrong-side', stage: 'membrane' },
  ],
  drain: [
    { kind: 'hollow-flange', stage: 'drain-tie-in' },
    { kind: 'flange-not-level', stage: 'drain-tie-in' },
    { kind: 'weeps-blocked', stage: 'drain-tie-in' },
  ],
  opening: [{ kind: 'termination-open', stage: 'membrane' }],
};

/** A defect that is to be written. */
export interface Wrong {
  kind: string;
  /** Stage that it is found at. */
  stage: string;
  place: Place;
}

/** A place on an element: a stretch of a seam. */
function somewhere(state: ShowerState, element: string, c: Chance): Place {
  const seam = state.seamById.get(element);
  if (!seam) return placeOf(state, element);
  const long = Math.min(seam.lengthMm * 0.6, 100 + c.pick(300));
  const fromMm = Math.round(c.share() * (seam.lengthMm - long));
  return placeOf(state, element, null, { fromMm, toMm: Math.round(fromMm + long) });
}

/** Which elements of a shower belong to each group, as far as defects are invented for it. */
function elementsByGroup(state: ShowerState): Map<YearsGroup, string[]> {
  const model = state.geometry!.model;
  const asked = new Set(state.requirements.map((r) => r.element));
  const groups = new Map<YearsGroup, string[]>();
  const all = [...model.seams, ...model.corners, ...model.penetrations, model.drain].map((e) => e.id);
  for (const element of all.filter((id) => asked.has(id))) {
    const group = elementGroup(model, element);
    if (group in RATES) groups.set(group as YearsGroup, [...(groups.get(group as YearsGroup) ?? []), element]);
  }
  return groups;
}

/** What goes wrong in one shower, by the stated truths and by chance. */
export function whatGoesWrong(
  state: ShowerState,
  crew: YearsCrew,
  day: string,
  calendar: YearsCalendar,
  c: Chance,
): Wrong[] {
  const cluster = c.factor(CLUSTER_SHAPE) * (crew.luck ?? 1);
  const wrong: Wrong[] = [];
  for (const [group, elements] of elementsByGroup(state)) {
    const seamMm = elements.reduce((mm, id) => mm + (state.seamById.get(id)?.lengthMm ?? 0), 0);
    const exposure = seamMm > 0 ? seamMm / FT_MM : elements.length;
    const worse = group === 'niche' ? (crew.atNiches ?? 1) : 1;
    const trained = group === 'corner' && day >= calendar.trainingOn ? TRAINED : 1;
    const count = c.count((RATES[group] / 100) * exposure * cluster * worse * trained);
    for (let k = 0; k < count; k += 1) {
      const element = c.oneOf(elements);
      // A corner of a niche has no length: its seams are where a stretch can be.
      wrong.push({ ...c.oneOf(KINDS[group]), place: somewhere(state, element, c) });
    }
  }
  if (day.startsWith(calendar.mortarMonth)) {
    const seams = elementsByGroup(state).get('floor') ?? [];
    for (let k = c.count(MORTAR_IN_A_SHOWER); k > 0; k -= 1)
      wrong.push({ kind: 'wrong-mortar', stage: 'membrane', place: somewhere(state, c.oneOf(seams), c) });
  }
  return wrong;
}
