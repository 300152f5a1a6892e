import { useEffect, useRef } from 'react';

// Back closes what lies over the screen. Each open sheet has an entry of its own in the browser's history, at the same address;
// how many lie open stands in its state, beside what the router keeps there.

/** How to close what lies open, the topmost last. */
const open: { close: () => void }[] = [];
/** A look at the history is due. */
let isDue = false;

/** How many sheets the history's present entry has under it. */
const depth = (): number => (window.history.state as { sheets?: number } | null)?.sheets ?? 0;

/** Brings the history to as many entries as sheets lie open; later, since one sheet often makes room for another. */
function settle(): void {
  if (isDue) return;
  isDue = true;
  setTimeout(() => {
    isDue = false;
    const [here, wanted] = [depth(), open.length];
    if (here > wanted) window.history.go(wanted - here);
    for (let k = here + 1; k <= wanted; k += 1) window.history.pushState({ ...window.history.state, sheets: k }, '');
  }, 0);
}

/** Begins to watch for Back. A page that is loaded anew has no sheet open: what it had is gone from the history too. */
export function watchBack(): void {
  window.addEventListener('popstate', () => {
    while (open.length > depth()) open.pop()!.close();
  });
  settle();
}

/** While what calls this is shown, Back closes it. */
export function useBackCloses(close: () => void): void {
  const told = useRef(close);
  told.current = close;
  useEffect(() => {
    const mine = { close: () => told.current() };
    open.push(mine);
    settle();
    return () => {
      const at = open.indexOf(mine);
      if (at >= 0) open.splice(at, 1);
      settle();
    };
  }, []);
}
