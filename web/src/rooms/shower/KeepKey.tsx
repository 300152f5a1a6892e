import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { openedLater } from '../../ui/openedLater';
import type { KeptAt } from './KeepSheet';

const KeepSheet = openedLater(() => import('./KeepSheet').then((m) => m.KeepSheet));

/** The key that opens the sheet of a picture or a note, wherever something is looked at. */
export function KeepKey({ className = 'key px-2 text-sm leading-tight', ...props }: KeptAt & { className?: string }) {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className={className} onClick={() => setOpen(true)}>
        {t('picture.open')}
      </button>
      {open && <KeepSheet {...props} onClose={() => setOpen(false)} />}
    </>
  );
}
