import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Language } from '@careful-seam/words/texts/language';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What this person likes on this tablet. `language` is null until chosen: then the firm's holds. */
interface Chosen {
  /** In what lengths are typed and shown. */
  unit: ShownUnit;
  /** False until this person chose a unit: then the firm's holds. */
  unitChosen: boolean;
  /** Light, or dark for a cellar; until one is chosen as the device has it. */
  theme: 'device' | 'light' | 'dark';
  /** Lengths stand beside the seams on the map. */
  lengths: boolean;
  /** Shortcuts of the keyboard hold. */
  keys: boolean;
  /** Null: that of the firm. */
  language: Language | null;
  /** The hand that taps: keys lie on its side. */
  hand: 'right' | 'left';
  /** Keep the screen on while a shower is open. */
  awake: boolean;
  /** Feel or hear that an answer was kept. Off until somebody asks for it. */
  vibrate: boolean;
  /** Keys of the pad sound. */
  sound: boolean;
}

/** What this person has chosen on this tablet. */
interface Preferences extends Chosen {
  /** Changes some of it; it is remembered. */
  set: (change: Partial<Chosen>) => void;
}

/** What was chosen on this tablet, remembered by it. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      unit: 'in',
      unitChosen: false,
      theme: 'device',
      lengths: true,
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
