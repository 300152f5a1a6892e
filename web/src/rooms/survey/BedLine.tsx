import { bedThickness } from '@careful-seam/core/floor/bedThickness';
import type { SurveyJudged } from '@careful-seam/core/floor/survey/judgeSurvey';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { mortarWords } from '../../shared/volumes';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';

/** The bed under the shots. */
interface Props {
  /** What the shots come to. */
  judged: SurveyJudged;
  /** The least that is asked, mm. */
  leastMm: number;
  /** The rim's height over the subfloor as typed; with it the plan shows thicknesses instead of heights. */
  text: string;
  /** Told of every key. */
  onType: (text: string) => void;
}

/** A mortar bed's thickness from its survey, once the rim's height over the subfloor is told. */
export function BedLine({ judged, leastMm, text, onType }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const read = text.trim() === '' ? null : parseLength(text, unit, t('survey.bed.rim'));
  const bed = read?.ok ? bedThickness(judged.surface, judged.z, read.value.mm, leastMm) : null;
  const show = (mm: number) => showLength(mm, unit);
  return (
    <div className="flex flex-col gap-1 border-hair border-t pt-2">
      <label className="grid grid-cols-[1fr_7rem] items-center gap-2 text-sm">
        <span className="text-soft">{t('survey.bed.rim')}</span>
        <input className="field text-base" value={text} onChange={(e) => onType(e.target.value)} />
      </label>
      {read && !read.ok && (
        <p role="alert" className="text-hold text-sm">
          {problemWords(read.problem)}
        </p>
      )}
      {bed && (
        <p data-testid="bed" className={bed.thin.length > 0 ? 'text-hold' : ''}>
          {t(bed.thin.length > 0 ? 'survey.bed.thin' : 'survey.bed.thick', {
            count: bed.thin.length,
            least: show(bed.leastMm),
            mean: show(bed.meanMm),
            limit: show(leastMm),
            place: t('survey.place', { x: show(bed.at.xMm), y: show(bed.at.yMm) }),
            volume: mortarWords(bed.volumeL, unit),
          })}
        </p>
      )}
    </div>
  );
}
