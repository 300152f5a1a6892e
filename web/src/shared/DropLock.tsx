import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';

/** How long its key is held, ms: no drop does that. */
const HOLD_MS = 900;

/**
 * A lock for a wet screen: under it drops and sleeves enter nothing. It opens when its key is held for about a second,
 * which no drop does, and let go; or with the keyboard. Nothing below it can be reached meanwhile, by touch or by Tab.
 */
export function DropLock() {
  const { t } = useTranslation();
  const [locked, setLocked] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const [held, setHeld] = useState(false);
  const release = () => {
    clearTimeout(timer.current);
    setHeld(false);
  };
  const open = () => {
    release();
    setLocked(false);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <Dialog.Root open={locked}>
      <button type="button" className="key flex-none text-sm" onClick={() => setLocked(true)}>
        {t('lock.lock')}
      </button>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-50 flex touch-none flex-col items-center justify-end gap-3 border-8 border-ink bg-paper/30 pb-10 text-ink"
        >
          <Dialog.Title className="bg-paper p-2 font-semibold">{t('lock.title')}</Dialog.Title>
          <button
            type="button"
            className="key key-main min-h-16 min-w-64 touch-none text-lg"
            onPointerDown={() => {
              timer.current = setTimeout(() => setHeld(true), HOLD_MS);
            }}
            onPointerUp={held ? open : release}
            onPointerLeave={release}
            onKeyDown={(e) => e.key === 'Enter' && open()}
          >
            {t(held ? 'lock.letGo' : 'lock.hold')}
          </button>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
