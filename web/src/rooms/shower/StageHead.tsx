import type { Stage } from '@careful-seam/core/rules/ruleBook';
import { sumsOf } from '@careful-seam/core/rules/tools';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { isAsked } from '../../shared/answering';
import type { LocalShower } from '../../tablet/store';
import { openedLater } from '../../ui/openedLater';
import { readyCheck } from './workOut/readyCheck';

const KitSheet = openedLater(() => import('./KitSheet').then((m) => m.KitSheet));
const StepsSheet = openedLater(() => import('./StepsSheet').then((m) => m.StepsSheet));
const WaysSheet = openedLater(() => import('./WaysSheet').then((m) => m.WaysSheet));
const ReadySheet = openedLater(() => import('./workOut/ReadySheet').then((m) => m.ReadySheet));
const StageSumSheet = openedLater(() => import('./workOut/StageSumSheet').then((m) => m.StageSumSheet), 'sums');

/** The stage that is looked at. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** The stage as the rule book has it. */
  spec: Stage;
  /** The person may read, look and release. */
  mayInspect: boolean;
}

/** What a stage is called and how it stands, and the sheets that belong to it. */
export function StageHead({ shower, spec, mayInspect }: Props) {
  const { t } = useTranslation();
  const [sheet, setSheet] = useState<'steps' | 'kit' | 'ways' | 'ready' | 'sums' | null>(null);
  const { state } = shower;
  const stage = spec.key;
  const here = state.stages.get(stage);
  const ready = readyCheck(state, stage);
  return (
    <>
      <header className="flex items-start gap-1.5">
        <div className="min-w-0 flex-1">
          <h2 className="font-bold text-lg leading-tight">{spec.label}</h2>
          <p className="text-soft text-sm" id="map-choice">
            {here?.word === 'released' && here.release
              ? `${t('stage.releasedBy', { name: here.release.by })}${here.release.imported ? ` · ${t('record.imported')}` : ''}`
              : spec.holdPoint
                ? t('stage.holdPoint')
                : t('stage.noHoldPoint')}
          </p>
        </div>
        <button type="button" className="key px-2 text-sm" onClick={() => setSheet('steps')}>
          {t('steps.open')}
        </button>
        {!spec.checks.every(isAsked) && (
          <button type="button" className="key px-2 text-sm" onClick={() => setSheet('ways')}>
            {t('ways.open')}
          </button>
        )}
        {mayInspect && sumsOf(spec).length > 0 && (
          <button type="button" className="key px-2 text-sm" onClick={() => setSheet('sums')}>
            {t('sum.short')}
          </button>
        )}
        {mayInspect && ready && (
          <button type="button" className="key px-2 text-sm" onClick={() => setSheet('ready')}>
            {t('ready.open')}
          </button>
        )}
        {mayInspect && state.rules!.method.kit.length > 0 && (
          <button type="button" className="key px-2 text-sm" onClick={() => setSheet('kit')}>
            {t('kit.open')}
          </button>
        )}
      </header>
      {sheet === 'ways' && (
        <WaysSheet
          showerId={shower.id}
          state={state}
          stage={stage}
          mayInspect={mayInspect}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === 'sums' && (
        <StageSumSheet showerId={shower.id} state={state} stage={stage} onClose={() => setSheet(null)} />
      )}
      {sheet === 'ready' && ready && (
        <ReadySheet showerId={shower.id} state={state} requirement={ready} onClose={() => setSheet(null)} />
      )}
      {sheet === 'steps' && <StepsSheet state={state} onClose={() => setSheet(null)} />}
      {sheet === 'kit' && <KitSheet shower={shower} onClose={() => setSheet(null)} />}
    </>
  );
}
