// A finger that taps twice, or a palm that follows it, must not mean a second thing: not the same key again, and not what came
// under it meanwhile. One rule for all keys that write, instead of one in each form.

/** A second tap that follows as soon as this is the same tap, ms [common practice, no source]. */
export const SAME_TAP_MS = 400;
/** What is written later than this after a tap was not written by it, ms. */
const WRITES_WITHIN_MS = 2000;
/** A finger covers so much of the screen, px: as large as a key. */
const FINGER_PX = 48;

/** The last tap: where on the screen, px, and when, ms since 1970. */
let last: { x: number; y: number; atMs: number } | null = null;

/** Covers the place of a tap for a moment: nothing under it takes another one. */
function cover({ x, y }: { x: number; y: number }): void {
  const shield = document.createElement('div');
  shield.dataset.shield = '';
  shield.setAttribute('aria-hidden', 'true');
  Object.assign(shield.style, {
    position: 'fixed',
    left: `${x - FINGER_PX / 2}px`,
    top: `${y - FINGER_PX / 2}px`,
    width: `${FINGER_PX}px`,
    height: `${FINGER_PX}px`,
    zIndex: '2147483647',
    pointerEvents: 'auto',
  });
  // It takes the tap whole: no sheet takes it as one beside itself, and nothing loses the focus by it.
  for (const kind of [
    'pointerdown',
    'mousedown',
    'pointerup',
    'mouseup',
    'touchstart',
    'touchend',
    'click',
    'dblclick',
  ])
    shield.addEventListener(kind, (event) => {
      event.stopPropagation();
      event.preventDefault();
    });
  document.body.append(shield);
  setTimeout(() => shield.remove(), SAME_TAP_MS);
}

/** Told when something is written: where the tap that meant it was, no second one counts for a moment. */
export function writtenByTap(nowMs = Date.now()): void {
  if (last !== null && nowMs - last.atMs < WRITES_WITHIN_MS) cover(last);
  last = null;
}

/** Begins to watch for taps. Main keys and keys of forms are covered at once, before what they mean is worked out. */
export function guardFinger(): void {
  document.addEventListener(
    'click',
    (event) => {
      // A key that is pressed by the keyboard has no place on the screen.
      last = null;
      if (event.detail === 0) return;
      last = { x: event.clientX, y: event.clientY, atMs: Date.now() };
      if (event.target instanceof Element && event.target.closest('.key-main, [type=submit]')) cover(last);
    },
    true,
  );
  document.addEventListener(
    'keydown',
    (event) => {
      const writes = event.key === 'Enter' || event.key === ' ';
      const types =
        event.target instanceof HTMLTextAreaElement || (event.target instanceof HTMLInputElement && event.key === ' ');
      // A key that is held down means one thing, as one that is tapped.
      if (event.repeat && writes && !types) event.preventDefault();
    },
    true,
  );
}
