import { BODIES } from '@careful-seam/core/log/bodies';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { standingCrews } from '../../shared/standingCrews';
import type { NewForm } from './fields';
import type { Start } from './formStart';
import { KnownJobs } from './KnownJobs';
import type { ShowerFormState } from './useShowerForm';

const { name: NAME, job: JOB } = BODIES['shower-created'].shape;

/** What a shower is called, of which job, and who builds it; several of one type by a line each. */
export function NameFields({ start, crews }: { start: Start } & Pick<ShowerFormState, 'crews'>) {
  const { t } = useTranslation();
  const { register, formState } = useFormContext<NewForm>();
  const needed = (field: 'name' | 'job') => ({
    validate: (v: string) => v.trim() !== '' || t('new.needed', { field: t(`new.${field}`) }),
  });
  return (
    <>
      {start.kind === 'like' && (
        <label className="text-sm">
          <span className="text-soft">{t('new.namesEach')}</span>
          <textarea className="field py-2 text-base" rows={3} {...register('name', needed('name'))} />
        </label>
      )}
      <div className={`grid-cols-3 gap-2 max-sm:grid-cols-1 ${start.kind === 'edit' ? 'hidden' : 'grid'}`}>
        {(start.kind === 'like' ? (['job'] as const) : (['name', 'job'] as const)).map((field) => (
          <label key={field} className="text-sm">
            <span className="text-soft">{t(`new.${field}`)}</span>
            <input
              className="field text-base"
              aria-invalid={Boolean(formState.errors[field])}
              {...(field === 'job' ? { list: 'known-jobs' } : {})}
              maxLength={(field === 'job' ? JOB : NAME).maxLength ?? undefined}
              {...register(field, needed(field))}
            />
            {formState.errors[field] && (
              <span role="alert" className="text-hold">
                {formState.errors[field].message}
              </span>
            )}
          </label>
        ))}
        <KnownJobs />
        <label className="text-sm">
          <span className="text-soft">{t('new.crew')}</span>
          <select className="field text-base" {...register('crewId', { required: true })}>
            {standingCrews(crews).map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
      </div>
    </>
  );
}
