import { RestoreAnswer } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { send } from '../device/api';
import { FileKey } from '../files/FileKey';
import { Problem } from './Loaded';

/** Everything the firm has as one file, and back. A restore is asked for by typing a word, since it replaces everything. */
export function Backup() {
  const { t } = useTranslation();
  const [file, setFile] = useState<File | null>(null);
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [found, setFound] = useState<RestoreAnswer | null>(null);
  const word = t('backup.word');
  const restore = async () => {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    try {
      const response = await send('POST', '/api/restore', file, 'application/x-tar');
      setFound(RestoreAnswer.parse(await response.json()));
      setFile(null);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
      setTyped('');
    }
  };
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('backup.title')}</h2>
      <p className="text-soft text-sm">{t('backup.what')}</p>
      <a className="key flex items-center self-start" href="/api/backup.tar" download>
        {t('backup.make')}
      </a>
      <FileKey
        label={file ? file.name : t('backup.choose')}
        accept=".tar,application/x-tar"
        onFile={(chosen) => {
          setFile(chosen);
          setFound(null);
        }}
      />
      {file && (
        <>
          <p className="border-hold border-l-4 pl-2">{t('backup.replaces')}</p>
          <label className="flex flex-col gap-1">
            {t('backup.type', { word })}
            <input className="field max-w-60" value={typed} onChange={(e) => setTyped(e.target.value)} />
          </label>
          <button
            type="button"
            className="key key-hold self-start"
            disabled={busy || typed.trim().toLowerCase() !== word.toLowerCase()}
            onClick={() => void restore()}
          >
            {t(busy ? 'backup.checking' : 'backup.restore')}
          </button>
        </>
      )}
      <Problem text={problem} />
      {found && <p role="status">{t('backup.found', { ...found, at: new Date(found.madeAt).toLocaleString() })}</p>}
      {found && found.faults > 0 && (
        <div className="border-hold border-l-4 pl-2">
          <p>{t('backup.faults', { count: found.faults })}</p>
          {found.findings.map((f) => (
            <p key={`${f.where} ${f.what}`} className="text-sm">
              {f.where}: {f.what}
            </p>
          ))}
        </div>
      )}
    </section>
  );
}
