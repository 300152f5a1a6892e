import type { Defect } from '../../log/defect';
import { SEVERITIES, type Severity } from '../../rules/checks/checkBase';
import { isOpen } from '../holds/defectLife';

/** Defects of one worth: open ones by what they stop, closed ones apart. */
export interface RankedDefects {
  /** `stop` lets water through or traps it, `fix` will, `note` is looks and wear; `closed` was put right. */
  worth: Severity | 'closed';
  defects: Defect[];
}

/** What was found, the worst first, each worth with its defects in the order in which they were found; a worth without any is left out. */
export function rankedDefects(defects: Iterable<Defect>): RankedDefects[] {
  const all = [...defects];
  const open = SEVERITIES.map(
    (worth): RankedDefects => ({
      worth,
      defects: all.filter((d) => isOpen(d) && d.severity === worth),
    }),
  );
  const closed: RankedDefects = { worth: 'closed', defects: all.filter((d) => !isOpen(d)) };
  return [...open, closed].filter((group) => group.defects.length > 0);
}
