import type { MadeLink } from '@careful-seam/contract/api/office';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';

/** A link that was just made: told once, to be copied. */
export function LinkTold({ link, onClose }: { link: MadeLink; onClose: () => void }) {
  const { t } = useTranslation();
  const address = `${window.location.origin}${link.path}`;
  return (
    <div role="status" className="mb-2 flex flex-wrap items-center gap-2 border-2 border-ink bg-leaf p-3">
      <p className="min-w-60 flex-1">
        <span className="font-bold">{t('links.once')}</span>{' '}
        {t('links.until', { at: momentWords(Date.parse(link.expiresAt)) })} {link.mailed && t('links.mailed')}
      </p>
      <input
        className="field"
        readOnly
        value={address}
        aria-label={t('links.address')}
        onFocus={(e) => e.target.select()}
      />
      <button type="button" className="key" onClick={() => void navigator.clipboard?.writeText(address)}>
        {t('links.copy')}
      </button>
      <button type="button" className="key key-main" onClick={onClose}>
        {t('links.copied')}
      </button>
    </div>
  );
}
