import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useLocation } from 'react-router';
import { CrewDay } from '../crew/CrewDay';
import { CrewShower } from '../crew/CrewShower';
import { CrewLinkPage } from '../links/CrewLinkPage';
import { SetPasswordPage } from '../links/SetPasswordPage';
import { SharedRecord } from '../links/SharedRecord';
import { Office } from '../office/Office';
import { CureScreen } from '../screens/Cure';
import { FilmScreen } from '../screens/Film';
import { FloodScreen } from '../screens/Flood';
import { MaterialsScreen } from '../screens/Materials';
import { NewShower } from '../screens/newShower/NewShower';
import { RecordScreen } from '../screens/Record';
import { Rounds } from '../screens/Rounds';
import { Shower } from '../screens/Shower';
import { SignIn } from '../screens/SignIn';
import { SurveyScreen } from '../screens/Survey';
import { SetUpPage } from '../setUp/SetUpPage';
import { usePreferences } from '../state/preferences';
import { useParts, useStore } from '../state/store';
import { useFirmUnit, useSpokenLanguage } from './language';
import { Sheet } from './Sheet';
import { UpdateBar } from './UpdateBar';

const SYNC_EVERY_MS = 5000;
/** Waits run on while nothing is entered. */
const TICK_EVERY_MS = 60_000;

/** Everything behind the sign-in: starts the store, syncs now and then, shows help on "?". */
function Signed() {
  const { t } = useTranslation();
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
  if (!db) return <p className="p-8 text-soft">{t('today.loading')}</p>;
  if (!person) return <Navigate to="/sign-in" replace state={{ from: pathname }} />;
  return (
    <>
      <Outlet />
      {help && (
        <Sheet title={t('settings.help')} onClose={() => setHelp(false)}>
          <p className="whitespace-pre-line">{t('settings.helpText')}</p>
        </Sheet>
      )}
    </>
  );
}

/** The day, as the one who signed in has it: a crew its own holds, everybody else the rounds. */
function Home() {
  const role = useStore((s) => s.person?.role);
  return role === 'crew-lead' ? <CrewDay /> : <Rounds />;
}

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

const router = createBrowserRouter([
  { path: '/sign-in', element: <SignIn />, errorElement: <Broken /> },
  { path: '/set-up', element: <SetUpPage />, errorElement: <Broken /> },
  { path: '/set-password/:code', element: <SetPasswordPage />, errorElement: <Broken /> },
  { path: '/crew-link/:code', element: <CrewLinkPage />, errorElement: <Broken /> },
  { path: '/r/:code', element: <SharedRecord />, errorElement: <Broken /> },
  {
    element: <Signed />,
    errorElement: <Broken />,
    children: [
      { path: '/', element: <Home /> },
      { path: '/crew/:id', element: <CrewShower /> },
      { path: '/office', element: <Office /> },
      { path: '/office/:page', element: <Office /> },
      { path: '/new', element: <NewShower /> },
      { path: '/showers/:id/dimensions', element: <NewShower /> },
      { path: '/showers/:id', element: <Shower /> },
      { path: '/showers/:id/flood', element: <FloodScreen /> },
      { path: '/showers/:id/survey', element: <SurveyScreen /> },
      { path: '/showers/:id/film', element: <FilmScreen /> },
      { path: '/showers/:id/cure', element: <CureScreen /> },
      { path: '/showers/:id/materials', element: <MaterialsScreen /> },
      { path: '/showers/:id/record', element: <RecordScreen /> },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);

export function App() {
  const open = useStore((s) => s.open);
  const { theme, hand } = usePreferences();
  useSpokenLanguage();
  useFirmUnit();
  useEffect(() => {
    void open();
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
