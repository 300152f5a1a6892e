import { judge } from '@careful-seam/core/checks/judge';
import type { Deviation } from '@careful-seam/core/log/judgement';
import type { Evidence as EvidenceOfOne, ShowerState } from '@careful-seam/core/log/state';
import { decisionsWaiting } from '@careful-seam/core/proof/holds/decisionsWaiting';
import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { becauseSentence, verdictSentence } from '@careful-seam/words/sentences/sentences';
import { elementName, placesName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { MarkedPicture } from '../drawing/MarkedPicture';
import { type MarkState, ShowerMap } from '../drawing/ShowerMap';
import { type LocalShower, useParts, useStore } from '../tablet/store';
import { useQueue } from '../tablet/useList';
import { usePreferences } from '../ui/preferences';
import { PendingDeviation } from './PendingDeviation';

/** What somebody asks a manager to accept. */
export interface Asked {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** What is asked, with its reason. */
  deviation: Deviation;
}

/** Deviations of all showers on this tablet: those that wait for a decision, oldest first, and those decided. */
export function deviationsOf(showers: Iterable<LocalShower>): { waiting: Asked[]; decided: Asked[] } {
  const all = [...showers].flatMap((shower) =>
    [...shower.state.deviations.values()].map((deviation) => ({ shower, deviation })),
  );
  return {
    waiting: all.filter((a) => a.deviation.decision === null && !a.deviation.ended),
    decided: all.filter((a) => a.deviation.decision !== null).reverse(),
  };
}

/** "Not applicable" that an inspector said of what a manager decides: one line for each look. */
const waitingLooks = (showers: Iterable<LocalShower>): { shower: LocalShower; looks: EvidenceOfOne[] }[] =>
  [...showers].flatMap((shower) => decisionsWaiting(shower.state).looks.map((looks) => ({ shower, looks })));

/** One such look with the manager's key: their own look of the same content settles it. */
function WaitingLook({ shower, looks }: { shower: LocalShower; looks: EvidenceOfOne[] }) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const { state } = shower;
  const [first] = looks as [EvidenceOfOne];
  const stage = state.rules?.method.stages.find((s) => s.key === first.stage);
  const checks = [...new Set(looks.map((l) => l.check))];
  const places = [...new Map(looks.map((l) => [JSON.stringify(l.place), l.place])).values()];
  const labels = checks.map((id) => stage?.checks.find((c) => c.id === id)?.label ?? id);
  const agree = () =>
    write(shower.id, 'look', {
      stage: first.stage,
      checks,
      places,
      answer: 'not-applicable',
      reason: first.reason ?? '',
    });
  return (
    <li className="flex items-center gap-2 border-hair border-b py-1.5">
      <Link className="min-h-12 min-w-0 flex-1 text-ink" to={`/showers/${shower.id}?stage=${first.stage}`}>
        <span className="font-bold">{state.created?.body.name}</span>, {stage?.label}: {labels.join('; ')}.{' '}
        {placesName(t, state.geometry!.model, places, 4)}
        <span className="block text-cure">
          {t('approvals.saysNotApplicable', {
            name: first.author,
            reason: first.reason,
            at: momentWords(Date.parse(first.observedAt), state.created?.body.timeZone),
          })}
        </span>
      </Link>
      <button type="button" className="key flex-none" onClick={() => void agree()}>
        {t('approvals.agree')}
      </button>
    </li>
  );
}

/** A map that shows the place alone. */
const NO_MARKS = new Map<string, MarkState>();

/** How it stands now: it may have been put right since. */
function judgementOf(state: ShowerState, { asked }: Deviation) {
  const requirement = state.requirements.find(
    (r) =>
      r.stage.key === asked.stage &&
      r.check.id === asked.check &&
      r.element === asked.place.element &&
      r.side === (asked.place.side ?? null),
  );
  return requirement ? judge(state, requirement) : null;
}

