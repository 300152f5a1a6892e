import { openLookRequests } from '@careful-seam/core/proof/holds/lookRequests';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { becauseSentence, besideSentence } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { screenOf } from '../../shared/answering';
import { WorkDoneSheet } from '../../shared/WorkDoneSheet';
import type { LocalShower } from '../../tablet/store';
import { hotkey } from '../../ui/hotkeys';
import { usePreferences } from '../../ui/preferences';
import { KeptPictures, PicturesMissing } from './KeptPictures';
import { StageDecision } from './StageDecision';
import { StageHead } from './StageHead';
import { StageTools } from './StageTools';
import { WhatIsMissing } from './WhatIsMissing';

/** The stage that is looked at, and what the person may do. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is looked at. */
  stage: string;
  /** The person may read, look and release. */
  mayInspect: boolean;
  /** The person may say that work is done. */
  mayBuild: boolean;
  /** Goes to an element that is missing something. */
  onChoose: (element: string) => void;
  /** Walks it from place to place. */
  onWalk: () => void;
  /** Goes to the next stage; null behind the last. */
  onNext: (() => void) | null;
}

/** A stage: its caution, exactly what is missing with its place, and release or hold. */
export function StageCard({ shower, stage, mayInspect, mayBuild, onChoose, onWalk, onNext }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [telling, setTelling] = useState(false);
  const { state } = shower;
  const asked = openLookRequests(state).find((r) => r.body.stage === stage);
  const spec = state.rules!.method.stages.find((s) => s.key === stage)!;
  const model = state.geometry!.model;
  const blockers = blockersOf(state, stage);
  const here = state.stages.get(stage);
  const released = here?.word === 'released';
  const contested = here?.word === 'contested';
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <StageHead shower={shower} spec={spec} mayInspect={mayInspect} />
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
      {spec.checks.some((c) => screenOf(c) === 'flood') && (
        <Link to={`/showers/${shower.id}/flood`} className="key key-main flex items-center justify-center text-lg">
          {t(state.flood?.running ? 'flood.openRunning' : state.flood ? 'flood.openEnded' : 'flood.openNew')}
        </Link>
      )}
      <KeptPictures showerId={shower.id} state={state} stage={stage} element={null} />
      <WhatIsMissing state={state} stage={stage} blockers={blockers} released={released} onChoose={onChoose} />
      {asked && (
        <p className="border-cure border-l-4 pl-2">
          {t('stage.lookAsked', {
            by: asked.author.name,
            at: momentWords(Date.parse(asked.observedAt), state.created?.body.timeZone),
          })}{' '}
          {asked.body.words}
        </p>
      )}
      {mayBuild && !released && (
        <button type="button" className="key" onClick={() => setTelling(true)}>
          {t('stage.workDone')}
        </button>
      )}
      {telling && <WorkDoneSheet showerId={shower.id} state={state} stage={stage} onClose={() => setTelling(false)} />}
      {mayInspect && !released && blockers.length > 0 && (
        <button type="button" className="key key-main text-lg" {...hotkey('next')} onClick={onWalk}>
          {t(here?.begun ? 'walk.goOnKey' : 'walk.open')}
        </button>
      )}
      {released && onNext && (
        <button type="button" className="key key-main text-lg" onClick={onNext}>
          {t('stage.next')}
        </button>
      )}
      {mayInspect && <PicturesMissing showerId={shower.id} state={state} stage={stage} />}
      {mayInspect && <StageDecision shower={shower} stage={stage} label={spec.label} holds={blockers.length} />}
    </div>
  );
}
