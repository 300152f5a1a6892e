import { PlanSettings } from '@careful-seam/contract/api/plan';
import { workHoursOf } from '@careful-seam/core/plan/usualHours';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useParts } from '../../tablet/store';
import { useChange } from '../../tablet/useList';
import { TextArea, TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { Days, daysOf, numeric, Place, placeOf, shownPlace } from './planTyped';

/** What is typed for the firm's hours. */
const TypedHours = z.object({
  workdays: z.array(z.string()).min(1),
  fromHour: z.number().min(0).max(24),
  toHour: z.number().min(0).max(24),
  holidays: Days,
  kmPerHour: z.number().min(5).max(150),
  start: Place,
  latePerStop: z.number().min(0),
  idlePerHour: z.number().min(0),
  drivePerMinute: z.number().min(0),
});

/** What is typed as a figure, by its field and its text. */
const FIGURES = [
  ['fromHour', 'fromHour'],
  ['toHour', 'toHour'],
  ['kmPerHour', 'kmPerHour'],
  ['latePerStop', 'late'],
  ['idlePerHour', 'idle'],
  ['drivePerMinute', 'drive'],
] as const;

/** When the firm works, and what it holds dear. */
export function Hours({ settings }: { settings: PlanSettings }) {
  const { t, i18n } = useTranslation();
  const { sync } = useParts('sync');
  const { change, problem, busy } = useChange([]);
  const { register, handleSubmit, formState, reset } = useForm({
    resolver: zodResolver(TypedHours),
    mode: 'onChange',
    defaultValues: {
      ...settings,
      ...settings.weights,
      workdays: settings.workdays.map(String),
      holidays: settings.holidays.join('\n'),
      start: shownPlace(settings.start),
    },
  });
  const keep = handleSubmit(async ({ latePerStop, idlePerHour, drivePerMinute, ...typed }) => {
    const body = {
      ...settings,
      ...typed,
      workdays: typed.workdays.map(Number),
      holidays: daysOf(typed.holidays),
      start: placeOf(typed.start),
      weights: { latePerStop, idlePerHour, drivePerMinute },
    };
    if (!(await change(PlanSettings, 'PUT', '/api/plan/settings', body))) return;
    reset({ ...typed, latePerStop, idlePerHour, drivePerMinute });
    await sync();
  });
  const { errors } = formState;
  const weekday = (day: number) =>
    new Intl.DateTimeFormat(i18n.language, { weekday: 'short', timeZone: 'UTC' }).format(Date.UTC(2024, 0, day));
  return (
    <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
      <h2 className="font-bold text-lg">{t('planSet.hours')}</h2>
      <fieldset className="flex flex-wrap gap-x-2">
        <legend className="text-soft text-sm">{t('planSet.workdays')}</legend>
        {[1, 2, 3, 4, 5, 6, 7].map((day) => (
          <label key={day} className="flex min-h-12 items-center gap-2">
            <input type="checkbox" className="size-8" value={String(day)} {...register('workdays')} />
            {weekday(day)}
          </label>
        ))}
      </fieldset>
      <div className="grid grid-cols-3 items-end gap-2 max-md:grid-cols-1">
        {FIGURES.map(([name, text]) => (
          <TextField
            key={name}
            label={t(`planSet.${text}`)}
            type="number"
            step="any"
            {...register(name, numeric)}
            problem={errors[name] && t('planSet.number')}
          />
        ))}
      </div>
      <TextField label={t('planSet.start')} {...register('start')} problem={errors.start && t('planSet.place')} />
      <TextArea
        label={t('planSet.holidays')}
        {...register('holidays')}
        problem={errors.holidays && t('planSet.days')}
      />
      <Problem text={problem} />
      <button type="submit" className="key key-main self-start" disabled={busy || !formState.isDirty}>
        {t('office.keep')}
      </button>
    </form>
  );
}

/** Hours of crew work on each stage: the firm's own, where it has some. */
export function StageHours({ settings }: { settings: PlanSettings }) {
  const { t } = useTranslation();
  const { sync, books } = useParts('sync', 'books');
  const { change, problem, busy } = useChange([]);
  const newest = [...books.values()].sort((a, b) => b.version - a.version)[0];
  const stages = new Map((newest?.methods ?? []).flatMap((m) => m.stages.map((s) => [s.key, s] as const)));
  const { register, handleSubmit, formState, reset } = useForm<{ hours: Record<string, string> }>({
    defaultValues: { hours: Object.fromEntries(Object.entries(settings.stageHours).map(([k, h]) => [k, String(h)])) },
  });
  const keep = handleSubmit(async ({ hours }) => {
    const stageHours = Object.fromEntries(
      Object.entries(hours).flatMap(([key, typed]) =>
        typed === '' || typed === undefined ? [] : [[key, Number(typed)]],
      ),
    );
    if (!(await change(PlanSettings, 'PUT', '/api/plan/settings', { ...settings, stageHours }))) return;
    reset({ hours });
    await sync();
  });
  return (
    <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
      <h2 className="font-bold text-lg">{t('planSet.stageHours')}</h2>
      <p className="text-soft text-sm">{t('planSet.usual')}</p>
      <div className="grid grid-cols-3 items-end gap-2 max-md:grid-cols-1">
        {[...stages.values()]
          .sort((a, b) => a.order - b.order)
          .map((s) => (
            <TextField
              key={s.key}
              label={s.label}
              type="number"
              step="0.25"
              min="0"
              max="400"
              placeholder={String(workHoursOf(s.key, {}))}
              {...register(`hours.${s.key}`)}
            />
          ))}
      </div>
      <Problem text={problem} />
      <button type="submit" className="key self-start" disabled={busy || !formState.isDirty}>
        {t('office.keep')}
      </button>
    </form>
  );
}
