import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { tellLanguage } from '../tablet/ownLanguage';
import { useParts } from '../tablet/store';
import { Choice } from '../ui/Choice';
import { usePreferences } from '../ui/preferences';
import { Sheet } from '../ui/Sheet';
import { useLanguage } from './language';
import { OwnPassword } from './OwnPassword';

/** Something that is on or off. */
function OnOff({ what }: { what: 'awake' | 'vibrate' | 'sound' | 'keys' }) {
  const { t } = useTranslation();
  const preferences = usePreferences();
  return (
    <Choice
      label={t(`settings.${what}`)}
      value={preferences[what] ? 'on' : 'off'}
      onChoose={(k) => preferences.set({ [what]: k === 'on' })}
      options={[
        { key: 'on', label: t('settings.on') },
        { key: 'off', label: t('settings.off') },
      ]}
    />
  );
}

/** What this person likes: language, unit, theme, hand, and what the tablet does by itself. */
function Likings() {
  const { t } = useTranslation();
  const { unit, theme, hand, set } = usePreferences();
  const language = useLanguage();
  return (
    <>
      <Choice
        label={t('settings.language')}
        value={language}
        onChoose={(language) => {
          set({ language });
          void tellLanguage();
        }}
        options={[
          { key: 'en', label: 'English' },
          { key: 'es', label: 'Español' },
        ]}
      />
      <Choice
        label={t('settings.unit')}
        value={unit}
        onChoose={(unit) => set({ unit, unitChosen: true })}
        options={[
          { key: 'in', label: t('settings.inches') },
          { key: 'mm', label: t('settings.metric') },
        ]}
      />
      <Choice
        label={t('settings.theme')}
        value={theme}
        onChoose={(theme) => set({ theme })}
        options={[
          { key: 'device', label: t('settings.asDevice') },
          { key: 'light', label: t('settings.light') },
          { key: 'dark', label: t('settings.dark') },
        ]}
      />
      <Choice
        label={t('settings.hand')}
        value={hand}
        onChoose={(hand) => set({ hand })}
        options={[
          { key: 'right', label: t('settings.right') },
          { key: 'left', label: t('settings.left') },
        ]}
      />
      <OnOff what="awake" />
      <OnOff what="vibrate" />
      <OnOff what="sound" />
      <OnOff what="keys" />
    </>
  );
}

/** This person's tablet: unit, theme, shortcuts, sign-out. */
export function Settings() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const { person, signOut } = useParts('person', 'signOut');
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {person?.name ?? t('settings.title')}
      </button>
      {open && (
        <Sheet title={t('settings.title')} onClose={() => setOpen(false)}>
          <Likings />
          <section>
            <h2 className="font-semibold">{t('settings.help')}</h2>
            <p className="whitespace-pre-line text-soft">{t('settings.helpText')}</p>
          </section>
          <a
            className="flex min-h-12 items-center underline"
            href="/third-party-notices.txt"
            target="_blank"
            rel="noreferrer"
          >
            {t('settings.notices')}
          </a>
          <OwnPassword />
          <button type="button" className="key" onClick={() => void signOut().then(() => navigate('/sign-in'))}>
            {t('settings.signOut')}
          </button>
        </Sheet>
      )}
    </>
  );
}
