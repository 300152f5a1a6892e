import { climateOf } from '@careful-seam/core/checks/cureOfShower';
import { cureBand, type Forecast } from '@careful-seam/core/cure/cureClock';
import { HELPS, helped } from '@careful-seam/core/cure/siteAir';
import { hoursWords, layerName, temperatureWords } from '@careful-seam/words/sentences/cureWords';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import type { LocalShower } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { HOUR_MS } from './Cure';
import { useWhy } from './Layers';
import { type ShowerWait, showerWaits } from './waits';

/** When the slowest layer is ready, in words: the moment, its band, what decides it, and what would help. */
export function Ready({
  shower,
  wait,
  forecast,
  plusMinusC,
  zone,
}: {
  shower: LocalShower;
  wait: ShowerWait;
  forecast: Forecast | null;
  plusMinusC: number;
  zone: string;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const why = useWhy();
  const { state } = shower;
  const { check } = wait.requirement;
  const slowest = wait.layers.at(-1)!;
  const log = climateOf(state);
  const kind = check.cures ?? 'sealant';
  const layer = {
    kind,
    laidAtMs: slowest.laidAtMs,
    labelHours: check.hours,
    model: check.model ?? ('arrhenius' as const),
    filmRatio: slowest.filmRatio,
  };
  const over = slowest.readyAtMs !== null && slowest.readyAtMs <= state.clockMs;
  const band = forecast && !over && kind !== 'sealant' ? cureBand(layer, log, forecast, plusMinusC) : null;
  const gains = forecast && !over && kind !== 'sealant' ? HELPS : [];
  const name = layerName(t, state.geometry!.model, state.rules!.method, slowest);
  return (
    <section data-testid="cure-ready" aria-live="polite" className="flex flex-col gap-1">
      <p
        className={`border-l-4 pl-2 font-bold text-lg leading-tight ${over ? 'border-ink' : slowest.readyAtMs === null ? 'border-hold text-hold' : 'border-cure'}`}
      >
        {slowest.readyAtMs === null
          ? t('cure.never.title', { check: check.label })
          : t(over ? 'cure.over' : 'cure.waits', { check: check.label, at: momentWords(slowest.readyAtMs, zone) })}
      </p>
      <p>{t('cure.slowest', { layer: name, why: why(slowest, check.hours) })}</p>
      {wait.toCome.length > 0 && (
        <p>
          {t('cure.toCome', {
            stages: wait.toCome.map((key) => state.rules!.method.stages.find((x) => x.key === key)!.label).join(', '),
          })}
        </p>
      )}
      {band && (
        <p className="text-soft">
          {t('cure.band', {
            earliest: band.earliestMs === null ? t('cure.noEnd') : momentWords(band.earliestMs, zone),
            latest: band.latestMs === null ? t('cure.noEnd') : momentWords(band.latestMs, zone),
          })}
        </p>
      )}
      {slowest.read && (slowest.bridgedHours > 0.01 || slowest.lostHours > 0.01 || slowest.assumedHours > 0.01) && (
        <p className="text-soft text-sm">
          {slowest.lostHours > 0.01 && `${t('cure.lost', { hours: hoursWords(t, slowest.lostHours) })} `}
          {slowest.bridgedHours > 0.01 && `${t('cure.bridged', { hours: hoursWords(t, slowest.bridgedHours) })} `}
          {slowest.assumedHours > 0.01 && t('cure.assumed', { hours: hoursWords(t, slowest.assumedHours) })}
        </p>
      )}
      {gains.map((help) => {
        const then = showerWaits(state, helped(forecast!, help))
          .find((w) => w.requirement.check.id === check.id)
          ?.layers.at(-1)?.readyAtMs;
        if (then == null) return null;
        const gain = slowest.readyAtMs === null ? null : (slowest.readyAtMs - then) / HOUR_MS;
        if (gain !== null && gain < 0.25) return null;
        return (
          <p key={help} className="text-sm">
            {t(`cure.help.${help}`, {
              warm: temperatureWords(helped(forecast!, 'heat').airC, unit),
              at: momentWords(then, zone),
              gain: gain === null ? '–' : hoursWords(t, gain),
            })}
          </p>
        );
      })}
      <p className="text-soft text-sm">{t(`cure.form.${kind === 'cement' ? layer.model : kind}`)}</p>
    </section>
  );
}
