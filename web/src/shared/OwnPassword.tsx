import { OwnPassword as Fields, PASSWORD_AT_LEAST } from '@careful-seam/contract/api/office';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { call } from '../tablet/api';
import { TextField } from '../ui/fields';
import { errorWords } from '../ui/words';

/** Changes one's own password: the one in force, then the new one. Other tablets are signed out by it. */
export function OwnPassword() {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  const [told, setTold] = useState<{ words: string; isProblem: boolean } | null>(null);
  const { register, handleSubmit, reset, formState } = useForm<z.infer<typeof Fields>>({
    resolver: zodResolver(Fields),
    defaultValues: { old: '', password: '' },
  });
  const keep = handleSubmit(async (typed) => {
    setTold(null);
    try {
      await call(z.object({}), 'PUT', '/api/password/own', typed);
      setTold({ words: t('settings.passwordChanged'), isProblem: false });
      reset();
      setOpen(false);
    } catch (error) {
      setTold({ words: errorWords(error), isProblem: true });
    }
  });
  const { errors } = formState;
  return (
    <section className="flex flex-col gap-2">
      <button type="button" className="key self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
        {t('settings.changePassword')}
      </button>
      {open && (
        <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
          <TextField
            label={t('settings.oldPassword')}
            type="password"
            autoComplete="current-password"
            problem={errors.old && t('settings.oldNeeded')}
            {...register('old')}
          />
          <TextField
            label={t('links.newPassword', { count: PASSWORD_AT_LEAST })}
            type="password"
            autoComplete="new-password"
            problem={errors.password && t('links.tooShort', { count: PASSWORD_AT_LEAST })}
            {...register('password')}
          />
          <button type="submit" className="key key-main self-start" disabled={formState.isSubmitting}>
            {t('settings.keepPassword')}
          </button>
        </form>
      )}
      {told && (
        <p role={told.isProblem ? 'alert' : 'status'} className={told.isProblem ? 'text-hold' : 'text-soft'}>
          {told.words}
        </p>
      )}
    </section>
  );
}
