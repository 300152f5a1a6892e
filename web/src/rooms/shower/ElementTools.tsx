import type { Judgement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { methodsOfParts } from '@careful-seam/core/rules/combineMethods';
import { findMethod } from '@careful-seam/core/rules/ruleBook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { detailOf } from '../../drawing/detailOf';
import { openedLater } from '../../ui/openedLater';
import { KeepKey } from './KeepKey';
import { sumAt } from './workOut/sumAt';

const DeviationSheet = openedLater(() => import('../../shared/DeviationSheet').then((m) => m.DeviationSheet));
const DetailSheet = openedLater(() => import('../../drawing/DetailSheet').then((m) => m.DetailSheet), 'sums');
const LayerSheet = openedLater(() => import('./LayerSheet').then((m) => m.LayerSheet), 'sums');
const MistypedSheet = openedLater(() => import('./MistypedSheet').then((m) => m.MistypedSheet));
const WorkOutSheet = openedLater(() => import('./workOut/WorkOutSheet').then((m) => m.WorkOutSheet), 'sums');

/** The element whose sums are offered. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** Key of the stage that is looked at. */
  stage: string;
  /** The person may read, look and release. */
  mayInspect: boolean;
  /** What may be asked a manager for; empty where nothing may. */
  askable: readonly Judgement[];
}

/** True at a corner of the floor where bands and corner pieces lie on each other. */
function hasLayers({ geometry, rules }: ShowerState, element: string): boolean {
  const corner = geometry!.model.corners.find((c) => c.id === element);
  if (!corner?.faces.includes('floor')) return false;
  const floor = methodsOfParts(rules!.pinned).floor;
  return findMethod(rules!.book, floor)?.details?.corner === 'preformed';
}

/** True where something stands that may have been a slip of the finger. */
const wasSpokenOf = (state: ShowerState, stage: string, element: string): boolean =>
  (state.evidence.get(element) ?? []).some((e) => e.stage === stage) ||
  state.notes.some((n) => n.body.place?.element === element);

/** What else can be done at an element: asking a manager, sums, what right looks like, the layers of a corner. */
export function ElementTools({ showerId, state, element, stage, mayInspect, askable }: Props) {
  const { t } = useTranslation();
  const [sheet, setSheet] = useState<'ask' | 'sum' | 'detail' | 'layers' | 'mistyped' | null>(null);
  const tools = [
    ...(askable.length > 0 ? [['ask', 'deviation.open'] as const] : []),
    ...(mayInspect && sumAt(element) ? [['sum', 'sum.open'] as const] : []),
    ...(detailOf(state, element) ? [['detail', 'detail.open'] as const] : []),
    ...(mayInspect && hasLayers(state, element) ? [['layers', 'layers.open'] as const] : []),
    ...(wasSpokenOf(state, stage, element) ? [['mistyped', 'mistyped.open'] as const] : []),
  ];
  const close = () => setSheet(null);
  if (tools.length === 0 && !mayInspect) return null;
  return (
    <div className="flex flex-wrap gap-1.5">
      {mayInspect && (
        <KeepKey
          showerId={showerId}
          state={state}
          stage={stage}
          element={element}
          className="key grow px-2 text-sm leading-tight"
        />
      )}
      {tools.map(([key, text]) => (
        <button key={key} type="button" className="key grow px-2 text-sm leading-tight" onClick={() => setSheet(key)}>
          {t(text)}
        </button>
      ))}
      {sheet === 'ask' && (
        <DeviationSheet showerId={showerId} state={state} judgements={[...askable]} onClose={close} />
      )}
      {sheet === 'sum' && <WorkOutSheet showerId={showerId} state={state} element={element} onClose={close} />}
      {sheet === 'detail' && <DetailSheet state={state} element={element} onClose={close} />}
      {sheet === 'mistyped' && (
        <MistypedSheet showerId={showerId} state={state} stage={stage} element={element} onClose={close} />
      )}
      {sheet === 'layers' && <LayerSheet state={state} element={element} onClose={close} />}
    </div>
  );
}
