import { makeWords } from '@careful-seam/contract/texts/words';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { I18nextProvider } from 'react-i18next';
import { z } from 'zod';
import { App } from './shell/App';
import './styles.css';
import en from './texts/en.json';

z.config({ jitless: true });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <I18nextProvider i18n={makeWords('en', { en })}>
      <App />
    </I18nextProvider>
  </StrictMode>,
);
