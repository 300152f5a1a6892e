import { type ComponentType, type ReactNode, Suspense, use } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { useTranslation } from 'react-i18next';
import { useLocation } from 'react-router';

/** Fetches the code of a screen. */
export type Load = () => Promise<{ default: ComponentType }>;

/** Code that is on its way, or here. */
const coming = new Map<Load, ReturnType<Load>>();

/** The code of a screen, fetched once. Where it could not be had it is asked for again the next time. */
export function fetched(load: Load): ReturnType<Load> {
  const known = coming.get(load);
  if (known) return known;
  const code = load();
  coming.set(load, code);
  code.catch(() => coming.delete(load));
  return code;
}

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
export function Guarded({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
      <Suspense fallback={<Loading />}>{children}</Suspense>
    </ErrorBoundary>
  );
}

/** What was fetched, once it is here. */
export function Fetched({ load }: { load: Load }) {
  const { default: Screen } = use(fetched(load));
  return <Screen />;
}

/** A screen whose code is loaded when it is first shown. */
export function Later({ load }: { load: Load }) {
  return (
    <Guarded>
      <Fetched load={load} />
    </Guarded>
  );
}
