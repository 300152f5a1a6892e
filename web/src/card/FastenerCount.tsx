import { fastenerGrid, studsAt } from '@careful-seam/core/fasteners/fastenerGrid';
import { wallFrame } from '@careful-seam/core/geometry/wallFrame';
import type { Requirement, ShowerState } from '@careful-seam/core/proof/state';
import { showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../state/preferences';

/** How many fasteners a wall should have and in which rows, where the rule book names a grid. */
export function FastenerCount({ state, requirements }: { state: ShowerState; requirements: readonly Requirement[] }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const asked = requirements.find((r) => r.check.kind === 'looked' && r.check.fasteners !== undefined);
  const model = state.geometry!.model;
  const face = model.faces.find((f) => f.id === asked?.element);
  const edge = face?.edge == null ? null : model.geometry.edges[face.edge];
  if (asked?.check.kind !== 'looked' || face?.edge == null || edge?.kind !== 'wall') return null;
  const { firstRowMm, spacingMm, studSpacingMm } = asked.check.fasteners!;
  const widthMm = wallFrame(model.geometry, face.edge).lengthMm;
  const studs = studsAt(widthMm, studSpacingMm);
  const grid = fastenerGrid({ widthMm, heightMm: edge.heightMm, studsAtMm: studs, firstRowMm, spacingMm });
  if (!grid.ok) return null;
  const { count, rowsAtMm } = grid.value;
  return (
    <p className="text-sm" data-testid="fasteners">
      {t('card.fasteners', {
        count,
        rows: rowsAtMm.length,
        studs: studs.length,
        first: showLength(firstRowMm, unit),
        every: showLength(spacingMm, unit),
        apart: showLength(studSpacingMm, unit),
      })}
    </p>
  );
}
