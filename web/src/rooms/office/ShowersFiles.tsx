import { ImportAnswer } from '@careful-seam/files/showersFile';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { send } from '../../tablet/api';
import { useNamedShowers, useStore } from '../../tablet/store';
import { FileKey } from '../../ui/FileKey';
import { errorWords } from '../../ui/words';

/** No file of showers is larger, bytes. */
const LARGEST_BYTES = 200 * 1024 * 1024;

/** For managers: whole jobs out as files, and files of showers in. */
export function ShowersFiles() {
  const { t } = useTranslation();
  const sync = useStore((s) => s.sync);
  const showers = useNamedShowers();
  const [said, setSaid] = useState<{ words: string; hold: boolean } | null>(null);
  const [busy, setBusy] = useState(false);
  const jobs = [...new Set(showers.map((s) => s.job))].sort();
  const take = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > LARGEST_BYTES) return setSaid({ words: t('files.tooLarge'), hold: true });
    setBusy(true);
    setSaid(null);
    try {
      const response = await send('POST', '/api/showers/import', await file.text(), 'application/json');
      const answer = ImportAnswer.parse(await response.json());
      const added = answer.showers.reduce((sum, s) => sum + s.added, 0);
      setSaid({
        words: t('files.taken', { showers: answer.showers.length, added, pictures: answer.pictures }),
        hold: false,
      });
      await sync();
    } catch (error) {
      setSaid({ words: errorWords(error), hold: true });
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-semibold">{t('files.title')}</h2>
      {jobs.map((job) => (
        <a
          key={job}
          className="key flex items-center"
          href={`/api/jobs/${encodeURIComponent(job)}/showers.json`}
          download
        >
          {t('files.jobOut', { job })}
        </a>
      ))}
      <FileKey
        label={t(busy ? 'files.busy' : 'files.in')}
        accept="application/json,.json"
        disabled={busy}
        onFile={(file) => void take(file)}
      />
      {said && (
        <p role={said.hold ? 'alert' : 'status'} className={said.hold ? 'text-hold' : ''}>
          {said.words}
        </p>
      )}
    </section>
  );
}
