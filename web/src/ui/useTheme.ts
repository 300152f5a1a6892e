import { useEffect } from 'react';
import { usePreferences } from './preferences';

/** Draws the screens light or dark: as this person chose, or else as the device has it at the moment. */
export function useTheme(): void {
  const { theme } = usePreferences();
  useEffect(() => {
    const isDark = matchMedia('(prefers-color-scheme: dark)');
    const show = () => {
      const dark = theme === 'dark' || (theme === 'device' && isDark.matches);
      document.documentElement.dataset.theme = dark ? 'dark' : 'light';
    };
    show();
    isDark.addEventListener('change', show);
    return () => isDark.removeEventListener('change', show);
  }, [theme]);
}
