import { isLeftOpen, judge } from '@careful-seam/core/checks/judge';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { MarkState } from '../drawing/ShowerMap';

/** How what is no line stands at a stage (corners, openings, the drain, faces), by its element: the worst of its checks. */
export function marksOf(state: ShowerState, stage: string): Map<string, MarkState> {
  const marks = new Map<string, MarkState>();
  const rank: MarkState[] = ['not-required', 'pass', 'unseen', 'fail'];
  for (const r of state.requirements) {
    if (r.stage.key !== stage || r.hasLength) continue;
    const j = judge(state, r);
    // A question that nobody has to answer is not missing.
    if (isLeftOpen(j) && !j.satisfied) continue;
    const mark: MarkState = j.satisfied ? 'pass' : j.verdict === 'fail' ? 'fail' : 'unseen';
    const before = marks.get(r.element) ?? 'not-required';
    if (rank.indexOf(mark) > rank.indexOf(before)) marks.set(r.element, mark);
  }
  return marks;
}
