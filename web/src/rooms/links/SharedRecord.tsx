import { ShowerRecord } from '@careful-seam/contract/record/record';
import { showLength } from '@careful-seam/core/units/length';
import { momentWords } from '@careful-seam/words/sentences/sentences';
import { useQuery } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { call } from '../../tablet/api';
import { usePreferences } from '../../ui/preferences';
import { errorWords, words } from '../../ui/words';

/** How much seam there is and how it stands. */
function Figures({ record }: { record: ShowerRecord }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { totalMm, byState, waterMm } = record.figures;
  const parts = (['measured', 'seen', 'unseen', 'defect', 'covered'] as const).filter((s) => (byState[s] ?? 0) > 0.5);
  return (
    <section>
      <h2 className="font-bold text-lg">{t('shared.proved')}</h2>
      <p className="font-semibold text-2xl">{t('shower.ofSeam', { total: showLength(totalMm, unit) })}</p>
      <ul>
        {waterMm > 0.5 && (
          <li className="text-water">
            {showLength(waterMm, unit)} {t('line.water')}
          </li>
        )}
        {parts.map((s) => (
          <li key={s}>
            {showLength(byState[s] ?? 0, unit)} {t(`line.${s}`)}
          </li>
        ))}
      </ul>
      <p className="text-soft text-sm">{t('record.proves')}</p>
    </section>
  );
}

/** A record for its homeowner, read only: what was proved, by whom, and the printed record to keep. */
export function SharedRecord() {
  const { t } = useTranslation();
  const { code = '' } = useParams();
  const path = `/api/shared-record/${encodeURIComponent(code)}`;
  const answer = useQuery({ queryKey: [path], queryFn: () => call(ShowerRecord, 'GET', path), retry: false });
  if (answer.isPending) return <p className="p-8 text-soft">{t('links.opening')}</p>;
  if (answer.isError)
    return (
      <main className="mx-auto max-w-md p-8">
        <p role="alert" className="text-hold">
          {errorWords(answer.error)}
        </p>
      </main>
    );
  const record = answer.data;
  const zone = record.shower.timeZone;
  const when = (at: string) => momentWords(Date.parse(at), zone);
  const [flood] = record.floods.slice(-1);
  const closed = record.defects.filter((d) => d.closedAt !== null).length;
  return (
    <main className="mx-auto flex max-w-2xl flex-col gap-4 p-5">
      <header className="border-edge border-b-2 pb-2">
        <h1 className="font-bold text-2xl">{t('shared.title', { name: record.shower.name })}</h1>
        <p className="text-soft">{record.shower.job}</p>
      </header>
      <Figures record={record} />
      <section>
        <h2 className="font-bold text-lg">{t('shared.water')}</h2>
        <p>
          {flood?.verdict ? t(`shared.flood.${flood.verdict}`, { at: when(flood.startedAt) }) : t('shared.noFlood')}
        </p>
      </section>
      <section>
        <h2 className="font-bold text-lg">{t('record.defects')}</h2>
        <p>
          {record.defects.length === 0
            ? t('record.noDefects')
            : t('shared.defects', { count: record.defects.length, closed })}
        </p>
      </section>
      <section>
        <h2 className="font-bold text-lg">{t('shared.signed')}</h2>
        {record.signatures.length === 0 && <p>{t('record.unsigned')}</p>}
        {record.signatures.map((s) => (
          <p key={s.at}>{t('shared.signedBy', { name: s.name, at: when(s.at) })}</p>
        ))}
        {record.firmSignature && <p>{t('shared.firmSigned')}</p>}
      </section>
      <a
        className="key key-main flex items-center justify-center text-lg"
        href={`${path}/record.pdf?lang=${words.language}`}
        download
      >
        {t('shared.pdf')}
      </a>
      <footer className="text-soft text-sm">
        {record.deference.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </footer>
    </main>
  );
}
