import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { LoggerSeries } from '@careful-seam/files/loggerCsv';
import { smallLength } from '@careful-seam/words/sentences/floodSentences';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { round } from '../../ui/thinned';

/** What a file says as its columns are read now: its first rows, its span and fall, its gaps, and what was left out. */
export function LoggerPreview({ series, test, zone }: { series: LoggerSeries; test: FloodTest; zone: string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const last = series.water.at(-1)!;
  const before = series.water.filter((r) => r.atMs < test.startMs).length;
  const fall = series.water[0]!.levelMm - last.levelMm;
  const lines = [
    t('flood.file.found', {
      count: series.water.length,
      from: momentWords(series.water[0]!.atMs, zone),
      to: momentWords(last.atMs, zone),
      every: round(series.everyMinutes, 1),
    }),
    t('flood.file.fall', { fall: smallLength(fall, unit) }),
    ...(series.longestGapHours > Math.max(0.5, (series.everyMinutes / 60) * 4)
      ? [t('flood.file.gap', { hours: round(series.longestGapHours, 1) })]
      : []),
    ...(before > 0 ? [t('flood.file.before', { count: before })] : []),
  ];
  return (
    <div data-testid="logger-preview">
      <table className="w-full text-left text-sm">
        <thead>
          <tr className="text-soft">
            <th className="font-normal">{t('flood.file.time')}</th>
            <th className="font-normal">{t('flood.of.water')}</th>
            {series.pan.length > 0 && <th className="font-normal">{t('flood.of.pan')}</th>}
          </tr>
        </thead>
        <tbody>
          {series.water.slice(0, 4).map((r, i) => (
            <tr key={r.atMs}>
              <td>{momentWords(r.atMs, zone)}</td>
              <td className="font-bold">{round(r.levelMm, 2)} mm</td>
              {series.pan.length > 0 && <td className="font-bold">{round(series.pan[i]!.levelMm, 2)} mm</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
      {series.leftOut > 0 && (
        <p className="text-hold">
          {t('flood.file.leftOut', { count: series.leftOut })}{' '}
          {series.problems
            .slice(0, 3)
            .map((p) => t(`flood.file.problem.${p.kind}`, { row: p.row, cell: p.cell }))
            .join(' ')}
        </p>
      )}
    </div>
  );
}
