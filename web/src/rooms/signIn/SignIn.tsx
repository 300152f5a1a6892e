import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { PageTitle } from '../../ui/PageTitle';
import { bringSentences, errorWords } from '../../ui/words';
import { useSetUpState } from './useSetUpState';

/** Sign-in. Says in a sentence what went wrong; the name stays typed. */
export function SignIn() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm({ defaultValues: { signIn: '', password: '' } });
  const setUp = useSetUpState();
  const submit = handleSubmit(async (values) => {
    setProblem(null);
    try {
      // The tablet's store is most of the program: it comes while the name is typed.
      const [{ useStore }] = await Promise.all([import('../../tablet/store'), bringSentences()]);
      await useStore.getState().signIn(values.signIn, values.password);
      await navigate('/');
    } catch (error) {
      setProblem(errorWords(error));
    }
  });
  // Nobody can sign in where nobody is: an empty installation is set up first.
  if (setUp.data?.needed) return <Navigate to="/set-up" replace />;
  return (
    <main className="mx-auto flex h-full max-w-md flex-col justify-center gap-5 p-6">
      <div>
        <svg viewBox="0 0 400 70" className="mb-3 w-full" aria-hidden="true">
          <g className="fill-none stroke-ink [stroke-linecap:round]">
            <path d="M4 10V52H150" strokeWidth="4" />
            <path d="M30 44V60M70 44V60M110 44V60" strokeWidth="2" />
            <path d="M150 52H260" strokeWidth="1.6" />
            <path d="M260 52H396V10" strokeWidth="3.4" strokeDasharray="0.1 8" />
            <path d="M4 58H150" strokeWidth="1.6" className="stroke-water" />
          </g>
        </svg>
        <PageTitle text={t('signIn.go')} />
        <h1 className="font-bold text-3xl">{t('app.name')}</h1>
        <p className="text-soft">{t('app.tagline')}</p>
      </div>
      <form className="flex flex-col gap-3" onSubmit={(e) => void submit(e)}>
        <label className="flex flex-col gap-1">
          {t('signIn.name')}
          <input
            className="field"
            autoComplete="username"
            autoCapitalize="none"
            {...register('signIn', { required: true })}
          />
        </label>
        <label className="flex flex-col gap-1">
          {t('signIn.password')}
          <input
            className="field"
            type="password"
            autoComplete="current-password"
            {...register('password', { required: true })}
          />
        </label>
        {(problem || formState.errors.signIn || formState.errors.password) && (
          <p role="alert" className="text-hold">
            {problem ?? t('signIn.both')}
          </p>
        )}
        <button type="submit" className="key key-main text-lg" disabled={formState.isSubmitting}>
          <span aria-live="polite">{t(formState.isSubmitting ? 'signIn.checking' : 'signIn.go')}</span>
        </button>
      </form>
    </main>
  );
}
