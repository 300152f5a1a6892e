import { Fragment, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLocation } from 'react-router';
import { Legend } from '../drawing/Legend';
import { useStore } from '../tablet/store';
import { usePreferences } from '../ui/preferences';
import { Sheet } from '../ui/Sheet';
import { type HelpTexts, helpIn, helpScreenOf } from './helpTexts';
import { useLanguage } from './language';
import { showRound } from './showRound';

/** A sentence in which keys stand between pairs of stars, as they look on the screen. */
function WithKeys({ text }: { text: string }) {
  return text
    .split('**')
    .map((part, k) => (k % 2 === 1 ? <strong key={k}>{part}</strong> : <Fragment key={k}>{part}</Fragment>));
}

/** Words with their meanings. */
function Words({ words }: { words: HelpTexts['glossary'][string][] }) {
  return (
    <dl className="flex flex-col gap-1.5">
      {words.map(({ word, means }) => (
        <div key={word}>
          <dt className="inline font-semibold">{word}</dt>: <dd className="inline">{means}</dd>
        </div>
      ))}
    </dl>
  );
}

/** All words of the trade by their letters, found as one types. */
function Glossary({ texts }: { texts: HelpTexts }) {
  const { t, i18n } = useTranslation();
  const [typed, setTyped] = useState('');
  const wanted = typed.trim().toLocaleLowerCase(i18n.language);
  const words = Object.values(texts.glossary)
    .filter(({ word, means }) => `${word} ${means}`.toLocaleLowerCase(i18n.language).includes(wanted))
    .sort((a, b) => a.word.localeCompare(b.word, i18n.language));
  return (
    <>
      <h3 className="font-bold">{t('help.drawn')}</h3>
      <Legend />
      <input
        className="field"
        type="search"
        value={typed}
        aria-label={t('help.find')}
        placeholder={t('help.find')}
        onChange={(e) => setTyped(e.target.value)}
      />
      <Words words={words} />
    </>
  );
}

/** The help of the screen that is open: what it is for, what to do, what the words mean; and all words. */
export function HelpSheet({ onClose }: { onClose: () => void }) {
  const { t } = useTranslation();
  const language = useLanguage();
  const { pathname } = useLocation();
  const { keys } = usePreferences();
  const role = useStore((s) => s.person?.role);
  const [texts, setTexts] = useState<HelpTexts | null>(null);
  const [all, setAll] = useState(false);
  useEffect(() => {
    let gone = false;
    void helpIn(language).then((read) => {
      if (!gone) setTexts(read);
    });
    return () => {
      gone = true;
    };
  }, [language]);
  const screen = texts?.screens[helpScreenOf(pathname, role === 'crew-lead')];
  return (
    <Sheet title={t('help.title', { screen: screen?.title ?? '' })} onClose={onClose}>
      {texts && screen && !all && (
        <>
          <p className="text-lg leading-snug">{screen.for}</p>
          <h3 className="font-bold">{t('help.whatToDo')}</h3>
          <ol className="flex list-decimal flex-col gap-1.5 pl-6" data-testid="help-steps">
            {screen.do.map((step) => (
              <li key={step}>
                <WithKeys text={step} />
              </li>
            ))}
          </ol>
          <h3 className="font-bold">{t('help.words')}</h3>
          <Words words={screen.words.map((id) => texts.glossary[id]!)} />
          {keys && (
            <>
              <h3 className="font-bold">{t('help.keys')}</h3>
              <p className="whitespace-pre-line">{t('settings.helpText')}</p>
            </>
          )}
        </>
      )}
      {texts && all && <Glossary texts={texts} />}
      {screen?.tour && !all && (
        <button
          type="button"
          className="key key-main"
          onClick={() => {
            onClose();
            void showRound(screen.tour!, { next: t('help.next'), prev: t('help.prev'), done: t('help.done') });
          }}
        >
          {t('help.show')}
        </button>
      )}
      <button type="button" className="key" onClick={() => setAll(!all)}>
        {t(all ? 'help.back' : 'help.all')}
      </button>
    </Sheet>
  );
}

/** The key that opens the help of the screen it stands on. */
export function HelpKey() {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="key px-0 text-lg"
        data-tour="help"
        aria-label={t('help.open')}
        onClick={() => setOpen(true)}
      >
        ?
      </button>
      {open && <HelpSheet onClose={() => setOpen(false)} />}
    </>
  );
}
