import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useStore } from '../state/store';

/** When a shower is not on this tablet (yet): says which, and what to do. */
export function Missing() {
  const { t } = useTranslation();
  const connection = useStore((s) => s.connection);
  return (
    <main className="flex h-full flex-col items-start gap-4 p-8">
      <h1 className="font-bold text-xl">
        {t(
          connection === 'starting'
            ? 'missing.loading'
            : connection === 'offline'
              ? 'missing.offline'
              : 'missing.title',
        )}
      </h1>
      <Link className="key flex items-center" to="/">
        {t('shower.day')}
      </Link>
    </main>
  );
}
