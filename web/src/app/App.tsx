import { type ComponentType, lazy, Suspense, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useLocation } from 'react-router';
import { HelpSheet } from '../shared/Help';
import { useFirmUnit, useSpokenLanguage } from '../shared/language';
import { useParts, useStore } from '../tablet/store';
import { usePreferences } from '../ui/preferences';
import { loadAll, screens } from './screens';
import { UpdateBar } from './UpdateBar';

/** How often news is asked for while there is a network, ms; without any it costs some hundred bytes. */
const SYNC_EVERY_MS = 5000;
/** Waits run on while nothing is entered. */
const TICK_EVERY_MS = 60_000;

/** Everything behind the sign-in: starts the store, syncs now and then, shows help on "?". */
function Signed() {
  const { db, person, sync, tick } = useParts('db', 'person', 'sync', 'tick');
  const { keys } = usePreferences();
  const { pathname } = useLocation();
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const go = () => void sync();
    const timer = setInterval(go, SYNC_EVERY_MS);
    const clock = setInterval(tick, TICK_EVERY_MS);
    window.addEventListener('online', go);
    return () => {
      clearInterval(timer);
      clearInterval(clock);
      window.removeEventListener('online', go);
    };
  }, [sync, tick]);
  useEffect(() => {
    const ask = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement;
      if (e.key === '?' && keys && !typing) setHelp(true);
    };
    window.addEventListener('keydown', ask);
    return () => window.removeEventListener('keydown', ask);
  }, [keys]);
  if (!db) return <Loading />;
  if (!person) return <Navigate to="/sign-in" replace state={{ from: pathname }} />;
  return (
    <>
      <Outlet />
      {help && <HelpSheet onClose={() => setHelp(false)} />}
    </>
  );
}

/** The first screen of the two kinds of people, each loaded when it is needed. */
const [CrewDay, Rounds] = [lazy(screens.crewDay), lazy(screens.rounds)];

/** While the code of a screen is on its way: a moment. */
function Loading() {
  const { t } = useTranslation();
  return <p className="p-8 text-soft">{t('today.loading')}</p>;
}

/** The day, as the one who signed in has it: a crew its own holds, everybody else the rounds. */
function Home() {
  const role = useStore((s) => s.person?.role);
  return <Suspense fallback={<Loading />}>{role === 'crew-lead' ? <CrewDay /> : <Rounds />}</Suspense>;
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

/** A screen whose code is loaded when it is first shown. */
const shows = (load: () => Promise<{ default: ComponentType }>) => ({
  lazy: async () => ({ Component: (await load()).default }),
  errorElement: <Broken />,
  hydrateFallbackElement: <Loading />,
});

/** Every address of the application with its screen. */
const router = createBrowserRouter([
  { path: '/sign-in', ...shows(screens.signIn) },
  { path: '/set-up', ...shows(screens.setUp) },
  { path: '/set-password/:code', ...shows(screens.setPassword) },
  { path: '/crew-link/:code', ...shows(screens.crewLink) },
  // For whoever works on the interface; a build does not have it.
  ...(import.meta.env.DEV
    ? [{ path: '/gallery', ...shows(async () => ({ default: (await import('./gallery/Gallery')).Gallery })) }]
    : []),
  {
    element: <Signed />,
    errorElement: <Broken />,
    hydrateFallbackElement: <Loading />,
    children: [
      { path: '/', element: <Home /> },
      { path: '/crew/:id', ...shows(screens.crewShower) },
      { path: '/office', ...shows(screens.office) },
      { path: '/office/:page', ...shows(screens.office) },
      { path: '/across', ...shows(screens.across) },
      { path: '/across/:page', ...shows(screens.across) },
      { path: '/new', ...shows(screens.newShower) },
      { path: '/showers/:id/dimensions', ...shows(screens.newShower) },
      { path: '/showers/:id', ...shows(screens.shower) },
      { path: '/showers/:id/flood', ...shows(screens.flood) },
      { path: '/showers/:id/survey', ...shows(screens.survey) },
      { path: '/showers/:id/film', ...shows(screens.film) },
      { path: '/showers/:id/cure', ...shows(screens.cure) },
      { path: '/showers/:id/materials', ...shows(screens.materials) },
      { path: '/showers/:id/record', ...shows(screens.record) },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);

/** The other screens are loaded this long after the first one stands, ms: what a tablet takes into a cellar is all of them. */
const REST_AFTER_MS = 1500;

/** The whole application: language and unit of the firm, then the screen of the address. */
export function App() {
  const open = useStore((s) => s.open);
  const { theme, hand } = usePreferences();
  useSpokenLanguage();
  useFirmUnit();
  useEffect(() => {
    void open();
    const rest = setTimeout(() => void loadAll(), REST_AFTER_MS);
    return () => clearTimeout(rest);
  }, [open]);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    document.documentElement.dataset.hand = hand;
  }, [theme, hand]);
  return (
    <>
      <RouterProvider router={router} />
      <UpdateBar />
    </>
  );
}
