import { RestoreState } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call, send } from '../../tablet/api';
import { FileKey } from '../../ui/FileKey';
import { Problem } from '../../ui/Loaded';
import { errorWords, problemWords } from '../../ui/words';

/** How often a restore that runs is asked how far it is, ms. */
const ASKED_EVERY_MS = 1000;

/** Waits until a restore is over, telling how far it is. A moment without an answer is the moment in which the databases change places. */
async function untilOver(tell: (state: RestoreState) => void): Promise<RestoreState> {
  for (let silent = 0; ; ) {
    await new Promise((later) => setTimeout(later, ASKED_EVERY_MS));
    try {
      const state = await call(RestoreState, 'GET', '/api/restore');
      tell(state);
      silent = 0;
      if (state.state !== 'running') return state;
    } catch (error) {
      silent += 1;
      if (silent > 30) throw error;
    }
  }
}

/** Everything the firm has as one file, and back. A restore is asked for by typing a word, since it replaces everything. */
export function Backup() {
  const { t } = useTranslation();
  const [file, setFile] = useState<File | null>(null);
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [state, setState] = useState<RestoreState | null>(null);
  const [busy, setBusy] = useState(false);
  const word = t('backup.word');
  const restore = async () => {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    setState(null);
    try {
      const response = await send('POST', '/api/restore', file, 'application/x-tar');
      setState(RestoreState.parse(await response.json()));
      const over = await untilOver(setState);
      if (over.problem) setProblem(problemWords(over.problem));
      setFile(null);
    } catch (error) {
      setProblem(errorWords(error));
    } finally {
      setBusy(false);
      setTyped('');
    }
  };
  const found = state?.found ?? null;
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
          setState(null);
          setProblem(null);
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
      {busy && (
        <p role="status">
          <progress
            className="h-3 w-full"
            aria-label={t('backup.checking')}
            {...(state && state.of > 0 ? { max: state.of, value: state.done } : {})}
          />
          {state && state.of > 0 && t('backup.far', { done: state.done, of: state.of })}
        </p>
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
