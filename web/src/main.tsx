import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { I18nextProvider } from 'react-i18next';
import { z } from 'zod';
import { App } from './app/App';
import { screens } from './app/screens';
import { fetchAhead } from './ui/fetchedCode';
import './styles.css';
import { ofDevice } from './shared/deviceLanguage';
import { guardFinger } from './ui/fingerGuard';
import { usePreferences } from './ui/preferences';
import { watchBack } from './ui/sheetHistory';
import { speakIn, words } from './ui/words';

z.config({ jitless: true });
guardFinger();
watchBack();

/** Lists of the office: they come from the server when they are looked at, and never stand in for the tablet's own state. */
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 5000 } } });

// The first words are in the language that this person chose, or else in the device's; the firm's comes with its settings.
const spoken = speakIn(usePreferences.getState().language ?? ofDevice()).catch(() => undefined);
// Their code comes at the same time: the list is what is opened nearly always, and then the tablet's own store is read.
const { pathname } = window.location;
const first = pathname === '/sign-in' ? [screens.signIn] : pathname === '/' ? [screens.signed, screens.rounds] : [];
for (const load of first) void fetchAhead(load);
await spoken;

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <I18nextProvider i18n={words}>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </I18nextProvider>
  </StrictMode>,
);
