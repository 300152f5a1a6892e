import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';

/** What is read of the air and of the water. */
const FIELDS = ['water', 'air', 'humidity'] as const;
/** One of them. */
type Field = (typeof FIELDS)[number];

/** Number as typed, with a point or a comma; null when it is none. */
const numberIn = (text: string): number | null => {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() === '' || Number.isNaN(value) ? null : value;
};

/** Temperatures of water and air and the humidity, in the person's own degrees. */
export function ClimateSheet({ showerId, onClose }: { showerId: string; onClose: () => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const [typed, setTyped] = useState<Record<Field, string>>({ water: '', air: '', humidity: '' });
  const [problem, setProblem] = useState<string | null>(null);
  const degrees = unit === 'in' ? '°F' : '°C';
  const celsius = (value: number) => (unit === 'in' ? ((value - 32) * 5) / 9 : value);
  const keep = () => {
    const [water, air, humidity] = FIELDS.map((f) => numberIn(typed[f]));
    if (water == null || air == null || humidity == null) return setProblem(t('flood.climate.missing'));
    const body = { waterC: celsius(water), airC: celsius(air), relativeHumidity: humidity / 100 };
    if (body.waterC < 0 || body.waterC > 50 || body.airC < -10 || body.airC > 50)
      return setProblem(t('flood.climate.odd', { degrees }));
    if (humidity < 1 || humidity > 100) return setProblem(t('flood.climate.oddHumidity'));
    void write(showerId, 'climate-reading', body).then(onClose);
  };
  return (
    <Sheet title={t('flood.climate.title')} onClose={onClose}>
      {FIELDS.map((f) => (
        <label key={f}>
          <span className="text-soft text-sm">{t(`flood.climate.${f}`, { degrees })}</span>
          <input
            className="field font-bold text-lg"
            inputMode="decimal"
            value={typed[f]}
            onChange={(e) => setTyped({ ...typed, [f]: e.target.value })}
          />
        </label>
      ))}
      <p className="text-soft text-sm">{t('flood.climate.what')}</p>
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="button" className="key key-main text-lg" onClick={keep}>
        {t('flood.climate.keep')}
      </button>
    </Sheet>
  );
}
