import { PASSWORD_AT_LEAST } from '@careful-seam/contract/api/office';
import { type FormEvent, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { call } from '../tablet/api';
import { PasswordField } from '../ui/PasswordField';
import { errorWords } from '../ui/words';

/** Changes one's own password: the one in force, then the new one. Other tablets are signed out by it. */
export function OwnPassword() {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const [told, setTold] = useState<{ words: string; isProblem: boolean } | null>(null);
  const keep = async (e: FormEvent) => {
    e.preventDefault();
    if (password.length < PASSWORD_AT_LEAST)
      return setTold({ words: t('links.tooShort', { count: PASSWORD_AT_LEAST }), isProblem: true });
    setTold(null);
    try {
      await call(z.object({}), 'PUT', '/api/password/own', { old, password });
      setTold({ words: t('settings.passwordChanged'), isProblem: false });
      setOld('');
      setPassword('');
      setOpen(false);
    } catch (error) {
      setTold({ words: errorWords(error), isProblem: true });
    }
  };
  return (
    <section className="flex flex-col gap-2">
      <button type="button" className="key self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
        {t('settings.changePassword')}
      </button>
      {open && (
        <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
          <PasswordField label={t('settings.oldPassword')} which="current-password" value={old} onType={setOld} />
          <PasswordField
            label={t('links.newPassword', { count: PASSWORD_AT_LEAST })}
            which="new-password"
            value={password}
            onType={setPassword}
          />
          <button type="submit" className="key key-main self-start" disabled={old === '' || password === ''}>
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
