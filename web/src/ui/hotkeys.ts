import { useEffect } from 'react';
import { usePreferences } from './preferences';

/** The letters that answer, by what they mean. They are shown on the help of the keyboard, and off where somebody switched keys off. */
const LETTERS = { sound: 'S', defect: 'D', notSeen: 'V', next: 'N', back: 'B' } as const;
/** What a letter means. */
export type Hotkey = keyof typeof LETTERS;

/** Says on a key which letter presses it, so that a screen reader tells it too; nothing where somebody switched the letters off. */
export const hotkey = (of: Hotkey) => (usePreferences.getState().keys ? { 'aria-keyshortcuts': LETTERS[of] } : {});

/** A field in which a letter is a letter; one that waits for a figure and is empty takes none. */
function isWriting(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement) return true;
  if (!(target instanceof HTMLInputElement) || ['checkbox', 'radio', 'file'].includes(target.type)) return false;
  return target.dataset.figure === undefined || target.value !== '';
}

/** The key that a letter presses: the first one that can be pressed and stands on the screen. */
function keyOf(letter: string): HTMLElement | undefined {
  const all = document.querySelectorAll<HTMLElement>(`[aria-keyshortcuts="${letter}"]`);
  return [...all].find(
    (key) => !key.matches(':disabled, [aria-disabled=true]') && key.closest('[hidden], [inert]') === null,
  );
}

/** Presses keys by their letters, while nothing lies over the screen and nothing is being written. */
export function useHotkeys(on: boolean): void {
  useEffect(() => {
    if (!on) return;
    const press = (event: KeyboardEvent) => {
      const { key, target, repeat } = event;
      if (event.defaultPrevented || repeat || event.ctrlKey || event.metaKey || event.altKey) return;
      if (!/^[a-z]$/i.test(key) || isWriting(target) || document.querySelector('[role=dialog]')) return;
      const found = keyOf(key.toUpperCase());
      if (!found) return;
      event.preventDefault();
      found.click();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [on]);
}
