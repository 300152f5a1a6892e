import type { Defect } from '../log/defect';
import type { EntryOf } from '../log/entry';
import type { Release, ShowerState } from '../log/state';
import { dueAtMs, isOpen } from '../proof/holds/defectLife';
import { openLookRequests } from '../proof/holds/lookRequests';

/** What a day leaves behind in one shower. */
export interface DayEnd {
  /** Work that crews said is done on this day. */
  work: EntryOf<'work-done'>[];
  /** Of that, stages that nobody has released yet: not signed off before the next day. */
  unseenStages: string[];
  /** What was released that day. */
  released: Release[];
  /** Looks that are asked for and not given. */
  asked: EntryOf<'look-requested'>[];
  /** What must be put right, first what is due first. */
  open: Defect[];
}

/** Sums up a day, `fromMs` to `toMs`, ms since 1970: what was built, signed off, asked for, and who must redo what. */
export function dayEnd(state: ShowerState, fromMs: number, toMs: number): DayEnd {
  const today = (at: string) => Date.parse(at) >= fromMs && Date.parse(at) < toMs;
  const work = [...state.stages.values()].flatMap((s) => s.work).filter((e) => today(e.observedAt));
  const stages = new Set(work.map((e) => e.body.stage));
  return {
    work,
    unseenStages: [...stages].filter((key) => state.stages.get(key)?.word !== 'released'),
    released: state.releases.filter((r) => today(r.observedAt)),
    asked: openLookRequests(state),
    open: [...state.defects.values()]
      .filter((d) => isOpen(d) && d.severity !== 'note')
      .sort((a, b) => (dueAtMs(a) ?? Infinity) - (dueAtMs(b) ?? Infinity)),
  };
}
