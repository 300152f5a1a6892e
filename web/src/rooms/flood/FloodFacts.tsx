import { plannedEndMs } from '@careful-seam/core/checks/floodReadings';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { showLength } from '@careful-seam/core/units/length';
import { waterIn } from '@careful-seam/core/water/waterIn';
import { volumeWords, weightWords } from '@careful-seam/words/sentences/floodSentences';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** Since when or until when, and how much water. */
export function FloodFacts({ model, test, zone }: { model: ShowerModel; test: FloodTest; zone: string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const water = waterIn(model, test.filledToMm);
  return (
    <p className="leading-snug">
      {test.running
        ? t('flood.runs', { since: momentWords(test.startMs, zone), end: momentWords(plannedEndMs(test), zone) })
        : test.voided
          ? t(`flood.voided.${test.voided.cause}`)
          : t('flood.ended', {
              at: momentWords(Date.parse(test.end?.at ?? test.startedAt), zone),
              name: test.end?.by ?? '',
            })}{' '}
      <span className="text-soft">
        {t('flood.filled', {
          level: showLength(test.filledToMm, unit),
          threshold: showLength(water?.depthAtThresholdMm ?? 0, unit),
          volume: volumeWords(water?.volumeL ?? 0, unit),
          weight: weightWords(water?.massKg ?? 0, unit),
        })}
      </span>
    </p>
  );
}
