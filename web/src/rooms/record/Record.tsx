import { PushAnswer } from '@careful-seam/contract/api/messages';
import { orphansByReason } from '@careful-seam/contract/record/notCounted';
import { mayWrite } from '@careful-seam/core/log/roles';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import { notInspected } from '@careful-seam/core/proof/shown/waysOf';
import { showLength } from '@careful-seam/core/units/length';
import { defectKindLabel } from '@careful-seam/words/sentences/sentences';
import { placesName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { Legend } from '../../drawing/Legend';
import { type MarkState, ShowerMap } from '../../drawing/ShowerMap';
import { Missing } from '../../shared/Missing';
import { SyncMark } from '../../shared/SyncMark';
import { call } from '../../tablet/api';
import { acknowledge, append, takeBack } from '../../tablet/outbox';
import { type LocalShower, newId, useParts, useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { errorWords, words } from '../../ui/words';

function SignForm({ shower }: { shower: LocalShower }) {
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

/** The record as it would be handed over: map, figures, stages, defects, and the signature. */
export function RecordScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const { unit } = usePreferences();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  if (!shower?.state.geometry || !shower.state.rules || !person) return <Missing />;
  const { state } = shower;
  const model = shower.state.geometry.model;
  const book = shower.state.rules.book;
  const below = notInspected(state);
  const begun = shower.state.rules.method.stages.filter((s) => state.stages.get(s.key)?.begun);
  const ledger = buildLedger(
    state,
    begun.map((s) => s.key),
  );
  const marks = new Map<string, MarkState>();
  for (const j of ledger.judgements) {
    if (j.requirement.hasLength) continue;
    const mark: MarkState = j.satisfied ? 'pass' : j.verdict === 'fail' ? 'fail' : 'unseen';
    const before = marks.get(j.requirement.element);
    if (before !== 'fail' && !(before === 'unseen' && mark === 'pass')) marks.set(j.requirement.element, mark);
  }
  const when = (iso: string) =>
    new Intl.DateTimeFormat('en-US', {
      dateStyle: 'medium',
      timeStyle: 'short',
      timeZone: state.created?.body.timeZone ?? 'UTC',
    }).format(new Date(iso));
  const { byState, totalMm } = ledger.figures;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
        <Link to={`/showers/${id}`} className="key flex items-center">
          {t('record.back')}
        </Link>
        <div className="flex-1">
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
        <a className="key flex items-center" href={`/api/showers/${id}/readings.csv?lang=${words.language}`} download>
          {t('record.csv')}
        </a>
        <a className="key flex items-center" href={`/api/showers/${id}/record.json`} download>
          {t('record.json')}
        </a>
        {person.role === 'manager' && (
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
      <main className="grid min-h-0 grid-cols-[1fr_440px] max-lg:grid-cols-1">
        <div className="flex min-h-0 flex-col p-3">
          <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
            <ShowerMap model={model} lines={ledger.lines} marks={marks} chosen={null} />
          </div>
          <Legend />
        </div>
        <aside className="flex min-h-0 flex-col gap-3 overflow-y-auto border-edge border-l p-3">
          <section>
            <h2 className="font-bold">{t('record.ofSeam', { total: showLength(totalMm, unit) })}</h2>
            <ul>
              {(['measured', 'seen', 'unseen', 'defect', 'covered'] as const)
                .filter((s) => byState[s] > 0.5)
                .map((s) => (
                  <li key={s} className={s === 'defect' ? 'text-hold' : ''}>
                    {showLength(byState[s], unit)} {t(`line.${s}`)}
                  </li>
                ))}
            </ul>
            {ledger.figures.waterMm > 0.5 && (
              <p className="font-semibold text-water">
                {showLength(ledger.figures.waterMm, unit)} {t('line.water')}
              </p>
            )}
            <p className="text-soft text-sm">{t('record.proves')}</p>
          </section>
          <section>
            <h2 className="font-bold">{t('record.stages')}</h2>
            {below.length > 0 && (
              <p className="border-cure border-l-4 pl-2">{t('record.notInspected', { stages: below.join(', ') })}</p>
            )}
            <ul>
              {begun.map((s) => {
                const { word, release } = state.stages.get(s.key)!;
                const text =
                  word === 'released' && release
                    ? t('record.releasedBy', { name: release.by, at: when(release.observedAt) })
                    : word === 'contested'
                      ? t('record.contested')
                      : blockersOf(state, s.key).length === 0
                        ? t('record.shown')
                        : t('ladder.left', { count: blockersOf(state, s.key).length });
                return (
                  <li key={s.key} className={word === 'released' ? '' : 'text-hold'}>
                    <span className="font-semibold">{s.label}</span>: {text}
                    {release?.imported && <span className="block text-hold">{t('record.imported')}</span>}
                  </li>
                );
              })}
            </ul>
          </section>
          {state.flood && (
            <section>
              <h2 className="font-bold">{t('record.flood')}</h2>
              <p>
                {state.flood.end
                  ? t('record.floodEnd', {
                      name: state.flood.end.by,
                      at: when(state.flood.end.at),
                      verdict: t(`flood.verdict.${state.flood.end.verdict}`),
                    })
                  : t(state.flood.voided ? `flood.voided.${state.flood.voided.cause}` : 'record.floodRunning')}
              </p>
              <Link to={`/showers/${id}/flood`} className="key flex items-center justify-center">
                {t('flood.openEnded')}
              </Link>
            </section>
          )}
          <section>
            <h2 className="font-bold">{t('record.defects')}</h2>
            {state.defects.size === 0 && <p className="text-soft">{t('record.noDefects')}</p>}
            <ul>
              {[...state.defects.values()].map((d) => (
                <li key={d.id} className={d.closedAt ? '' : 'text-hold'}>
                  {placesName(t, model, d.places)}: {defectKindLabel(book, d.kind, d.check)}
                  {d.valueMm === null ? '' : ` ${showLength(d.valueMm, unit)}`};{' '}
                  {d.closedAt ? t('record.closed', { at: when(d.closedAt) }) : t('record.stillOpen')}
                </li>
              ))}
            </ul>
          </section>
          {state.orphans.length > 0 && (
            <section>
              <h2 className="font-bold">{t('record.notCounted')}</h2>
              <ul>
                {orphansByReason(state.orphans).map(([why, count]) => (
                  <li key={why} className="text-hold">
                    {count} × {t(`orphan.${why}`)}
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section className="text-soft text-sm">
            <h2 className="font-bold text-base text-ink">{t('record.deference')}</h2>
            {book.deference.map((line) => (
              <p key={line}>{line}</p>
            ))}
          </section>
          {state.signed.map((s) => (
            <p key={s.id} className="font-semibold">
              {t('record.signed', { name: s.body.name, at: when(s.observedAt), hash: s.body.ledgerHash.slice(0, 16) })}
              {state.arrivals.get(s.id)?.imported && <span className="block text-hold">{t('record.imported')}</span>}
            </p>
          ))}
          {mayWrite(person.role, 'record-signed') && <SignForm shower={shower} />}
        </aside>
      </main>
    </div>
  );
}
