import { requirementsOf } from '@careful-seam/core/checks/requirements';
import type { SeamLine } from '@careful-seam/core/proof/shown/seamLine';
import { combineMethods, drawnVariants, methodsOfParts, type Pinned } from '@careful-seam/core/rules/combineMethods';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { showTotal } from '@careful-seam/core/units/length';
import { memo, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { ShowerMap } from '../../drawing/ShowerMap';
import { isAsked } from '../../shared/answering';

/** What is drawn, by the rules that will hold. */
interface Props {
  /** What is drawn; null while it can not be. */
  model: ShowerModel | null;
  /** The rule book that holds here; null while it is on its way. */
  book: RuleBook | null;
  /** What would be pinned, as JSON, so that the same rules are the same. */
  pinned: string;
  /** In what lengths are typed and shown. */
  unit: 'in' | 'mm';
}

/** Nothing is proved of a shower that is being drawn. */
const NO_MARKS = new Map();

/** Before anything was looked at every seam is open: drawn dotted. */
const unseenLines = (model: ShowerModel): SeamLine[] =>
  model.seams.map((s) => ({
    seam: s.id,
    pieces: [{ fromMm: 0, toMm: s.lengthMm, state: 'unseen', water: false }],
    ticksMm: [],
  }));

/** How many things the method asks of what is drawn. */
function askedOf(model: ShowerModel, book: RuleBook | null, pinned: Pinned): number {
  const geometry: ShowerGeometry = model.geometry;
  const method = book && combineMethods(book, pinned, drawnVariants(geometry));
  if (!method) return 0;
  return requirementsOf(model, method, methodsOfParts(pinned)).filter((r) => isAsked(r.check)).length;
}

/** The room laid open while it is typed, with its seams in figures. The last one that could be built stays in sight. */
export const DrawnMap = memo(function DrawnMap({ model, book, pinned, unit }: Props) {
  const { t } = useTranslation();
  const last = useRef<ShowerModel | null>(null);
  if (model) last.current = model;
  const shown = model ?? last.current;
  const lines = useMemo(() => (shown ? unseenLines(shown) : []), [shown]);
  const asked = useMemo(() => (model ? askedOf(model, book, JSON.parse(pinned)) : 0), [model, book, pinned]);
  if (!shown) return <p className="m-auto text-soft">{t('new.noDrawing')}</p>;
  return (
    <>
      <div className={`min-h-0 flex-1 max-lg:h-80 max-lg:flex-none ${model ? '' : 'opacity-40'}`}>
        <ShowerMap model={shown} lines={lines} marks={NO_MARKS} chosen={null} />
      </div>
      {model ? (
        <p className="text-center" data-testid="seam-total">
          {t('new.total', {
            seam: showTotal(model.totals.seamMm, unit),
            seams: model.seams.length,
            corners: model.corners.length,
            asked,
          })}
        </p>
      ) : (
        <p className="text-center text-soft">{t('new.lastDrawing')}</p>
      )}
    </>
  );
});
