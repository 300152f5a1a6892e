import { WHOLE_SHOWER } from '@careful-seam/core/checks/requirements';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { StoredDraft } from '../tablet/drafts';

/**
 * Whether what was left of a form still has a form: its defect is not closed, its place is still drawn, its flood test still runs. What
 * has none any more stays in the tablet's store and is not offered.
 */
export function draftStands(state: ShowerState, { about: { kind, element, defect } }: StoredDraft): boolean {
  const isDrawn =
    element === null || element === WHOLE_SHOWER || state.sizes.has(element) || state.seamById.has(element);
  switch (kind) {
    case 'coat':
    case 'shower':
    case 'rules':
      return true;
    case 'call':
      // A clock that runs at a test is no form.
      return element === null;
    case 'mark':
      return state.flood?.running === true && state.flood.entry === element;
    case 'sound':
      return isDrawn;
    case 'defect':
      return element !== null && isDrawn && (defect === null || state.defects.get(defect)?.closedAt === null);
    case 'redo':
    case 'close':
      return isDrawn && defect !== null && state.defects.get(defect)?.closedAt === null;
  }
}
