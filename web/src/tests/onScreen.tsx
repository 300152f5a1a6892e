import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { I18nextProvider } from 'react-i18next';
import { MemoryRouter } from 'react-router';
import { words } from '../ui/words';

/** Puts a part of the interface on a screen with the words, the router and the lists that it finds in the application. */
export function onScreen(part: ReactNode) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const person = userEvent.setup();
  const shown = render(
    <I18nextProvider i18n={words}>
      <QueryClientProvider client={queries}>
        <MemoryRouter>{part}</MemoryRouter>
      </QueryClientProvider>
    </I18nextProvider>,
  );
  return { person, ...shown };
}
