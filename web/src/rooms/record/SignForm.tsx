import { PushAnswer } from '@careful-seam/contract/api/messages';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../../tablet/api';
import { acknowledge, append, takeBack } from '../../tablet/outbox';
import { type LocalShower, newId, useParts, useStore } from '../../tablet/store';
import { errorWords } from '../../ui/words';

/** The signature under a record: with the password once more, over the ledger's head as it was read. */
export function SignForm({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { db, person, sync, refresh } = useParts('db', 'person', 'sync', 'refresh');
  const [name, setName] = useState(person?.name ?? '');
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const waits = shower.entries.filter((e) => e.ledgerSeq === null).length;

  const sign = async () => {
    if (!db || !person) return;
    setBusy(true);
    setProblem(null);
    try {
      await sync();
      const head = useStore.getState().showers.get(shower.id)?.stored.headHash ?? '';
      const ports = { newId, nowMs: () => Date.now(), offsetMinutes: () => -new Date().getTimezoneOffset() };
      const body = { name: name.trim(), ledgerHash: head, statement: t('sign.statement') };
      const [stored] = await append(db, ports, [
        {
          showerId: shower.id,
          kind: 'record-signed',
          body,
          person,
          geometryVersion: shower.state.geometry?.version ?? 0,
        },
      ]);
      try {
        const answer = await call(PushAnswer, 'POST', `/api/showers/${shower.id}/sign`, {
          password,
          clock: new Date().toISOString(),
          entry: stored!.text,
        });
        await acknowledge(db, shower.id, answer, [stored!]);
      } catch (error) {
        // A signature that the server did not take was never given: it leaves the tablet's chain again.
        await takeBack(db, stored!);
        throw error;
      }
      setPassword('');
      await sync();
    } catch (error) {
      setProblem(errorWords(error));
    } finally {
      await refresh(shower.id);
      setBusy(false);
    }
  };
  return (
    <form
      className="flex flex-col gap-2 border-edge border-t-2 pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        void sign();
      }}
    >
      <p className="text-sm">{t('sign.statement')}</p>
      <label className="text-sm">
        <span className="text-soft">{t('sign.name')}</span>
        <input className="field text-base" value={name} onChange={(e) => setName(e.target.value)} autoComplete="name" />
      </label>
      <label className="text-sm">
        <span className="text-soft">{t('sign.password')}</span>
        <input
          className="field text-base"
          type="password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
        />
      </label>
      {waits > 0 && <p className="text-cure text-sm">{t('sign.waits', { count: waits })}</p>}
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="submit" className="key key-main text-lg" disabled={busy || name.trim() === '' || password === ''}>
        {t(busy ? 'sign.busy' : 'sign.go')}
      </button>
    </form>
  );
}
