import { type ReactNode, Suspense } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { useTranslation } from 'react-i18next';
import { useLocation } from 'react-router';
import { Fetched, forget, type Load, numberOf } from '../ui/fetchedCode';

/** While the code of a screen is on its way: a moment. */
export function Loading() {
  const { t } = useTranslation();
  return <p className="p-8 text-soft">{t('today.loading')}</p>;
}

/** A screen that could not be shown: nothing entered is lost, and the way back to the list. */
function Broken() {
  const { t } = useTranslation();
  return (
    <main className="flex h-full flex-col items-start gap-4 p-8">
      <h1 className="font-bold text-xl">{t('broken.title')}</h1>
      <p>{t('broken.words')}</p>
      <a className="key flex items-center" href="/">
        {t('broken.again')}
      </a>
    </main>
  );
}

/** Shows what is in it; where that fails, says so until another address is opened. */
export function Guarded({ children, onError }: { children: ReactNode; onError?: () => void }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]} {...(onError ? { onError } : {})}>
      <Suspense fallback={<Loading />}>{children}</Suspense>
    </ErrorBoundary>
  );
}

/** A screen whose code is loaded when it is first shown. */
export function Later({ load }: { load: Load }) {
  return (
    // Each screen waits in a place of its own: the one before never stays in its stead while its code is on the way.
    <Guarded key={numberOf(load)} onError={() => forget(load)}>
      <Fetched load={load} props={{}} />
    </Guarded>
  );
}
