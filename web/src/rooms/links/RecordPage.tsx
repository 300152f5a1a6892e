import type { ShowerRecord } from '@careful-seam/contract/record/record';
import { showLength, showTotal } from '@careful-seam/core/units/length';
import { datedWords } from '@careful-seam/words/sentences/moments';
import type { Words } from '@careful-seam/words/texts/language';

/** What the page shows. */
interface Props {
  /** Its texts. */
  t: Words;
  /** The record. */
  record: ShowerRecord;
  /** Where the printed record is. */
  pdf: string;
}

/** Why there is no record to show. */
export function Refused({ words }: { words: string }) {
  return (
    <main className="mx-auto max-w-md p-8">
      <p role="alert" className="text-hold">
        {words}
      </p>
    </main>
  );
}

/** How much seam there is and how it stands. */
function Figures({ t, record }: Pick<Props, 't' | 'record'>) {
  const { totalMm, byState, waterMm } = record.figures;
  const parts = (['measured', 'seen', 'unseen', 'defect', 'covered'] as const).filter((s) => (byState[s] ?? 0) > 0.5);
  return (
    <section>
      <h2 className="font-bold text-lg">{t('shared.proved')}</h2>
      <p className="font-semibold text-2xl">{t('shower.ofSeam', { total: showTotal(totalMm, 'in') })}</p>
      <ul>
        {waterMm > 0.5 && (
          <li className="text-water">
            {showLength(waterMm, 'in')} {t('line.water')}
          </li>
        )}
        {parts.map((s) => (
          <li key={s}>
            {showLength(byState[s] ?? 0, 'in')} {t(`line.${s}`)}
          </li>
        ))}
      </ul>
      <p className="text-soft text-sm">{t('record.proves')}</p>
    </section>
  );
}

/** A record for its homeowner, read only: what was proved, by whom, and the printed record to keep. */
export function RecordPage({ t, record, pdf }: Props) {
  const zone = record.shower.timeZone;
  const when = (at: string) => datedWords(Date.parse(at), zone);
  const [flood] = record.floods.slice(-1);
  const closed = record.defects.filter((d) => d.closedAt !== null).length;
  return (
    <main className="mx-auto flex max-w-2xl flex-col gap-4 p-5">
      <header className="border-edge border-b-2 pb-2">
        <h1 className="font-bold text-2xl">{t('shared.title', { name: record.shower.name })}</h1>
        <p className="text-soft">{record.shower.job}</p>
      </header>
      <Figures t={t} record={record} />
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
      <a className="key key-main flex items-center justify-center text-lg" href={pdf} download>
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
