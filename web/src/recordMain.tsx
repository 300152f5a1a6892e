import type { ShowerRecord } from '@careful-seam/contract/record/record';
import { nameTimesIn } from '@careful-seam/words/sentences/moments';
import type { Language } from '@careful-seam/words/texts/language';
import i18next from 'i18next';
import { createRoot } from 'react-dom/client';
import './styles.css';
import { RecordPage, Refused } from './rooms/links/RecordPage';

/** The page of a homeowner's link: no store, no sign-in, no other screen. Its texts and its record come side by side. */
const language: Language = navigator.language.startsWith('es') ? 'es' : 'en';
const TEXTS = { en: () => import('virtual:texts/record/en'), es: () => import('virtual:texts/record/es') };
const code = window.location.pathname.split('/').filter(Boolean).at(-1) ?? '';
const path = `/api/shared-record/${code}`;

/** The record, or the sentence in which the server says why there is none. */
async function ask(): Promise<{ record: ShowerRecord } | { refused: string }> {
  const response = await fetch(path, { headers: { 'x-careful-seam': '1', 'accept-language': language } });
  const answer = (await response.json()) as ShowerRecord & { error?: { message: string } };
  return response.ok ? { record: answer } : { refused: answer.error?.message ?? String(response.status) };
}

const [answer, { texts }] = await Promise.all([ask().catch(() => null), TEXTS[language]()]);
const words = i18next.createInstance();
await words.init({
  lng: language,
  fallbackLng: false,
  interpolation: { escapeValue: false },
  resources: { [language]: { translation: texts } },
});
nameTimesIn(language, Intl.DateTimeFormat().resolvedOptions().timeZone);
document.documentElement.lang = language;
document.documentElement.dataset.theme = matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';

const root = createRoot(document.getElementById('root')!);
if (answer && 'record' in answer) {
  document.title = words.t('shared.title', { name: answer.record.shower.name });
  root.render(<RecordPage t={words.t} record={answer.record} pdf={`${path}/record.pdf?lang=${language}`} />);
} else root.render(<Refused words={answer ? answer.refused : words.t('shared.offline')} />);
