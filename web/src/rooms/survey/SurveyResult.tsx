import type { FlowEnd } from '@careful-seam/core/floor/ponding/flow';
import type { SurveyJudged } from '@careful-seam/core/floor/survey/judgeSurvey';
import type { SurveyCheck } from '@careful-seam/core/rules/checks/survey';
import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { showLength } from '@careful-seam/core/units/length';
import { fallWords } from '@careful-seam/words/sentences/sentences';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import type { CertaintyRun } from './useCertainty';

/** What the shots come to, and how sure it is. */
interface Props {
  /** What the shots come to. */
  judged: SurveyJudged;
  /** What the rule book asks, with its limits. */
  check: SurveyCheck;
  /** How sure the verdict is, as far as it has been tried. */
  certainty: CertaintyRun;
  /** Where it is least sure, and why. */
  doubt: { at: PlanPoint; why: 'fall' | 'pond' | 'unseen' } | null;
  /** Shares of the floor that drain, pond or run off; null while they are not known. */
  shares: Record<FlowEnd, number> | null;
  /** Some shots are raised to try it: it is not the record. */
  trying: number;
}

/** A share as a whole percent, and never 0 or 100 where it is not. */
const percent = (share: number): string => {
  const p = share * 100;
  return p > 0 && p < 1 ? '< 1' : p < 100 && p > 99 ? '> 99' : p.toFixed(0);
};

/** What the survey comes to: verdict, falls, ponds, and how sure all that is. */
export function SurveyResult({ judged, check, certainty, doubt, shares, trying }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { falls, ponds, verdict } = judged;
  const { measures } = check;
  if (measures.of !== 'fall') return null;
  const place = (p: PlanPoint) => t('survey.place', { x: showLength(p.xMm, unit), y: showLength(p.yMm, unit) });
  const litres = (l: number) =>
    unit === 'in'
      ? t('survey.cups', { value: (l / 0.2365882365).toFixed(1) })
      : t('survey.litres', { value: l.toFixed(2) });
  return (
    <section className="flex flex-col gap-1.5" aria-live="polite" data-testid="survey-result">
      <p
        className={`border-l-4 pl-2 font-bold text-lg leading-tight ${verdict === 'fail' ? 'border-hold text-hold' : verdict === 'pass' ? 'border-ink' : 'border-cure'}`}
      >
        {t(`survey.verdict.${trying > 0 ? 'try' : 'real'}.${verdict}`, { count: trying })}
      </p>
      <p className={falls.leastFall < measures.minFall ? 'text-hold' : ''}>
        {t('survey.least', {
          fall: fallWords(t, falls.leastFall, unit),
          place: place(falls.at),
          limit: fallWords(t, measures.minFall, unit),
        })}
      </p>
      <p className={falls.greatestFall > measures.maxFall ? 'text-hold' : ''}>
        {t('survey.greatest', {
          fall: fallWords(t, falls.greatestFall, unit),
          limit: fallWords(t, measures.maxFall, unit),
        })}
      </p>
      <p className="text-soft">{t('survey.edge', { out: showLength(falls.outOfLevelMm, unit) })}</p>
      {ponds.length === 0 ? (
        <p>{t('survey.noPond')}</p>
      ) : (
        <ul>
          {ponds.slice(0, 4).map((p) => (
            <li key={`${p.at.xMm} ${p.at.yMm}`} className={p.deepestMm > measures.pondMm ? 'text-hold' : ''}>
              {t('survey.pond', {
                depth: showLength(p.deepestMm, unit, 32),
                place: place(p.at),
                volume: litres(p.volumeL),
                limit: showLength(measures.pondMm, unit),
              })}
            </li>
          ))}
        </ul>
      )}
      {shares && shares.out > 0 && <p className="text-hold">{t('survey.out', { share: percent(shares.out) })}</p>}
      {certainty.busy ? (
        <div className="flex items-center gap-2">
          <progress className="flex-1" value={certainty.done} max={certainty.of} aria-label={t('survey.guessing')} />
          <button type="button" className="key px-2 text-sm" onClick={certainty.cancel}>
            {t('survey.stop')}
          </button>
        </div>
      ) : (
        certainty.value && (
          <p className="text-soft text-sm" data-testid="certainty">
            {t('survey.certainty', {
              runs: certainty.value.runs,
              below: percent(certainty.value.probabilityBelow),
              pond: percent(certainty.value.probabilityPond),
              uncertainty: showLength(check.uncertaintyMm, unit, 32),
              tilt: t(`survey.tilt.${unit}`),
            })}
          </p>
        )
      )}
      {doubt && (
        <p className="border-cure border-l-4 pl-2 text-sm">
          {t(`survey.doubt.${doubt.why}`, { place: place(doubt.at) })}
        </p>
      )}
    </section>
  );
}
