import { FLOOD_MARGIN_MM, lowestCurbMm, waterProof } from '@careful-seam/core/checks/waterProof';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { showLength } from '@careful-seam/core/units/length';
import { fillTime, USUAL_LITRES_PER_MINUTE } from '@careful-seam/core/water/fillTime';
import { floorLoad } from '@careful-seam/core/water/floorLoad';
import { waterIn } from '@careful-seam/core/water/waterIn';
import { volumeWords, weightWords } from '@careful-seam/words/sentences/floodSentences';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** What a water line means: water, weight, both depths, freeboard, inches that it would prove. */
export function FloodFigures({ model, check, levelMm }: { model: ShowerModel; check: FloodCheck; levelMm: number }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const water = waterIn(model, levelMm);
  const curb = lowestCurbMm(model);
  if (!water) return null;
  const load = floorLoad(water);
  const fill = fillTime({ volumeL: water.volumeL, litresPerMinute: USUAL_LITRES_PER_MINUTE });
  const proof = waterProof(model, levelMm - FLOOD_MARGIN_MM);
  const rows = [
    [t('flood.atDrain'), showLength(levelMm, unit)],
    [t('flood.atThreshold'), showLength(water.depthAtThresholdMm, unit)],
    ...(curb === null
      ? []
      : [[t('flood.freeboard'), levelMm > curb ? t('flood.none') : showLength(curb - levelMm, unit)]]),
    [t('flood.water'), `${volumeWords(water.volumeL, unit)}, ${weightWords(water.massKg, unit)}`],
    [
      t('flood.load'),
      unit === 'in'
        ? `${load.lbPerFt2.toFixed(1)} lb/ft²`
        : `${(water.wettedM2 > 0 ? water.massKg / water.wettedM2 : 0).toFixed(0)} kg/m²`,
    ],
    [t('flood.fill'), fill.ok ? t('flood.minutes', { count: Math.max(1, Math.round(fill.value.minutes)) }) : ''],
    [t('flood.proves'), t('flood.provesWhat', { wet: showLength(proof.wetMm, unit), count: proof.under.length })],
  ];
  return (
    <div>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3" data-testid="flood-figures">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="text-right font-bold">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 border-cure border-l-4 pl-2 text-sm">
        {t('flood.loadCaution', { share: Math.round(load.shareOfLiveLoad * 100) })}
      </p>
      {water.depthAtThresholdMm < check.atThresholdAtLeastMm - 0.01 && (
        <p className="mt-1 border-hold border-l-4 pl-2 text-hold text-sm">
          {t('flood.shallow', { least: showLength(check.atThresholdAtLeastMm, unit) })}
        </p>
      )}
    </div>
  );
}

/** Why a water line can't be used, or null: above the curb, or too close below it. */
export function waterLineProblem(
  model: ShowerModel,
  check: FloodCheck,
  levelMm: number,
): { above: boolean; mostMm: number } | null {
  const curb = lowestCurbMm(model);
  if (curb === null) return null;
  const mostMm = curb - check.belowCurbMm;
  return levelMm > mostMm + 0.01 ? { above: levelMm > curb, mostMm } : null;
}