/** What is asked, in a sentence. */
function Sentence({ shower, deviation }: Asked) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const judgement = judgementOf(shower.state, deviation);
  const model = shower.state.geometry!.model;
  const stage = shower.state.rules?.method.stages.find((s) => s.key === deviation.asked.stage)?.label ?? '';
  return (
    <>
      <span className="font-bold">{shower.state.created?.body.name}</span>{' '}
      <span className="text-soft text-sm">{shower.state.created?.body.job}</span>
      <span className="block">
        {stage}: {elementName(t, model, deviation.asked.place.element)}.{' '}
        {judgement && verdictSentence(t, model, judgement, unit)}
      </span>
    </>
  );
}

/** What is asked with what stands behind it: place on the map, readings, pictures, the asker's reason. */
function Evidence({ shower, deviation }: Asked) {
  const { t } = useTranslation();
  const { state } = shower;
  const { element } = deviation.asked.place;
  const ledger = useMemo(() => buildLedger(state, [deviation.asked.stage]), [state, deviation.asked.stage]);
  const defects = [...state.defects.values()].filter((d) => d.places.some((p) => p.element === element));
  const photos = [
    ...defects.flatMap((d) => [...d.photos, ...d.answers.flatMap((a) => a.photos)]),
    ...state.photos.filter((p) => p.body.place?.element === element).map((p) => p.body.photo),
  ];
  const marks = new Map(NO_MARKS);
  if (!state.seamById.has(element)) marks.set(element, 'unseen');
  return (
    <div className="flex min-h-0 flex-col gap-2 overflow-y-auto">
      <p className="text-lg leading-snug">
        <Sentence shower={shower} deviation={deviation} />
      </p>
      <PendingDeviation showerId={shower.id} deviation={deviation} />
      <div className="h-72 flex-none">
        <ShowerMap model={state.geometry!.model} lines={ledger.lines} marks={marks} chosen={element} />
      </div>
      {photos.length > 0 && (
        <div className="grid grid-cols-2 gap-2">
          {photos.map((p) => (
            <MarkedPicture key={p.hash} {...p} tool={null} />
          ))}
        </div>
      )}
      <Link className="key flex items-center justify-center" to={`/showers/${shower.id}`}>
        {t('approvals.openShower')}
      </Link>
    </div>
  );
}

/** Showers whose evidence is fetched by itself, so that it can be decided on at once. */
const FETCHED_AT_MOST = 12;

