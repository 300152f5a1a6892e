import type { Defect } from '../log/defect';
import type { MadeBy } from '../log/defectBodies';
import type { ShowerState } from '../log/state';

/** Who made a defect, and whether somebody said so. */
export interface Maker {
  /** A crew, another trade, the house, or nobody knows. */
  madeBy: MadeBy;
  /**
   * `told`: a person said it; `work`: the work that was told at that stage says it, or whom the stage was handed to; `shower`: the crew of
   * the shower, for want of better.
   */
  from: 'told' | 'work' | 'shower';
}

/** The stage at which a defect was made: as somebody said, else as its kind usually is, else where it was found. Never later than that. */
export function stageMadeOf(state: ShowerState, defect: Pick<Defect, 'stage' | 'stageMade' | 'kind'>): string {
  if (defect.stageMade !== null) return defect.stageMade;
  const usual = state.rules?.book.defectKinds.find((k) => k.id === defect.kind)?.made;
  const stages = state.rules?.method.stages ?? [];
  const orderOf = (key: string) => stages.find((s) => s.key === key)?.order;
  const [made, found] = [usual === undefined ? undefined : orderOf(usual), orderOf(defect.stage)];
  return usual !== undefined && made !== undefined && found !== undefined && made <= found ? usual : defect.stage;
}

/**
 * The crew whose work at a stage was told last before a place in the order, or first after it, else the one that the stage was handed to;
 * null where it is the shower's own. Several crews may have worked on one shower: the one that built that stage is asked, not the one that
 * came after.
 */
export function crewAt(state: ShowerState, stage: string, seq: number): string | null {
  const told = state.stages.get(stage)?.work ?? [];
  const before = told.filter((w) => (state.seqOf.get(w.id) ?? 0) <= seq);
  return (before.at(-1) ?? told[0])?.body.crewId ?? state.created?.body.stageCrews?.[stage] ?? null;
}

/** Who made a defect. Who puts it right is another question. */
export function makerOf(state: ShowerState, defect: Defect): Maker {
  if (defect.madeBy) return { madeBy: defect.madeBy, from: 'told' };
  const crewId = crewAt(state, stageMadeOf(state, defect), defect.seq);
  if (crewId !== null) return { madeBy: { of: 'crew', crewId }, from: 'work' };
  const own = state.created?.body.crewId;
  return { madeBy: own === undefined ? { of: 'unknown' } : { of: 'crew', crewId: own }, from: 'shower' };
}
