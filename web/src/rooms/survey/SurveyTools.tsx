import { showLength } from '@careful-seam/core/units/length';
import { writeShotsCsv } from '@careful-seam/files/shotsCsv';
import { useTranslation } from 'react-i18next';
import { FileKey } from '../../ui/FileKey';
import { usePreferences } from '../../ui/preferences';
import { saveFile } from '../../ui/saveFile';
import { words } from '../../ui/words';
import type { Survey } from './surveyOf';

/** The shots that files and tools work on. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shots that stand, in the order in which they were taken. */
  shots: Survey['shots'];
  /** It is about the fall; else about flatness. */
  isFall: boolean;
  /** The shot that is chosen, by its place in the list. */
  chosen: number | null;
  /** Goes to a shot, or to none. */
  onChoose: (shot: number | null) => void;
  /** Whether the water is drawn running. */
  moving: boolean;
  /** Shows water moving, or stops it. */
  onMoving: (moving: boolean) => void;
  /** Null for whoever may not shoot. */
  onFile: ((file: File) => void) | null;
}

/** Under the floor's plan: a shot by its number, the water, shots as a file out and in, marks for the walls. */
export function SurveyTools({ showerId, shots, isFall, chosen, onChoose, moving, onMoving, onFile }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <span className="text-soft text-sm" aria-hidden="true">
        {t('survey.choose')}
      </span>
      <select
        className="field w-auto min-w-20 px-1 text-base"
        aria-label={t('survey.choose')}
        value={chosen ?? ''}
        onChange={(e) => onChoose(e.target.value === '' ? null : Number(e.target.value))}
      >
        <option value="">–</option>
        {shots.map((s, i) => (
          <option key={s.entry} value={i}>
            {t('survey.option', { number: i + 1, x: showLength(s.xMm, unit), y: showLength(s.yMm, unit) })}
          </option>
        ))}
      </select>
      {isFall && (
        <button type="button" className="key px-2 text-sm" aria-pressed={moving} onClick={() => onMoving(!moving)}>
          {t('survey.water')}
        </button>
      )}
      <button
        type="button"
        className="key px-2 text-sm"
        disabled={shots.length === 0}
        onClick={() => saveFile(writeShotsCsv(shots), 'text/csv', 'shots.csv')}
      >
        {t('survey.csvOut')}
      </button>
      {onFile && <FileKey label={t('survey.csvIn')} accept=".csv,text/csv" onFile={onFile} />}
      {isFall && (
        <a
          className="key flex items-center px-2 text-sm"
          href={`/api/showers/${showerId}/marks.pdf?unit=${unit}&lang=${words.language}`}
          download
        >
          {t('survey.marks')}
        </a>
      )}
    </div>
  );
}