/** What waits in showers that this tablet does not hold ready; the longest waiting are fetched with their evidence. */
function ElsewhereInFirm() {
  const { t } = useTranslation();
  const { showers, fetchShower } = useParts('showers', 'fetchShower');
  const answer = useQueue();
  const lines = useMemo(
    () => (answer.data?.pages ?? []).flatMap((p) => p.lines).filter((l) => l.decisions > 0 && !showers.has(l.id)),
    [answer.data, showers],
  );
  const first = answer.data?.pages[0];
  const asked = useRef(new Set<string>());
  useEffect(() => {
    for (const { id } of lines) {
      if (asked.current.size >= FETCHED_AT_MOST || asked.current.has(id)) continue;
      asked.current.add(id);
      void fetchShower(id);
    }
  }, [lines, fetchShower]);
  if (answer.isError) return <p className="pt-4 text-cure">{t('approvals.onlyHere')}</p>;
  return (
    <>
      {first && first.behind > 0 && <p className="pt-4 text-soft">{t('approvals.behind', { count: first.behind })}</p>}
      {lines.length > 0 && (
        <h2 className="pt-4 font-bold text-lg">{t('approvals.elsewhere', { count: lines.length })}</h2>
      )}
      <ul>
        {lines.map((l) => (
          <li key={l.id} className="border-hair border-b">
            <Link className="flex min-h-12 flex-wrap items-center gap-x-2 text-ink" to={`/showers/${l.id}`}>
              <span className="font-bold">{l.name}</span> <span className="text-soft">{l.job}</span>
              <span className="text-cure">
                {t('approvals.decisions', { count: l.decisions })} {momentWords(Date.parse(l.since))}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {answer.hasNextPage && (
        <button type="button" className="key" disabled={answer.isFetching} onClick={() => void answer.fetchNextPage()}>
          {t('approvals.nextPage')}
        </button>
      )}
    </>
  );
}

/** The queue of deviations: what waits with its evidence, and what was decided, as a dated note for an owner or official. */
export function Approvals() {
  const { t } = useTranslation();
  const showers = useStore((s) => s.showers);
  const { waiting, decided } = useMemo(() => deviationsOf(showers.values()), [showers]);
  const [chosen, setChosen] = useState<string | null>(null);
  const open = waiting.find((a) => a.deviation.id === chosen) ?? waiting[0];
  const contested = [...showers.values()].flatMap((shower) =>
    [...shower.state.stages].filter(([, s]) => s.word === 'contested').map(([key]) => ({ shower, key })),
  );
  const looks = useMemo(() => waitingLooks(showers.values()), [showers]);
  const moment = (at: string) => momentWords(Date.parse(at));
  return (
    <div className="grid h-full min-h-0 grid-cols-[1fr_26rem] gap-4 max-lg:grid-cols-1">
      <div className="min-h-0 overflow-y-auto">
        <h2 className="font-bold text-lg">{t('approvals.waiting', { count: waiting.length })}</h2>
        {waiting.length === 0 && <p className="text-soft">{t('approvals.none')}</p>}
        <ul>
          {waiting.map((a) => (
            <li key={a.deviation.id} className="border-hair border-b">
              <button
                type="button"
                aria-pressed={open?.deviation.id === a.deviation.id}
                className="min-h-12 w-full cursor-pointer border-transparent border-l-4 py-1.5 pl-2 text-left aria-pressed:border-ink aria-pressed:bg-leaf"
                onClick={() => setChosen(a.deviation.id)}
              >
                <Sentence {...a} />
                <span className="block text-cure">
                  {t('approvals.asks', { reason: a.deviation.asked.reason, at: moment(a.deviation.askedAt) })}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {looks.length > 0 && (
          <>
            <h2 className="pt-4 font-bold text-lg">{t('approvals.notApplicable', { count: looks.length })}</h2>
            <ul>
              {looks.map((l) => (
                <WaitingLook key={`${l.shower.id} ${l.looks[0]!.entry}`} {...l} />
              ))}
            </ul>
          </>
        )}
        {contested.length > 0 && (
          <>
            <h2 className="pt-4 font-bold text-hold text-lg">{t('approvals.contested')}</h2>
            <ul>
              {contested.map(({ shower, key }) => (
                <li key={`${shower.id} ${key}`} className="border-hair border-b">
                  <Link className="block min-h-12 py-2 text-ink" to={`/showers/${shower.id}?stage=${key}`}>
                    <span className="font-bold">{shower.state.created?.body.name}</span>,{' '}
                    {shower.state.rules?.method.stages.find((s) => s.key === key)?.label}:{' '}
                    {becauseSentence(t, shower.state.stages.get(key)?.because ?? null)}
                  </Link>
                </li>
              ))}
            </ul>
          </>
        )}
        <ElsewhereInFirm />
        <h2 className="pt-4 font-bold text-lg">{t('approvals.decided')}</h2>
        {decided.length === 0 && <p className="text-soft">{t('approvals.noneDecided')}</p>}
        <ul>
          {decided.map((a) => (
            <li key={a.deviation.id} className="border-hair border-b py-1.5">
              <Sentence {...a} />
              <span className="block text-soft text-sm">
                {t(a.deviation.decision!.accepted ? 'approvals.accepted' : 'approvals.refused', {
                  by: a.deviation.decision!.by,
                  reason: a.deviation.decision!.reason,
                  asked: a.deviation.asked.reason,
                  at: moment(a.deviation.askedAt),
                })}{' '}
                {a.deviation.ended && t('approvals.ended')}
              </span>
            </li>
          ))}
        </ul>
      </div>
      {open && <Evidence key={open.deviation.id} {...open} />}
    </div>
  );
}
