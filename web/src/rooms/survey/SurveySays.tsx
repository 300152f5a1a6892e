import { flowShares } from '@careful-seam/core/floor/ponding/flow';
import { showLength } from '@careful-seam/core/units/length';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';
import { FlatResult } from './FlatResult';
import { SurveyResult } from './SurveyResult';
import type { Survey } from './surveyOf';
import type { FloorJudged } from './useFloorJudged';

/** What the shots come to. */
interface Props {
  /** What the shots come to. */
  floor: FloorJudged;
  /** What is asked, with the shots. */
  survey: Survey;
  /** What stands between the result and the questions that it asks. */
  children: ReactNode;
  /** Goes to a shot. */
  onShot: (shot: number) => void;
  /** All that was tried is taken back. */
  onBack: () => void;
}

/** What the shots say of the floor: its falls or its flatness, a shot that stands alone, and that something is only tried. */
export function SurveySays({ floor, survey: { check, shots }, children, onShot, onBack }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { fall, flat, judged, certainty, doubt, openEdges, flow, trying, wild, asIf } = floor;
  const problem = fall?.ok === false ? fall.problem : flat?.ok === false ? flat.problem : null;
  return (
    <>
      {problem && (
        <p role="alert" className="text-hold">
          {problemWords(problem)}
        </p>
      )}
      {shots.length < check.shotsAtLeast && (
        <p className="text-soft">{t('survey.few', { count: shots.length, need: check.shotsAtLeast })}</p>
      )}
      {judged && (
        <SurveyResult
          judged={judged}
          check={check}
          certainty={certainty}
          doubt={doubt}
          shares={openEdges.length > 0 ? flowShares(flow) : null}
          trying={trying}
        />
      )}
      {children}
      {flat?.ok && <FlatResult flat={flat.value} check={check} floor={floor.floor} shots={asIf} />}
      {wild && (
        <p className="border-cure border-l-4 pl-2" data-testid="wild">
          {t('survey.wild', { number: wild.shot + 1, off: showLength(Math.abs(wild.offMm), unit) })}{' '}
          <button type="button" className="key px-2 text-sm" onClick={() => onShot(wild.shot)}>
            {t('survey.showIt')}
          </button>
        </p>
      )}
      {trying > 0 && (
        <p className="flex items-center gap-2 border-cure border-l-4 pl-2">
          <span className="flex-1">{t('survey.trying', { count: trying })}</span>
          <button type="button" className="key px-2 text-sm" onClick={onBack}>
            {t('survey.back')}
          </button>
        </p>
      )}
    </>
  );
}
