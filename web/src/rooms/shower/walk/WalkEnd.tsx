import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { useTranslation } from 'react-i18next';
import type { LocalShower } from '../../../tablet/store';
import { hotkey } from '../../../ui/hotkeys';
import { StageDecision } from '../StageDecision';
import { WhatIsMissing } from '../WhatIsMissing';
import type { Walk } from './useWalk';

/** The end of the way through a stage. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that was walked. */
  stage: string;
  /** The walk that ended. */
  walk: Walk;
  /** Opens the card of an element. */
  onElement: (element: string) => void;
  /** Goes on with the walk of the next stage; null behind the last. */
  onNext: (() => void) | null;
}

/** The end of the way: what was left, what holds the stage, its release, and the next stage. */
export function WalkEnd({ shower, stage, walk, onElement, onNext }: Props) {
  const { t } = useTranslation();
  const { state } = shower;
  const label = state.rules!.method.stages.find((s) => s.key === stage)!.label;
  const blockers = blockersOf(state, stage);
  const released = state.stages.get(stage)?.word === 'released';
  return (
    <>
      {released && !onNext && (
        <p className="font-semibold text-lg" data-testid="walk-finished">
          {t('walk.finished')}
        </p>
      )}
      <p className="font-semibold">{t(walk.left > 0 ? 'walk.endLeft' : 'walk.end', { count: walk.left })}</p>
      {walk.left > 0 && (
        <button type="button" className="key" onClick={walk.again}>
          {t('walk.again')}
        </button>
      )}
      <WhatIsMissing state={state} stage={stage} blockers={blockers} released={released} onChoose={onElement} />
      <StageDecision
        shower={shower}
        stage={stage}
        label={label}
        holds={blockers.length}
        {...(onNext ? { onReleased: onNext } : {})}
      />
      {released && onNext && (
        <button type="button" className="key key-main text-lg" {...hotkey('next')} onClick={onNext}>
          {t('walk.next')}
        </button>
      )}
    </>
  );
}
