import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { HelpKey } from '../../shared/Help';
import { SyncMark } from '../../shared/SyncMark';
import { type LocalShower, useStore } from '../../tablet/store';
import { PageTitle } from '../../ui/PageTitle';
import { usePreferences } from '../../ui/preferences';
import { words } from '../../ui/words';

/** Whose record it is, the ledger's head that it stands on, and the record as files. */
export function RecordHead({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const person = useStore((s) => s.person);
  const { id, state } = shower;
  return (
    <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-lg:flex-wrap max-lg:gap-2">
      <Link to={`/showers/${id}`} className="key flex items-center">
        {t('record.back')}
      </Link>
      <div className="min-w-0 flex-1 max-lg:basis-[60%]">
        <PageTitle text={t('record.of', { name: state.created?.body.name })} />
        <h1 className="font-bold text-xl leading-tight">
          {t('record.of', { name: state.created?.body.name })}{' '}
          <span className="font-normal text-base text-soft">{state.created?.body.job}</span>
        </h1>
        <p className="text-soft text-sm">
          {shower.stored.headHash
            ? t('record.headShort', { seq: shower.stored.cursor, hash: shower.stored.headHash.slice(0, 16) })
            : t('record.noHead')}
        </p>
      </div>
      <SyncMark />
      <HelpKey />
      <a className="key flex items-center" href={`/api/showers/${id}/readings.csv?lang=${words.language}`} download>
        {t('record.csv')}
      </a>
      <a className="key flex items-center" href={`/api/showers/${id}/record.json`} download>
        {t('record.json')}
      </a>
      {person?.role === 'manager' && (
        <a className="key flex items-center" href={`/api/showers/${id}/shower.json`} download>
          {t('record.file')}
        </a>
      )}
      <a className="key flex items-center" href={`/api/showers/${id}/map.pdf?lang=${words.language}`} download>
        {t('record.mapAlone')}
      </a>
      <a
        className="key key-main flex items-center"
        href={`/api/showers/${id}/record.pdf?unit=${unit}&lang=${words.language}`}
        download
      >
        {t('record.pdf')}
      </a>
    </header>
  );
}
