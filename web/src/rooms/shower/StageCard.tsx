import { calculationVersions } from '@careful-seam/core/calc/registry';
import type { Blocker } from '@careful-seam/core/log/judgement';
import { openLookRequests } from '@careful-seam/core/proof/holds/lookRequests';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { releaseStatement } from '@careful-seam/core/proof/holds/stand';
import { becauseSentence, besideSentence, blockerSentence, momentWords } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { WorkDoneSheet } from '../../shared/WorkDoneSheet';
import { type LocalShower, useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { KitSheet } from './KitSheet';
import { StageTools } from './StageTools';
import { StepsSheet } from './StepsSheet';
import { WaysSheet } from './WaysSheet';
import { ReadySheet, readyCheck } from './workOut/ReadySheet';
import { hasStageSums, StageSumSheet } from './workOut/StageSumSheet';

interface Props {
  shower: LocalShower;
  stage: string;
  mayInspect: boolean;
  mayBuild: boolean;
  onChoose: (element: string) => void;
}

const elementOf = (b: Blocker): string | null => {
  if (b.kind === 'check') return b.element;
  if (b.kind === 'defect') return b.defect.places[0]?.element ?? null;
  return b.kind === 'deviation-pending' ? b.deviation.asked.place.element : null;
};

function releaseBody(shower: LocalShower, stage: string, personId: string, upholds?: string) {
  return {
    stage,
    judged: {
      ledgerSeq: shower.stored.cursor,
      ledgerHash: shower.stored.headHash ?? '',
      deviceSeq: shower.stored.chains[personId]?.deviceSeq ?? 0,
    },
    ...releaseStatement(shower.state, stage),
    calculations: calculationVersions(),
    ...(upholds ? { upholds } : {}),
  };
}

/** A stage: its caution, exactly what is missing with its place, and release or hold. */
export function StageCard({ shower, stage, mayInspect, mayBuild, onChoose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const person = useStore((s) => s.person)!;
  const [reason, setReason] = useState('');
  const [telling, setTelling] = useState(false);
  const [sheet, setSheet] = useState<'steps' | 'kit' | 'ways' | 'ready' | 'sums' | null>(null);
  const { state } = shower;
  const asked = openLookRequests(state).find((r) => r.body.stage === stage);
  const spec = state.rules!.method.stages.find((s) => s.key === stage)!;
  const model = state.geometry!.model;
  const blockers = blockersOf(state, stage);
  const here = state.stages.get(stage);
  const released = here?.word === 'released';
  const ready = readyCheck(state, stage);
  const contested = here?.word === 'contested';
  const groups = new Map<string, Blocker[]>();
  for (const b of blockers) {
    const key = elementOf(b) ?? '';
    groups.set(key, [...(groups.get(key) ?? []), b]);
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <header className="flex items-start gap-1.5">
        <div className="min-w-0 flex-1">
          <h2 className="font-bold text-lg leading-tight">{spec.label}</h2>
          <p className="text-soft text-sm" id="map-choice">
            {released && here?.release
              ? `${t('stage.releasedBy', { name: here.release.by })}${here.release.imported ? ` · ${t('record.imported')}` : ''}`
              : spec.holdPoint
                ? t('stage.holdPoint')
                : t('stage.noHoldPoint')}
          </p>
        </div>
        <button type="button" className="key px-2 text-sm" onClick={() => setSheet('steps')}>
          {t('steps.open')}
        </button>
        {spec.checks.some((c) => c.kind === 'position') && (
          <button type="button" className="key px-2 text-sm" onClick={() => setSheet('ways')}>
            {t('ways.open')}
          </button>
        )}
        {mayInspect && hasStageSums(stage) && (
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
      {spec.caution && <p className="border-cure border-l-4 pl-2 text-sm">{spec.caution}</p>}
      {here?.because && (
        <p className="border-hold border-l-4 pl-2 font-semibold text-hold" data-testid="because">
          {becauseSentence(t, here.because)} {contested && t('stage.contested')}
        </p>
      )}
      {(here?.beside ?? []).map((b) => (
        <p key={`${b.check} ${b.element} ${b.side}`} className="border-cure border-l-4 pl-2 text-sm">
          {elementName(t, model, b.element)}: {besideSentence(t, model, b.judgement, unit)}
        </p>
      ))}
      <StageTools shower={shower} stage={stage} mayInspect={mayInspect} />
      {spec.checks.some((c) => c.kind === 'flood') && (
        <Link to={`/showers/${shower.id}/flood`} className="key key-main flex items-center justify-center text-lg">
          {t(state.flood?.running ? 'flood.openRunning' : state.flood ? 'flood.openEnded' : 'flood.openNew')}
        </Link>
      )}
      <div className="min-h-0 flex-1 overflow-y-auto">
        {blockers.length === 0 && !released && <p className="font-semibold">{t('stage.nothingMissing')}</p>}
        {blockers.length > 0 && !released && (
          <p className="font-semibold">{t('stage.missing', { count: blockers.length })}</p>
        )}
        {released && <p>{t('stage.released')}</p>}
        <ul>
          {!released &&
            [...groups].map(([element, list]) => {
              const lines = [...new Set(list.map((b) => blockerSentence(t, model, state.rules!.book, b, unit)))];
              const hold = list.some((b) => b.kind === 'defect' || (b.kind === 'check' && b.verdict === 'fail'));
              return (
                <li key={element} className="border-hair border-b">
                  {element === '' ? (
                    <p className="py-2 text-sm">{lines.join(' ')}</p>
                  ) : (
                    <button
                      type="button"
                      className="min-h-12 w-full cursor-pointer py-1 text-left"
                      onClick={() => onChoose(element)}
                    >
                      <span className={`font-semibold ${hold ? 'text-hold' : ''}`}>
                        {elementName(t, model, element)}
                      </span>
                      <span className="block text-sm text-soft">{lines.join(' ')}</span>
                    </button>
                  )}
                </li>
              );
            })}
        </ul>
      </div>
      {asked && (
        <p className="border-cure border-l-4 pl-2">
          {t('stage.lookAsked', { by: asked.author.name, at: momentWords(Date.parse(asked.observedAt)) })}{' '}
          {asked.body.words}
        </p>
      )}
      {mayBuild && !released && (
        <button type="button" className="key" onClick={() => setTelling(true)}>
          {t('stage.workDone')}
        </button>
      )}
      {telling && <WorkDoneSheet showerId={shower.id} state={state} stage={stage} onClose={() => setTelling(false)} />}
      {mayInspect && (released || contested) && (
        <div className="flex gap-1.5">
          <input
            className="field"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            aria-label={t('stage.reason')}
            placeholder={t('stage.reason')}
          />
          <button
            type="button"
            className="key flex-none"
            disabled={reason.trim() === ''}
            onClick={() =>
              void write(shower.id, 'stage-reopened', { stage, reason: reason.trim() }).then(() => setReason(''))
            }
          >
            {t('stage.reopen')}
          </button>
          {contested && person.role === 'manager' && (
            <button
              type="button"
              className="key flex-none"
              disabled={reason.trim() === ''}
              onClick={() =>
                void write(shower.id, 'stage-released', releaseBody(shower, stage, person.id, reason.trim())).then(() =>
                  setReason(''),
                )
              }
            >
              {t('stage.uphold')}
            </button>
          )}
        </div>
      )}
      {mayInspect && !released && !(contested && blockers.length > 0) && (
        <button
          type="button"
          className="key key-main text-lg"
          disabled={blockers.length > 0}
          onClick={() => void write(shower.id, 'stage-released', releaseBody(shower, stage, person.id))}
        >
          {blockers.length > 0
            ? t('stage.hold', { count: blockers.length })
            : t('stage.release', { stage: spec.label })}
        </button>
      )}
    </div>
  );
}
