import { BODIES } from '@careful-seam/core/log/bodies';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { TextField } from '../../ui/fields';
import { Sheet } from '../../ui/Sheet';
import { KnownJobs } from './KnownJobs';

const { name: NAME, job: JOB } = BODIES['shower-created'].shape;

/**
 * Calls a shower otherwise, or puts it to another job: a correction of its first entry, which keeps what it was called. Whoever made it
 * may, and a manager.
 */
export function Rename({ showerId, state }: { showerId: string; state: ShowerState }) {
  const { t } = useTranslation();
  const { person, write, showers } = useParts('person', 'write', 'showers');
  const [open, setOpen] = useState(false);
  const { created } = state;
  const mine = person && mayWrite(person.role, 'shower-created') && created?.author.id === person.id;
  const { register, handleSubmit, setError, formState } = useForm({
    values: { name: created?.body.name ?? '', job: created?.body.job ?? '' },
  });
  if (!created || !(mine || person?.role === 'manager')) return null;
  const keep = handleSubmit(async (typed) => {
    const [name, job] = [typed.name.trim(), typed.job.trim()];
    const twice = [...showers.values()].some(
      ({ id, state: { created: other } }) =>
        id !== showerId && other?.body.job === job && other.body.name.toLowerCase() === name.toLowerCase(),
    );
    if (twice) return setError('name', { message: t('new.nameTaken', { name, job }) });
    const body = { ...created.body, name, job };
    await write(showerId, 'correction', { target: created.id, action: 'replace', body, reason: t('rename.reason') });
    setOpen(false);
  });
  const needed = (field: 'name' | 'job') => ({
    validate: (v: string) => v.trim() !== '' || t('new.needed', { field: t(`new.${field}`) }),
  });
  const { errors } = formState;
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('rename.open')}
      </button>
      {open && (
        <Sheet title={t('rename.open')} onClose={() => setOpen(false)}>
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              // The form of the drawing, which this sheet was opened from, is another one.
              e.stopPropagation();
              void keep(e);
            }}
          >
            <TextField
              label={t('new.name')}
              maxLength={NAME.maxLength ?? undefined}
              problem={errors.name?.message}
              {...register('name', needed('name'))}
            />
            <TextField
              label={t('new.job')}
              list="known-jobs"
              maxLength={JOB.maxLength ?? undefined}
              problem={errors.job?.message}
              {...register('job', needed('job'))}
            />
            <KnownJobs />
            <p className="text-soft text-sm">{t('rename.means')}</p>
            <button type="submit" className="key key-main text-lg" disabled={!formState.isDirty}>
              {t('rename.keep')}
            </button>
          </form>
        </Sheet>
      )}
    </>
  );
}
