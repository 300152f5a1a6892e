import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useStore } from '../../tablet/store';
import { TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';

/** What is read of the air and of the water. */
const FIELDS = ['water', 'air', 'humidity'] as const;
/** One of them. */
type Field = (typeof FIELDS)[number];

/** A figure as it is typed, with a point or a comma. */
const figure = z
  .string()
  .trim()
  .min(1)
  .transform((typed) => Number(typed.replace(',', '.')))
  .pipe(z.number());

/** What is typed, as figures, and as the entry may say it: a water that can stand in a shower, an air that somebody can work in. */
const fieldsIn = (unit: 'in' | 'mm') => {
  const degrees = figure.transform((value) => (unit === 'in' ? ((value - 32) * 5) / 9 : value));
  return z.object({
    water: degrees.pipe(z.number().min(0).max(50)),
    air: degrees.pipe(z.number().min(-10).max(50)),
    humidity: figure.pipe(z.number().min(1).max(100)),
  });
};

/** Temperatures of water and air and the humidity, in the person's own degrees. */
export function ClimateSheet({ showerId, onClose }: { showerId: string; onClose: () => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const { register, handleSubmit, getValues, formState } = useForm({
    resolver: zodResolver(fieldsIn(unit)),
    defaultValues: { water: '', air: '', humidity: '' },
  });
  const degrees = unit === 'in' ? '°F' : '°C';
  const keep = handleSubmit(async ({ water, air, humidity }) => {
    await write(showerId, 'climate-reading', { waterC: water, airC: air, relativeHumidity: humidity / 100 });
    onClose();
  });
  const { errors } = formState;
  const isMissing = (f: Field) => !figure.safeParse(getValues(f)).success;
  const problem =
    Object.keys(errors).length === 0
      ? null
      : FIELDS.some(isMissing)
        ? t('flood.climate.missing')
        : errors.water || errors.air
          ? t('flood.climate.odd', { degrees })
          : t('flood.climate.oddHumidity');
  return (
    <Sheet title={t('flood.climate.title')} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(e) => void keep(e)}>
        {FIELDS.map((f) => (
          <TextField
            key={f}
            label={t(`flood.climate.${f}`, { degrees })}
            className="font-bold text-lg"
            inputMode="decimal"
            {...register(f)}
          />
        ))}
        <p className="text-soft text-sm">{t('flood.climate.what')}</p>
        <Problem text={problem} />
        <button type="submit" className="key key-main text-lg" disabled={formState.isSubmitting}>
          {t('flood.climate.keep')}
        </button>
      </form>
    </Sheet>
  );
}
