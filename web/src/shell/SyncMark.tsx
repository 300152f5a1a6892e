import { CLOCK_OFF_MS } from '@careful-seam/contract/api/messages';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { countWaiting, useStore } from '../state/store';

/** A small, honest mark: what waits on this tablet, and anything a person must know about the connection. */
export function SyncMark() {
  const { t } = useTranslation();
  const { showers, connection, skewMs, failure, setAside } = useStore();
  const count = countWaiting(showers.values());
  const refused =
    [...showers.values()]
      .flatMap((s) => s.entries)
      .find((e) => e.refused !== null && !e.aside && e.ledgerSeq === null) ?? null;
  const hours = Math.round((Math.abs(skewMs) / 3_600_000) * 10) / 10;
  return (
    <div className="text-right text-sm leading-tight" aria-live="polite" data-testid="sync">
      <p className={count > 0 ? 'font-semibold text-cure' : 'text-soft'}>
        {count > 0 ? t('sync.waiting', { count }) : t('sync.allSent')}
      </p>
      {connection === 'offline' && <p className="text-soft">{failure ?? t('sync.offline')}</p>}
      {connection === 'signed-out' && (
        <Link className="text-hold underline" to="/sign-in">
          {t('sync.signedOut')}
        </Link>
      )}
      {refused?.refused && (
        <p className="max-w-72 text-hold">
          {t('sync.refused', { message: refused.refused.message })}{' '}
          <button type="button" className="key text-sm" onClick={() => void setAside(refused)}>
            {t('sync.setAside')}
          </button>
        </p>
      )}
      {Math.abs(skewMs) > CLOCK_OFF_MS && (
        <p className="max-w-64 text-hold">{t(skewMs < 0 ? 'sync.clockAhead' : 'sync.clockBehind', { hours })}</p>
      )}
    </div>
  );
}
