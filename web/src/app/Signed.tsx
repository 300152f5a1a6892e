import { useCallback, useEffect, useState } from 'react';
import { Navigate, Outlet, useLocation } from 'react-router';
import { HelpSheet } from '../shared/Help';
import { useParts, useStore } from '../tablet/store';
import { usePreferences } from '../ui/preferences';
import { Guarded, Later, Loading } from './Later';
import { fetchRest, screens } from './screens';
import { useNews } from './useNews';

/** Waits run on while nothing is entered. */
const TICK_EVERY_MS = 60_000;
/** The other screens are loaded this long after the first one stands, ms: what a tablet takes into a cellar is all of them. */
const REST_AFTER_MS = 1500;

/** Fetches the screens that this person may open, when nothing else is waited for. */
function useRest(role: string | undefined): void {
  useEffect(() => {
    if (!role) return;
    const rest = () => void fetchRest(role === 'crew-lead');
    // Some browsers of tablets can't tell when they are idle: there the wait must do.
    const timer = setTimeout(
      () => ('requestIdleCallback' in window ? window.requestIdleCallback(rest, { timeout: REST_AFTER_MS }) : rest()),
      REST_AFTER_MS,
    );
    return () => clearTimeout(timer);
  }, [role]);
}

/** Everything behind the sign-in: syncs now and then, shows help on "?". */
export function Signed() {
  const { db, person, sync, tick } = useParts('db', 'person', 'sync', 'tick');
  const { keys } = usePreferences();
  const { pathname } = useLocation();
  const [help, setHelp] = useState(false);
  useRest(person?.role);
  const ask = useCallback(() => void sync(), [sync]);
  useNews(ask, person?.id ?? null);
  useEffect(() => {
    const clock = setInterval(tick, TICK_EVERY_MS);
    return () => clearInterval(clock);
  }, [tick]);
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
    <Guarded>
      <Outlet />
      {help && <HelpSheet onClose={() => setHelp(false)} />}
    </Guarded>
  );
}

/** The day, as the one who signed in has it: a crew its own holds, everybody else the rounds. */
export function Home() {
  const role = useStore((s) => s.person?.role);
  return <Later load={role === 'crew-lead' ? screens.crewDay : screens.rounds} />;
}
