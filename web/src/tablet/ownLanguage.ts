import { z } from 'zod';
import { usePreferences } from '../ui/preferences';
import { call } from './api';

/**
 * Tells the firm the language that this person chose, so that mail is written in it. Without a signal it is told at the next
 * sign-in: nothing on the tablet waits for it.
 */
export async function tellLanguage(): Promise<void> {
  const { language } = usePreferences.getState();
  if (language) await call(z.object({}), 'PUT', '/api/session/language', { language }).catch(() => undefined);
}
