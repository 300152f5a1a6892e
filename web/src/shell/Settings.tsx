import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { ShowersFiles } from '../files/ShowersFiles';
import { usePreferences } from '../state/preferences';
import { useStore } from '../state/store';
import { Choice } from './Choice';
import { Sheet } from './Sheet';

/** This person's tablet: unit, theme, shortcuts, sign-out. */
export function Settings() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const { unit, theme, keys, setUnit, setTheme, setKeys } = usePreferences();
  const { person, signOut } = useStore();
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {person?.name ?? t('settings.title')}
      </button>
      {open && (
        <Sheet title={t('settings.title')} onClose={() => setOpen(false)}>
          <Choice
            label={t('settings.unit')}
            value={unit}
            onChoose={setUnit}
            options={[
              { key: 'in', label: t('settings.inches') },
              { key: 'mm', label: t('settings.metric') },
            ]}
          />
          <Choice
            label={t('settings.theme')}
            value={theme}
            onChoose={setTheme}
            options={[
              { key: 'light', label: t('settings.light') },
              { key: 'dark', label: t('settings.dark') },
            ]}
          />
          <Choice
            label={t('settings.keys')}
            value={keys ? 'on' : 'off'}
            onChoose={(k) => setKeys(k === 'on')}
            options={[
              { key: 'on', label: t('settings.on') },
              { key: 'off', label: t('settings.off') },
            ]}
          />
          {person?.role === 'manager' && <ShowersFiles />}
          <section>
            <h2 className="font-semibold">{t('settings.help')}</h2>
            <p className="whitespace-pre-line text-soft">{t('settings.helpText')}</p>
          </section>
          <button type="button" className="key" onClick={() => void signOut().then(() => navigate('/sign-in'))}>
            {t('settings.signOut')}
          </button>
        </Sheet>
      )}
    </>
  );
}
