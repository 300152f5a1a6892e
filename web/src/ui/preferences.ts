import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Language } from '@careful-seam/words/texts/words';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What this person likes on this tablet. `language` is null until chosen: then the firm's holds. */
interface Chosen {
  unit: ShownUnit;
  /** False until this person chose a unit: then the firm's holds. */
  unitChosen: boolean;
  theme: 'light' | 'dark';
  keys: boolean;
  language: Language | null;
  /** The hand that taps: keys lie on its side. */
  hand: 'right' | 'left';
  /** Keep the screen on while a shower is open. */
  awake: boolean;
  /** Feel or hear that an answer was kept. Off until somebody asks for it. */
  vibrate: boolean;
  sound: boolean;
}

interface Preferences extends Chosen {
  set: (change: Partial<Chosen>) => void;
}

export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      unit: 'in',
      unitChosen: false,
      theme: 'light',
      keys: true,
      language: null,
      hand: 'right',
      awake: true,
      vibrate: false,
      sound: false,
      set: (change) => set(change),
    }),
    { name: 'careful-seam-preferences' },
  ),
);
