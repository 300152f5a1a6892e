import { useEffect, useState } from 'react';

/** How often news is asked for while nobody tells them, ms. */
const ASK_MS = 5000;
/** The same while they are told, or while nobody looks: a way that is silently dead is found out. */
const SELDOM_MS = 60_000;
/** A way that was refused is tried again after so long, ms. */
const AGAIN_MS = 10_000;

/** Where news are told. */
const NEWS = '/api/news';

/** Whether somebody looks at this page. */
function useShown(): boolean {
  const [shown, setShown] = useState(document.visibilityState === 'visible');
  useEffect(() => {
    const look = () => setShown(document.visibilityState === 'visible');
    document.addEventListener('visibilitychange', look);
    return () => document.removeEventListener('visibilitychange', look);
  }, []);
  return shown;
}

/**
 * Runs `ask` when the server says that something moved, over one connection that is silent otherwise; where there is none it asks by
 * itself every few seconds. While nobody looks it asks seldom and holds no connection.
 */
export function useNews(ask: () => void, personId: string | null): void {
  const shown = useShown();
  const [live, setLive] = useState(false);
  useEffect(() => {
    if (!shown || personId === null || !('EventSource' in window)) return;
    let again: ReturnType<typeof setTimeout> | undefined;
    let source: EventSource;
    const connect = () => {
      source = new EventSource(NEWS);
      source.addEventListener('open', () => {
        setLive(true);
        // What moved before it was open nobody told.
        ask();
      });
      source.addEventListener('news', ask);
      source.addEventListener('error', () => {
        setLive(false);
        // A refusal ends it for good: it is tried anew, in case somebody signed in again.
        if (source.readyState === EventSource.CLOSED) again = setTimeout(connect, AGAIN_MS);
      });
    };
    connect();
    return () => {
      clearTimeout(again);
      source.close();
      setLive(false);
    };
  }, [shown, ask, personId]);
  useEffect(() => {
    ask();
    const timer = setInterval(ask, live || !shown ? SELDOM_MS : ASK_MS);
    window.addEventListener('online', ask);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', ask);
    };
  }, [ask, live, shown]);
}
