import type { ShownUnit } from '@careful-seam/contract/texts/sentences';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

interface Preferences {
  unit: ShownUnit;
  theme: 'light' | 'dark';
  keys: boolean;
  setUnit: (unit: ShownUnit) => void;
  setTheme: (theme: 'light' | 'dark') => void;
  setKeys: (keys: boolean) => void;
}

/** What this person likes on this tablet: unit of length, theme, single-key shortcuts. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      unit: 'in',
      theme: 'light',
      keys: true,
      setUnit: (unit) => set({ unit }),
      setTheme: (theme) => set({ theme }),
      setKeys: (keys) => set({ keys }),
    }),
    { name: 'careful-seam-preferences' },
  ),
);
