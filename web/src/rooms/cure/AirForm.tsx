import { air } from '@careful-seam/core/cure/air';
import { siteTemperature } from '@careful-seam/core/cure/cureAge';
import { OVER_DEW_C } from '@careful-seam/core/cure/siteAir';
import type { Body } from '@careful-seam/core/log/bodies';
import { readHumidity, readTemperature, temperatureWords } from '@careful-seam/words/sentences/cureWords';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { TimeField } from '../../ui/TimeField';
import { problemWords } from '../../ui/words';

/** Where the air is read, and what an instrument says of it. */
interface Props {
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** The air that an instrument said last, not kept yet. */
  heard: { airC: number; relativeHumidity: number } | null;
  /** Told of a reading that is whole and possible. */
  onKeep: (body: Body<'climate-reading'>) => void;
}

/** One reading of the air by hand, with the surface if it was measured: the dew point and its margin show at once. */
export function AirForm({ zone, heard, onKeep }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const degrees = unit === 'in' ? '°F' : '°C';
  const [typed, setTyped] = useState({ air: '', humidity: '', surface: '' });
  const [atMs, setAt] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const airC = readTemperature(typed.air, unit);
  const humidity = readHumidity(typed.humidity);
  const surfaceC = typed.surface.trim() === '' ? null : readTemperature(typed.surface, unit);
  const found = airC !== null && humidity !== null ? air({ temperatureC: airC, relativeHumidity: humidity }) : null;
  const dewC = found?.ok ? found.value.dewPointC : null;
  const margin = dewC !== null && surfaceC !== null ? surfaceC - dewC : null;
  const keep = () => {
    if (airC === null) return setProblem(t('cure.air.noAir', { degrees }));
    if (humidity === null) return setProblem(t('cure.air.noHumidity'));
    if (typed.surface.trim() !== '' && surfaceC === null) return setProblem(t('cure.air.noSurface', { degrees }));
    const site = siteTemperature(airC, 'air');
    if (!site.ok) return setProblem(problemWords(site.problem));
    if (atMs !== null && atMs > Date.now() + 60_000) return setProblem(t('flood.inFuture'));
    onKeep({
      airC,
      relativeHumidity: humidity,
      ...(surfaceC === null ? {} : { surfaceC }),
      ...(atMs === null ? {} : { readAt: new Date(atMs).toISOString() }),
      instrument: 'thermo-hygrometer',
    });
    setTyped({ air: '', humidity: '', surface: '' });
    setProblem(null);
  };
  return (
    <section className="flex flex-col gap-2" aria-label={t('cure.air.title')}>
      <div className="grid grid-cols-3 gap-2">
        {(['air', 'humidity', 'surface'] as const).map((key) => (
          <label key={key} className="flex flex-col justify-end text-sm">
            <span className="text-soft leading-tight">{t(`cure.air.${key}`, { degrees })}</span>
            <input
              className="field font-bold text-lg"
              value={typed[key]}
              onChange={(e) => {
                setTyped({ ...typed, [key]: e.target.value });
                setProblem(null);
              }}
            />
          </label>
        ))}
      </div>
      <TimeField label={t('cure.air.at')} zone={zone} atMs={atMs} onAt={setAt} />
      {dewC !== null && (
        <p
          className={`border-l-4 pl-2 ${margin !== null && margin < OVER_DEW_C ? 'border-hold text-hold' : 'border-ink'}`}
        >
          {t('cure.air.dew', { dew: temperatureWords(dewC, unit) })}{' '}
          {margin !== null &&
            t(margin < OVER_DEW_C ? 'cure.air.tooNear' : 'cure.air.clear', {
              margin: unit === 'in' ? `${Math.round(margin * 1.8)} °F` : `${margin.toFixed(1)} °C`,
              least: unit === 'in' ? '5 °F' : '3 °C',
            })}
        </p>
      )}
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <div className="flex gap-1.5">
        {heard && typed.air === '' && (
          <button
            type="button"
            className="key key-main flex-1"
            onClick={() => onKeep({ ...heard, instrument: 'thermo-hygrometer' })}
          >
            {t('cure.air.keepHeard', {
              air: temperatureWords(heard.airC, unit),
              humidity: Math.round(heard.relativeHumidity * 100),
            })}
          </button>
        )}
        <button type="button" className="key flex-1" onClick={keep}>
          {t('cure.air.keep')}
        </button>
      </div>
    </section>
  );
}
