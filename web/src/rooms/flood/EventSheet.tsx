import { BODIES } from '@careful-seam/core/log/bodies';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { FLOOD_EVENTS } from '@careful-seam/core/water/floodEvents';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { Sheet } from '../../ui/Sheet';
import { TimeField, timeProblem } from '../../ui/TimeField';

/** The test that something happened to. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The flood test that is under way, or that ended last. */
  test: FloodTest;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** A time that the series itself asks about, ms since 1970. */
  askedMs: number | null;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** What an entry of this kind may say. */
const { words } = BODIES['flood-event'].shape;
/** What is told of it; without a time it is now. */
const Fields = z.object({
  event: z.enum(FLOOD_EVENTS),
  of: z.enum(['water', 'pan']),
  atMs: z.number().nullable(),
  words: words.unwrap().trim(),
});
/** What is told of it. */
type Fields = z.infer<typeof Fields>;

/** Something happened to the water or the gauge: what, to which water, and when. */
export function EventSheet({ showerId, test, zone, askedMs, onClose }: Props) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const { register, handleSubmit, watch, setValue, setError, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: { event: 'refill', of: 'water', atMs: askedMs, words: '' },
  });
  const { event, of, atMs } = watch();
  const keep = handleSubmit(async ({ words, ...told }) => {
    const ms = told.atMs ?? Date.now();
    const wrong = timeProblem(t, test, ms);
    if (wrong) return setError('atMs', { message: wrong });
    const body = { event: told.event, of: told.of, at: new Date(ms).toISOString(), ...(words ? { words } : {}) };
    await write(showerId, 'flood-event', body);
    onClose();
  });
  const problem = formState.errors.atMs?.message;
  return (
    <Sheet title={t('flood.eventTitle')} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(e) => void keep(e)}>
        <Choice
          label={t('flood.eventWhat')}
          value={event}
          options={FLOOD_EVENTS.map((key) => ({ key, label: t(`flood.event.${key}`) }))}
          onChoose={(key) => setValue('event', key)}
          isList
        />
        {test.panResolutionMm !== null && (
          <Choice
            label={t('flood.read.of')}
            value={of}
            options={(['water', 'pan'] as const).map((key) => ({ key, label: t(`flood.of.${key}`) }))}
            onChoose={(key) => setValue('of', key)}
          />
        )}
        <TimeField label={t('flood.eventAt')} zone={zone} atMs={atMs} onAt={(ms) => setValue('atMs', ms)} />
        <TextField label={t('flood.words')} {...register('words')} />
        <p className="text-soft text-sm">{t(`flood.eventMeans.${event}`)}</p>
        <Problem text={problem ?? null} />
        <button type="submit" className="key key-main text-lg" disabled={formState.isSubmitting}>
          {t('flood.eventKeep')}
        </button>
      </form>
    </Sheet>
  );
}
