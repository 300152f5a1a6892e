import { climateOf } from '@careful-seam/core/checks/cureOfShower';
import type { Forecast } from '@careful-seam/core/cure/cureClock';
import { type SensorFault, sensorFaults } from '@careful-seam/core/cure/sensorFaults';
import type { Body } from '@careful-seam/core/log/bodies';
import { mayWrite } from '@careful-seam/core/log/roles';
import { airReading } from '@careful-seam/files/instruments/senml';
import { hoursWords, readHumidity, readTemperature, temperatureWords } from '@careful-seam/words/sentences/cureWords';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useParts, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { InstrumentPanel } from '../../ui/instrument/InstrumentPanel';
import { useInstrument } from '../../ui/instrument/useInstrument';
import { usePreferences } from '../../ui/preferences';
import { AirForm } from './AirForm';
import { ClimateChart } from './ClimateChart';
import { ClimateFileSheet } from './ClimateFileSheet';
import { Ready } from './CureReady';
import { Layers } from './Layers';
import { showerWaits } from './waits';

/** Where the helper for the thermometer listens on this machine. */
const ADDRESS = 'http://127.0.0.1:4421';
/** An hour, ms. */
export const HOUR_MS = 3_600_000;

/** The air as somebody expects it from now on; empty fields mean that it stays as it was read last. */
function useForecast(last: Forecast | null, nowMs: number) {
  const { unit } = usePreferences();
  const [typed, setTyped] = useState({ air: '', humidity: '', plusMinus: unit === 'in' ? '5' : '3' });
  const airC = typed.air.trim() === '' ? (last?.airC ?? null) : readTemperature(typed.air, unit);
  const humidity = typed.humidity.trim() === '' ? (last?.relativeHumidity ?? 0.5) : readHumidity(typed.humidity);
  const plus = Number(typed.plusMinus.replace(',', '.'));
  const plusMinusC = Number.isFinite(plus) && plus >= 0 ? (unit === 'in' ? plus / 1.8 : plus) : 0;
  const said = typed.air.trim() !== '' || typed.humidity.trim() !== '';
  const wrong = airC === null ? 'air' : humidity === null ? 'humidity' : null;
  const forecast = useMemo(
    () => (airC !== null && humidity !== null ? { airC, relativeHumidity: humidity, fromMs: nowMs } : null),
    [airC, humidity, nowMs],
  );
  return { typed, setTyped, forecast, said, plusMinusC, wrong: said ? wrong : null };
}

/** The forecast as it is typed. */
type Typed = ReturnType<typeof useForecast>['typed'];
/** The air that is expected, and what would help. */
interface ForecastProps {
  /** The air as it was read last. */
  last: Pick<Forecast, 'airC' | 'relativeHumidity'> | null;
  /** As typed. */
  typed: Typed;
  /** Told of every key. */
  onType: (typed: Typed) => void;
  /** The field that can't be read. */
  wrong: ReturnType<typeof useForecast>['wrong'];
}

/** The air as somebody expects it from now on. */
function ForecastFields({ last, typed, onType, wrong }: ForecastProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const degrees = unit === 'in' ? '°F' : '°C';
  return (
    <section className="flex flex-col gap-1.5 border-hair border-t pt-2">
      <h2 className="font-bold text-lg leading-tight">{t('cure.forecast.title')}</h2>
      <div className="grid grid-cols-3 gap-2">
        {(['air', 'humidity', 'plusMinus'] as const).map((key) => (
          <label key={key} className="flex flex-col justify-end text-sm">
            <span className="text-soft leading-tight">{t(`cure.forecast.${key}`, { degrees })}</span>
            <input
              className="field font-bold text-lg"
              placeholder={
                key === 'air' && last
                  ? temperatureWords(last.airC, unit).replace(/ .*/, '')
                  : key === 'humidity' && last
                    ? String(Math.round(last.relativeHumidity * 100))
                    : ''
              }
              value={typed[key]}
              onChange={(e) => onType({ ...typed, [key]: e.target.value })}
            />
          </label>
        ))}
      </div>
      {wrong && (
        <p role="alert" className="text-hold">
          {t(wrong === 'air' ? 'cure.air.noAir' : 'cure.air.noHumidity', { degrees })}
        </p>
      )}
      <p className="text-soft text-sm">{t('cure.forecast.what')}</p>
    </section>
  );
}

