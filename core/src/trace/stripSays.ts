import { SPOILT, WATER } from '../log/callBodies';
import type { EntryOf } from '../log/entry';
import type { Call } from '../log/state';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { type Odds, STARTING_ODDS } from './odds';
import { DEPTH, FLOOR, partKey } from './stripParts';
import { BED, edgeOf, type Suspect } from './suspects';
import { nearness } from './symptoms';
import type { Tested } from './traceCase';
import { DOOR, DRAIN_LINE } from './traceWets';
import { sideOf } from './waterWay';

/** Why a fault tells nothing of the leak: nobody pictured it before it was touched, or what lies under it was out already. */
export type NoCause = 'no-picture' | 'deeper-out';

/** A part as it was told last. */
export interface StrippedPart {
  entry: EntryOf<'part-stripped'>;
  /** A fault that was there before anybody took anything out. */
  isCause: boolean;
  /** Why a fault is none; null where it is one, or where there is no fault. */
  why: NoCause | null;
}

/**
 * What came out, each part as it was told last and in the order of that. Damage done by the removal is never a cause: a fault counts where a
 * picture shows it from before it was touched, and nothing that lies under it on its side was out by then.
 */
export function strippedParts({ stripped }: Pick<Call, 'stripped'>): StrippedPart[] {
  const last = new Map(stripped.map((e) => [partKey(e.body), e]));
  return stripped
    .filter((e) => last.get(partKey(e.body)) === e)
    .map((entry) => {
      const { part, side, verdict, before } = entry.body;
      if (verdict !== 'faulty') return { entry, isCause: false, why: null };
      const earlier = stripped.slice(0, stripped.indexOf(entry));
      const isUnder = earlier.some(
        (e) => e.body.side === side && DEPTH[e.body.part] > DEPTH[part] && e.body.verdict !== 'absent',
      );
      const why = before.length === 0 ? 'no-picture' : isUnder ? 'deeper-out' : null;
      return { entry, isCause: why === null, why };
    });
}

/** What stands for a part whose fault is all of it and no element of the drawing. */
const THING_OF: Partial<Record<string, string>> = { 'door-frame': DOOR, bed: BED, trap: DRAIN_LINE };

/** Faults that were there, as what was opened and let water through; what broke coming out tells nothing. */
export function stripTests(call: Pick<Call, 'stripped'>): Tested[] {
  return strippedParts(call).flatMap(({ entry, isCause }) => {
    const element = entry.body.element ?? THING_OF[entry.body.part];
    if (!element || entry.body.verdict !== 'faulty') return [];
    return [{ id: entry.id, test: { kind: 'open' as const, element }, outcome: isCause ? WATER : SPOILT }];
  });
}

/** A layer that was looked at whole, sound, hides a hole as often as this [invented starting value]. */
const SOUND_HIDES = 0.25;

/** The part that holds water back on a side. */
const holdsOn = (model: ShowerModel, side: string): string => {
  if (side === FLOOR) return 'floor-membrane';
  return model.geometry.edges[edgeOf(model, side)]?.kind === 'curb' ? 'curb' : 'wall-membrane';
};

/** By how much what came out makes each suspect likelier or less so: layers that were sound, and marks of water on a wall. */
export function stripGiven(
  model: ShowerModel,
  suspects: readonly Suspect[],
  call: Pick<Call, 'stripped'>,
  { anywhere }: Odds = STARTING_ODDS,
): number[] {
  const parts = strippedParts(call).map((p) => p.entry.body);
  // What nobody pictured, or had to be torn, proves nothing sound.
  const sound = new Set(parts.filter((b) => b.verdict === 'sound' && b.before.length > 0).map(partKey));
  const marks = parts.flatMap(({ mark, side }) => (mark ? [{ ...mark, edge: side }] : []));
  return suspects.map((suspect) => {
    const things = Object.entries(THING_OF).filter(([, thing]) => thing === suspect.id);
    const sides = [...new Set(suspect.faces.flatMap((f) => sideOf(model, f) ?? []))];
    const isSound =
      things.length > 0
        ? parts.some((b) => b.part === things[0]![0] && sound.has(partKey(b)))
        : suspect.kind === 'drain'
          ? sound.has(`drain ${FLOOR}`)
          : sides.length > 0 && sides.every((side) => sound.has(`${holdsOn(model, side)} ${side}`));
    const near = marks.reduce(
      (p, m) => p * (anywhere + (1 - anywhere) * nearness(model, suspect, { on: 'wall', ...m })),
      1,
    );
    return (isSound ? SOUND_HIDES : 1) * near;
  });
}
