import { PASSWORD_AT_LEAST, SetPassword } from '@careful-seam/contract/api/office';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { z } from 'zod';
import { call } from '../../tablet/api';
import { TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { PageTitle } from '../../ui/PageTitle';
import { errorWords } from '../../ui/words';

/** The new password, typed twice. */
const Fields = z
  .object({ password: SetPassword.shape.password, again: z.string() })
  .refine(({ password, again }) => password === again, { path: ['again'] });
/** What is typed. */
type Fields = z.infer<typeof Fields>;

/** The page that a password link opens: once, for the person it was made for. */
export function SetPasswordPage() {
  const { t } = useTranslation();
  const { code = '' } = useParams();
  const [signIn, setSignIn] = useState<string | null>(null);
  const { register, handleSubmit, setError, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: { password: '', again: '' },
  });
  const keep = handleSubmit(async ({ password }) => {
    try {
      const answer = await call(z.object({ signIn: z.string() }), 'POST', '/api/password', { code, password });
      setSignIn(answer.signIn);
    } catch (error) {
      setError('root', { message: errorWords(error) });
    }
  });
  const { errors } = formState;
  if (signIn)
    return (
      <main className="mx-auto flex h-full max-w-md flex-col justify-center gap-4 p-6">
        <p>{t('links.passwordSet', { signIn })}</p>
        <Link className="key key-main flex items-center justify-center" to="/sign-in">
          {t('signIn.go')}
        </Link>
      </main>
    );
  return (
    <main className="mx-auto flex h-full max-w-md flex-col justify-center gap-3 p-6">
      <PageTitle text={t('links.setPassword')} />
      <h1 className="font-bold text-2xl">{t('links.setPassword')}</h1>
      <form className="flex flex-col gap-3" onSubmit={(e) => void keep(e)}>
        <TextField
          label={t('links.newPassword', { count: PASSWORD_AT_LEAST })}
          type="password"
          autoComplete="new-password"
          problem={errors.password && t('links.tooShort', { count: PASSWORD_AT_LEAST })}
          {...register('password')}
        />
        <TextField
          label={t('links.again')}
          type="password"
          autoComplete="new-password"
          problem={errors.again && t('links.notSame')}
          {...register('again')}
        />
        <Problem text={errors.root?.message ?? null} />
        <button type="submit" className="key key-main text-lg" disabled={formState.isSubmitting}>
          {t('links.keepPassword')}
        </button>
      </form>
    </main>
  );
}
