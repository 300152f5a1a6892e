import { askedOfKind } from '@careful-seam/core/checks/asked';
import type { Requirement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { wallFrame } from '@careful-seam/core/shower/geometry/wallFrame';
import { showLength } from '@careful-seam/core/units/length';
import { fastenerGrid, studsAt } from '@careful-seam/core/walls/fastenerGrid';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** How many fasteners a wall should have and in which rows, where the rule book names a grid. */
export function FastenerCount({ state, requirements }: { state: ShowerState; requirements: readonly Requirement[] }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const asked = askedOfKind(requirements, 'looked').find((r) => r.check.fasteners !== undefined);
  const model = state.geometry!.model;
  const face = model.faces.find((f) => f.id === asked?.element);
  const edge = face?.edge == null ? null : model.geometry.edges[face.edge];
  if (!asked || face?.edge == null || edge?.kind !== 'wall') return null;
  const { firstRowMm, spacingMm, studSpacingMm } = asked.check.fasteners!;
  const widthMm = wallFrame(model.geometry, face.edge).lengthMm;
  const studs = studsAt(widthMm, studSpacingMm);
  const grid = fastenerGrid({ widthMm, heightMm: edge.heightMm, studsAtMm: studs, firstRowMm, spacingMm });
  if (!grid.ok) return null;
  const { count, rowsAtMm } = grid.value;
  const scale = Math.min(150 / widthMm, 120 / edge.heightMm);
  return (
    <div className="flex gap-2 text-sm" data-testid="fasteners">
      <svg
        viewBox={`-3 -3 ${widthMm * scale + 6} ${edge.heightMm * scale + 6}`}
        width={widthMm * scale + 6}
        height={edge.heightMm * scale + 6}
        className="flex-none"
        aria-hidden="true"
      >
        <rect
          width={widthMm * scale}
          height={edge.heightMm * scale}
          className="fill-leaf stroke-edge [stroke-width:1]"
        />
        {studs.flatMap((x) =>
          rowsAtMm.map((y) => (
            <circle key={`${x} ${y}`} cx={x * scale} cy={(edge.heightMm - y) * scale} r={1.6} className="fill-ink" />
          )),
        )}
      </svg>
      <p>
        {t('card.fasteners', {
          count,
          rows: rowsAtMm.length,
          studs: studs.length,
          first: showLength(firstRowMm, unit),
          every: showLength(spacingMm, unit),
          apart: showLength(studSpacingMm, unit),
        })}
      </p>
    </div>
  );
}
