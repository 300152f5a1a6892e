import { useRegisterSW } from 'virtual:pwa-register/react';
import { useTranslation } from 'react-i18next';
import { countWaiting, useStore } from '../tablet/store';

/** How often a tablet that is never closed looks for a newer program, ms. */
const LOOK_EVERY_MS = 60 * 60_000;

/** Registers the application's shell for the time without a signal; a newer program waits for a tap, never in the middle of a reading. */
export function UpdateBar() {
  const { t } = useTranslation();
  const showers = useStore((s) => s.showers);
  const {
    needRefresh: [ready, setReady],
    updateServiceWorker,
  } = useRegisterSW({
    onRegisteredSW: (_url, registration) => {
      if (registration) setInterval(() => void registration.update().catch(() => undefined), LOOK_EVERY_MS);
    },
  });
  if (!ready) return null;
  return (
    <div
      role="status"
      className="fixed bottom-3 left-3 z-40 flex max-w-xl items-center gap-3 border-2 border-ink bg-paper p-3"
    >
      <p className="flex-1">{t('update.ready', { count: countWaiting(showers.values()) })}</p>
      <button type="button" className="key" onClick={() => setReady(false)}>
        {t('update.later')}
      </button>
      <button type="button" className="key key-main" onClick={() => void updateServiceWorker(true)}>
        {t('update.now')}
      </button>
    </div>
  );
}
