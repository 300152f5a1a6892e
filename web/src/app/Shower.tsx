import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import { buildLedger, currentStage } from '@careful-seam/core/proof/shown/seamLine';
import { elementName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { Ladder, StagePicker } from '../drawing/Ladder';
import { Legend } from '../drawing/Legend';
import { ShowerMap } from '../drawing/ShowerMap';
import { ElementCard } from '../rooms/shower/ElementCard';
import { StageCard } from '../rooms/shower/StageCard';
import { DropLock } from '../shared/DropLock';
import { Missing } from '../shared/Missing';
import { useStore } from '../tablet/store';
import { useKeepAwake } from '../tablet/tabletCare';
import { usePreferences } from '../ui/preferences';
import { marksOf } from './marksOf';
import { ShowerHead } from './ShowerHead';
import { type OpenSheet, ShowerSheets } from './ShowerSheets';
import { Undo } from './Undo';

/** The stage's own lines; a stage that asks nothing of the seams shows what stands under it. */
function stagesShown(state: ShowerState, stage: string): string[] {
  if (state.requirements.some((r) => r.stage.key === stage && r.hasLength)) return [stage];
  const order = state.rules?.method.stages.find((s) => s.key === stage)?.order ?? 0;
  return (state.rules?.method.stages ?? [])
    .filter((s) => s.order <= order && state.stages.get(s.key)?.begun)
    .map((s) => s.key);
}

/** The shower: ladder, unfolded map and card side by side. */
export function Shower() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const { keys } = usePreferences();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  const [asked] = useSearchParams();
  const [stageChosen, setStage] = useState<string | null>(asked.get('stage'));
  useKeepAwake();
  const [element, setElement] = useState<string | null>(asked.get('element'));
  const [sheet, setSheet] = useState<OpenSheet | null>(null);
  const state = shower?.state;
  const stage = stageChosen ?? (state ? currentStage(state) : null);
  const ledger = useMemo(() => (state && stage ? buildLedger(state, stagesShown(state, stage)) : null), [state, stage]);
  const marks = useMemo(() => (state && stage ? marksOf(state, stage) : new Map()), [state, stage]);
  useEffect(() => {
    const back = (e: KeyboardEvent) => e.key === 'Escape' && !e.defaultPrevented && sheet === null && setElement(null);
    window.addEventListener('keydown', back);
    return () => window.removeEventListener('keydown', back);
  }, [sheet]);

  if (!shower || !state?.geometry || !state.rules || !stage || !ledger || !person) return <Missing />;
  const model = state.geometry.model;
  const chooseStage = (key: string) => {
    setStage(key);
    setElement(null);
  };
  const mayInspect = mayWrite(person.role, 'reading');
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ShowerHead shower={shower} figures={ledger.figures} />
      <main className="bench grid min-h-0 grid-cols-[176px_1fr_412px] max-lg:grid-cols-1">
        <div className="min-h-0 overflow-y-auto border-edge border-r p-2 max-lg:hidden">
          <Ladder state={state} chosen={stage} onChoose={chooseStage} />
        </div>
        <div className="px-3 pt-2 lg:hidden">
          <StagePicker state={state} chosen={stage} onChoose={chooseStage} />
        </div>
        <div className="flex min-h-0 flex-col p-3 max-lg:pb-0">
          <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
            <ShowerMap
              model={model}
              lines={ledger.lines}
              marks={marks}
              chosen={element}
              onChoose={setElement}
              keys={keys}
              waterMm={state.flood?.running ? state.flood.waterLineMm : null}
            />
          </div>
          <div className="flex items-center gap-3">
            <div className="flex-1 max-md:hidden">
              <Legend />
            </div>
            <DropLock />
            <Undo shower={shower} />
          </div>
        </div>
        <aside
          aria-label={element ? elementName(t, model, element) : t('stage.label')}
          className="flex min-h-0 flex-col gap-2 border-edge border-l bg-paper p-3 max-lg:border-l-0"
        >
          {element ? (
            <ElementCard
              key={`${element} ${stage}`}
              showerId={id}
              state={state}
              stage={stage}
              element={element}
              mayInspect={mayInspect}
              mayAsk={mayWrite(person.role, 'deviation-asked')}
              onDefect={(defect, stretch) => setSheet({ kind: 'defect', defect: defect?.id ?? null, stretch })}
              onLife={(defect) => setSheet({ kind: 'life', defect: defect.id, stretch: null })}
              onClose={() => setElement(null)}
            />
          ) : (
            <StageCard
              shower={shower}
              stage={stage}
              mayInspect={mayInspect}
              mayBuild={mayWrite(person.role, 'work-done')}
              onChoose={setElement}
            />
          )}
        </aside>
      </main>
      {sheet && <ShowerSheets shower={shower} stage={stage} element={element} sheet={sheet} onSheet={setSheet} />}
    </div>
  );
}
