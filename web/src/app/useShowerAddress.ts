import { useCallback, useEffect, useRef } from 'react';
import { useLocation, useNavigate, useSearchParams } from 'react-router';
import { BEGIN } from '../rooms/shower/walk/useWalk';

/** What stands in the address of a shower's screen; null where it says nothing. */
type Parts = Record<'stage' | 'element' | 'walk', string | null>;

/** What the address says at this moment: a key that follows at once on another is not told by what was drawn last. */
function now(): { element: string | null; opened: boolean } {
  const state = window.history.state as { usr?: { opened?: boolean } } | null;
  return { element: new URLSearchParams(window.location.search).get('element'), opened: state?.usr?.opened === true };
}

/** Where on a shower's screen one is, as its address says: the stage, the element whose card is open, the stop of a walk. */
export function useShowerAddress() {
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const { state: told } = useLocation();
  const element = params.get('element');
  /** Another address: a new place that Back leads away from again, or the same place said anew. */
  const change = useCallback(
    (parts: Partial<Parts>, how: 'go' | 'stay') =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [key, value] of Object.entries(parts)) {
            if (value === null) next.delete(key);
            else next.set(key, value);
          }
          return next;
        },
        how === 'go' ? { state: { opened: true } } : { replace: true, state: told },
      ),
    [setParams, told],
  );
  const closing = useRef(false);
  useEffect(() => {
    const closed = () => {
      closing.current = false;
    };
    window.addEventListener('popstate', closed);
    return () => window.removeEventListener('popstate', closed);
  }, []);
  return {
    stage: params.get('stage'),
    element,
    walk: params.get('walk'),
    chooseStage: (stage: string) => change({ stage, element: null, walk: null }, 'go'),
    /** Opens the card of an element; from one card to another the way back stays the same. */
    chooseElement: (to: string) => change({ element: to }, now().element === null ? 'go' : 'stay'),
    /** Opens the card of an element at a stage. */
    goTo: (stage: string, to: string) =>
      change({ stage, element: to, walk: null }, now().element === null ? 'go' : 'stay'),
    /** Closes the card, as Back does. */
    closeElement: () => {
      const { element: open, opened } = now();
      if (open === null || closing.current) return;
      closing.current = opened;
      if (opened) void navigate(-1);
      else change({ element: null }, 'stay');
    },
    /** Begins the walk of a stage, or goes on with it. */
    startWalk: (stage: string) => change({ stage, element: null, walk: BEGIN }, 'go'),
    /** The walk of the next stage, in the place of this one. */
    nextWalk: (stage: string) => change({ stage, element: null, walk: BEGIN }, 'stay'),
    /** The walk is at a stop now. */
    comeTo: useCallback((walk: string) => change({ walk }, 'stay'), [change]),
    stopWalk: () => change({ walk: null }, 'stay'),
  };
}
