import { PASSWORD_AT_LEAST } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { z } from 'zod';
import { call } from '../../tablet/api';
import { PasswordField } from '../../ui/PasswordField';
import { errorWords } from '../../ui/words';

/** The page that a password link opens: once, for the person it was made for. */
export function SetPasswordPage() {
  const { t } = useTranslation();
  const { code = '' } = useParams();
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [signIn, setSignIn] = useState<string | null>(null);
  const keep = async () => {
    if (password.length < PASSWORD_AT_LEAST) return setProblem(t('links.tooShort', { count: PASSWORD_AT_LEAST }));
    if (password !== again) return setProblem(t('links.notSame'));
    try {
      const answer = await call(z.object({ signIn: z.string() }), 'POST', '/api/password', { code, password });
      setSignIn(answer.signIn);
    } catch (error) {
      setProblem(errorWords(error));
    }
  };
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
      <h1 className="font-bold text-2xl">{t('links.setPassword')}</h1>
      <PasswordField
        label={t('links.newPassword', { count: PASSWORD_AT_LEAST })}
        which="new-password"
        value={password}
        onType={setPassword}
      />
      <PasswordField label={t('links.again')} which="new-password" value={again} onType={setAgain} />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="button" className="key key-main text-lg" onClick={() => void keep()}>
        {t('links.keepPassword')}
      </button>
    </main>
  );
}
