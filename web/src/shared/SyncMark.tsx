import { CLOCK_OFF_MS } from '@careful-seam/contract/api/messages';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useParts, waitingEntries } from '../tablet/store';
import { errorWords, problemWords } from '../ui/words';

/** What other people wrote on this tablet: it waits for them, or for a manager who hands it in. */
function OfOthers({ count }: { count: number }) {
  const { t } = useTranslation();
  const { person, handIn } = useParts('person', 'handIn');
  const [problem, setProblem] = useState<string | null>(null);
  const go = async () => {
    try {
      setProblem(await handIn());
    } catch (error) {
      setProblem(errorWords(error));
    }
  };
  return (
    <p className="max-w-72 text-cure">
      {t('sync.others', { count })}{' '}
      {person?.role === 'manager' && (
        <button type="button" className="key text-sm" onClick={() => void go()}>
          {t('sync.handIn')}
        </button>
      )}
      {problem && <span className="block text-hold">{t('sync.handInFailed', { message: problem })}</span>}
    </p>
  );
}

/** So many come in a moment, without a word about it. */
const FEW = 5;

/** A small, honest mark: what waits on this tablet, and anything a person must know about the connection. */
export function SyncMark() {
  const { t } = useTranslation();
  const {
    showers,
    behind,
    fetching,
    connection,
    skewMs,
    failure,
    setAside,
    person,
    picturesWaiting,
    room,
    restored,
    resealed,
  } = useParts(
    'showers',
    'behind',
    'fetching',
    'connection',
    'skewMs',
    'failure',
    'setAside',
    'person',
    'picturesWaiting',
    'room',
    'restored',
    'resealed',
  );
  const waiting = waitingEntries(showers.values());
  const others = waiting.filter((e) => e.authorId !== person?.id).length;
  const count = waiting.length - others;
  const refused = waiting.find((e) => e.refused !== null) ?? null;
  const hours = Math.round((Math.abs(skewMs) / 3_600_000) * 10) / 10;
  return (
    <div className="text-right text-sm leading-tight" aria-live="polite" data-testid="sync">
      <p className={count > 0 ? 'font-semibold text-cure' : 'text-soft'}>
        {count > 0 ? t('sync.waiting', { count }) : t('sync.allSent')}
        {picturesWaiting > 0 && ` · ${t('sync.pictures', { count: picturesWaiting })}`}
      </p>
      {fetching && fetching.of > FEW && (
        <p className="font-semibold text-cure">
          {t('sync.fetching', { done: fetching.done, count: fetching.of })}
          <progress className="block h-2 w-full" max={fetching.of} value={fetching.done} aria-hidden="true" />
        </p>
      )}
      {behind > 0 && !fetching && <p className="font-semibold text-cure">{t('sync.behind', { count: behind })}</p>}
      {connection === 'offline' && <p className="text-soft">{failure ?? t('sync.offline')}</p>}
      {connection === 'online' && failure && <p className="max-w-72 text-hold">{failure}</p>}
      {resealed > 0 && <p className="max-w-72 text-cure">{t('sync.resealed', { count: resealed })}</p>}
      {connection === 'signed-out' && (
        <Link className="text-hold underline" to="/sign-in">
          {t('sync.signedOut')}
        </Link>
      )}
      {others > 0 && <OfOthers count={others} />}
      {restored && <p className="max-w-72 text-cure">{t('sync.restored')}</p>}
      {room?.nearlyFull && <p className="max-w-72 text-hold">{t('sync.nearlyFull')}</p>}
      {refused?.refused && (
        <p className="max-w-72 text-hold">
          {t('sync.refused', { message: problemWords(refused.refused) })}{' '}
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