/** The newest things that are wrong with the sensor. */
function Faults({ faults, zone }: { faults: readonly SensorFault[]; zone: string }) {
  const { t } = useTranslation();
  return (
    <section>
      <h2 className="font-bold leading-tight">{t('cure.faults', { count: faults.length })}</h2>
      <ul className="text-sm">
        {faults.slice(-5).map((f) => (
          <li key={`${f.kind} ${f.channel} ${f.fromMs}`} className="border-cure border-l-4 pl-2">
            {t(`cure.fault.${f.kind}`, {
              channel: t(`cure.channel.${f.channel}`),
              at: momentWords(f.fromMs, zone),
              lasted: hoursWords(t, (f.toMs - f.fromMs) / HOUR_MS),
            })}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The waits of a shower, slowest last, with the air that was read. */
function CureOf({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { write, person } = useParts('write', 'person');
  const { state } = shower;
  const zone = state.created?.body.timeZone ?? 'UTC';
  const log = climateOf(state);
  const n = log.atMs.length;
  const last = n > 0 ? { airC: log.airC[n - 1]!, relativeHumidity: log.relativeHumidity[n - 1]! } : null;
  const { typed, setTyped, forecast, said, plusMinusC, wrong } = useForecast(last, state.clockMs);
  const waits = useMemo(() => showerWaits(state, said ? forecast : null), [state, said, forecast]);
  const faults = useMemo(() => sensorFaults(log), [log]);
  const [filing, setFiling] = useState(false);
  const [heard, setHeard] = useState<Forecast | null>(null);
  const thermo = useInstrument((pack) => setHeard(airReading(pack)));
  const mayRead = mayWrite(person!.role, 'climate-reading');
  const keep = (body: Body<'climate-reading'>) => {
    setHeard(null);
    return write(shower.id, 'climate-reading', body);
  };
  const first = waits[0];
  const slowest = first?.layers.at(-1) ?? null;
  const shownWords = t('cure.chart.words', {
    count: n,
    coldest: n > 0 ? temperatureWords(Math.min(...Array.from(log.airC).slice(-5000)), unit) : '–',
  });
  return (
    <main className="bench grid min-h-0 grid-cols-[1fr_432px] max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2 overflow-y-auto p-3">
        {first ? (
          <Ready shower={shower} wait={first} forecast={forecast} plusMinusC={plusMinusC} zone={zone} />
        ) : (
          <p className="text-soft">{t('cure.nothing')}</p>
        )}
        <div className="min-h-56 flex-1">
          {n > 0 ? (
            <ClimateChart
              log={log}
              faults={faults}
              expected={forecast}
              laidMs={slowest?.laidAtMs ?? null}
              readyMs={slowest?.readyAtMs ?? null}
              zone={zone}
              words={shownWords}
            />
          ) : (
            <p className="flex h-full items-center justify-center border border-hair text-soft">{t('cure.noAir')}</p>
          )}
        </div>
        {waits.length > 0 && <Layers state={state} waits={waits} zone={zone} />}
      </div>
      <aside
        className="flex min-h-0 flex-col gap-3 overflow-y-auto border-edge border-l p-3 max-lg:border-l-0"
        aria-label={t('cure.air.title')}
      >
        {mayRead && (
          <>
            <h2 className="font-bold text-lg leading-tight">{t('cure.air.title')}</h2>
            <AirForm zone={zone} heard={heard} onKeep={(body) => void keep(body)} />
            <button type="button" className="key" onClick={() => setFiling(true)}>
              {t('cure.file.title')}
            </button>
            <InstrumentPanel texts="cure.thermo" address={ADDRESS} instrument={thermo} />
          </>
        )}
        <ForecastFields last={last} typed={typed} onType={setTyped} wrong={wrong} />
        {faults.length > 0 && <Faults faults={faults} zone={zone} />}
      </aside>
      {filing && (
        <ClimateFileSheet
          zone={zone}
          startMs={slowest?.laidAtMs ?? Date.now()}
          // It goes once it is kept, so that nobody leaves before.
          onKeep={(body) => void keep(body).then(() => setFiling(false))}
          onClose={() => setFiling(false)}
        />
      )}
    </main>
  );
}

/** The cure clock: the air on site, the layers that harden in it, and when the slowest is ready. */
export function CureScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const shower = useStore((s) => s.showers.get(id));
  useKeepAwake();
  if (!shower?.state.geometry || !shower.state.rules) return <Missing />;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ToolHeader back={`/showers/${id}`} title={t('cure.title', { name: shower.state.created?.body.name })} />
      <CureOf key={id} shower={shower} />
    </div>
  );
}
