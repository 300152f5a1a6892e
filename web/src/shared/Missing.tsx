import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { useParts } from '../tablet/store';
import { PageTitle } from '../ui/PageTitle';

/** When a shower is not on this tablet (yet): it is asked for, and the page says how that stands. */
export function Missing() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const { connection, fetchShower, showers } = useParts('connection', 'fetchShower', 'showers');
  const [asked, setAsked] = useState<'asking' | 'none'>('asking');
  const known = showers.has(id);
  useEffect(() => {
    // Also without a network: it may only sleep.
    if (known || connection === 'starting') return;
    let gone = false;
    void fetchShower(id).then((got) => !got && !gone && setAsked('none'));
    return () => {
      gone = true;
    };
  }, [known, connection, fetchShower, id]);
  const loading = connection === 'starting' || (connection === 'online' && asked === 'asking');
  return (
    <main className="flex h-full flex-col items-start gap-4 p-8" data-testid="no-shower">
      <PageTitle />
      <h1 className="font-bold text-xl">
        {t(loading ? 'missing.loading' : connection === 'offline' ? 'missing.offline' : 'missing.title')}
      </h1>
      <Link className="key flex items-center" to="/">
        {t('shower.day')}
      </Link>
    </main>
  );
}
