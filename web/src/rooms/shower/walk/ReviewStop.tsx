import { evidenceOn } from '@careful-seam/core/checks/judge';
import type { Stop } from '@careful-seam/core/checks/walk';
import { verdictSentence } from '@careful-seam/words/sentences/sentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { LocalShower } from '../../../tablet/store';
import { hotkey } from '../../../ui/hotkeys';
import { usePreferences } from '../../../ui/preferences';
import { MistypedSheet } from '../MistypedSheet';
import type { Walk } from './useWalk';

/** A stop that was answered. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is walked. */
  stage: string;
  /** The stop that is looked at once more. */
  stop: Stop;
  /** The walk that goes on from here. */
  walk: Walk;
  /** Opens the sheet of a new defect at an element. */
  onDefect: (element: string) => void;
}

/** The element whose words are corrected: of a look at many, the one that was spoken of last. */
function lastSpoken({ state }: LocalShower, stop: Stop): string {
  const said = stop.judgements.flatMap(({ requirement }) => {
    const { looks, readings } = evidenceOn(state, requirement);
    return [...looks, ...readings];
  });
  const last = said.reduce<(typeof said)[number] | null>((a, b) => (a && a.seq >= b.seq ? a : b), null);
  return last?.element ?? stop.judgements[0]!.requirement.element;
}

/** What was said at a stop: right, mistyped, or a defect; after a value outside its limit the walk waits here. */
export function ReviewStop({ shower, stage, stop, walk, onDefect }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [mistyped, setMistyped] = useState(false);
  const model = shower.state.geometry!.model;
  const fails = stop.judgements.some((j) => j.verdict === 'fail' && !j.satisfied);
  const element = lastSpoken(shower, stop);
  return (
    <>
      <ul className="min-h-0 flex-1 overflow-y-auto text-[15px] leading-snug">
        {stop.judgements.map((j) => (
          <li
            key={`${j.requirement.check.id} ${j.requirement.element} ${j.requirement.side}`}
            className={j.verdict === 'fail' ? 'border-hold border-l-4 pl-2 font-semibold text-hold' : ''}
          >
            {verdictSentence(t, model, j, unit)}
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-1.5">
        <button type="button" className="key" onClick={() => setMistyped(true)}>
          {t('mistyped.open')}
        </button>
        {fails && (
          <button type="button" className="key key-hold" {...hotkey('defect')} onClick={() => onDefect(element)}>
            {t('answer.defect')}
          </button>
        )}
        <button type="button" className="key" disabled={!walk.back} {...hotkey('back')} onClick={() => walk.back?.()}>
          {t('walk.back')}
        </button>
        <button type="button" className="key key-main" {...hotkey('next')} onClick={walk.goOn}>
          {t('walk.goOn')}
        </button>
      </div>
      {mistyped && (
        <MistypedSheet
          showerId={shower.id}
          state={shower.state}
          stage={stage}
          element={element}
          onClose={() => {
            setMistyped(false);
            walk.goOn();
          }}
        />
      )}
    </>
  );
}
