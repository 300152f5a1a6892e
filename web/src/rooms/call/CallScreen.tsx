import type { Body } from '@careful-seam/core/log/bodies';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { Call } from '@careful-seam/core/log/state';
import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import {
  foundWords,
  outcomeName,
  percentWords,
  placeWords,
  suspectName,
  testName,
} from '@careful-seam/words/sentences/callSentences';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { ShowerMap } from '../../drawing/ShowerMap';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useParts, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { usePreferences } from '../../ui/preferences';
import { Beside } from './Beside';
import { CallForm } from './CallForm';
import { ComesOut } from './ComesOut';
import { FoundSheet } from './FoundSheet';
import { NextTest } from './NextTest';
import { StainPlan } from './StainPlan';
import { Suspects } from './Suspects';
import { useTrace } from './useTrace';
import { WayView } from './WayView';

/** What was told and what was tried, each with a key that takes it back where it was mistyped. */
function Told({ shower, call, view }: { shower: LocalShower; call: Call; view: TraceView }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { write, person } = useParts('write', 'person');
  const model = shower.state.geometry!.model;
  const zone = shower.state.created!.body.timeZone;
  const mayTake = (authorId: string) => person?.role === 'manager' || person?.id === authorId;
  return (
    <section aria-label={t('call.told')} className="flex flex-col gap-1">
      <h2 className="font-semibold text-soft">{t('call.told')}</h2>
      <p>{call.opened.body.words}</p>
      <ol className="text-sm">
        {call.opened.body.symptoms.map((s, k) => (
          <li key={k}>
            {k + 1}. {placeWords(t, model, s.place, unit)}, {t(`call.whens.${s.when}`)}, {t(`call.amounts.${s.amount}`)}
            {s.signs.map((sign) => `, ${t(`call.sign.${sign}`)}`)}
            {view.farFrom.includes(k) && <span className="block font-semibold text-hold">{t('call.farFrom')}</span>}
          </li>
        ))}
      </ol>
      {call.tests.length > 0 && (
        <ul data-testid="tested">
          {call.tests.map((e) => (
            <li key={e.id} className="flex items-center gap-2 border-hair border-t py-1">
              <span className="flex-1 leading-tight">
                {testName(t, model, e.body.test, unit)}:{' '}
                <span className="font-bold">{outcomeName(t, model, e.body.test, e.body.outcome)}</span>
                <span className="block text-soft text-sm">
                  {momentWords(Date.parse(e.observedAt), zone)}, {e.author.name}
                </span>
                {view.doesNotFit.includes(e.id) && (
                  <span className="block font-semibold text-hold text-sm">{t('call.doesNotFit')}</span>
                )}
              </span>
              {!call.closed && mayTake(e.author.id) && (
                <button
                  type="button"
                  className="key flex-none text-sm"
                  onClick={() =>
                    void write(shower.id, 'correction', {
                      target: e.id,
                      action: 'withdraw',
                      reason: t('call.mistyped'),
                    })
                  }
                >
                  {t('call.mistyped')}
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What a call came to, held against what tracing had said of it; it can be opened again. */
function Ended({ shower, call, onAnew }: { shower: LocalShower; call: Call; onAnew: () => void }) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const model = shower.state.geometry!.model;
  const closed = call.closed!;
  const { foretold } = closed.body;
  const mayTake = person?.role === 'manager' || person?.id === closed.author.id;
  return (
    <section aria-label={t('call.ended')} className="flex flex-col gap-2 border-ink border-l-4 pl-3">
      <h2 className="font-bold text-xl" data-testid="found">
        {foundWords(t, model, closed.body.found)}
      </h2>
      {foretold && (
        <p>
          {t('call.foretold', {
            place: foretold.place,
            of: foretold.of,
            share: percentWords(t, foretold.probability),
          })}
        </p>
      )}
      {closed.body.words && <p>{closed.body.words}</p>}
      <p className="text-soft text-sm">{t('call.learned')}</p>
      <p className="flex flex-wrap gap-2">
        {mayTake && (
          <button
            type="button"
            className="key"
            onClick={() =>
              void write(shower.id, 'correction', { target: closed.id, action: 'withdraw', reason: t('call.again') })
            }
          >
            {t('call.again')}
          </button>
        )}
        <button type="button" className="key" onClick={onAnew}>
          {t('call.another')}
        </button>
      </p>
    </section>
  );
}

/** Less likely than this is not drawn as suspected. */
const DRAWN = 0.01;

/** What is suspected as it is drawn: shares of the halo by element, and shares spread over the plan's points, mm. */
function useDrawn(view: TraceView | null) {
  return useMemo(() => {
    const drawn = (view?.ranked ?? []).filter((r) => r.probability >= DRAWN);
    return {
      suspected: new Map(drawn.map((r) => [r.suspect.id, r.probability] as const)),
      inPlan: drawn.flatMap(({ suspect, probability }) =>
        suspect.points.map(([xMm, yMm]) => ({ xMm, yMm, share: probability / suspect.points.length })),
      ),
    };
  }, [view]);
}

/** Where a call stands: the map with what is suspected, what to try next, what was told. */
function OpenCall({ shower, call, onAnew }: { shower: LocalShower; call: Call; onAnew: () => void }) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const { state } = shower;
  const model = state.geometry!.model;
  const { view, closed } = useTrace(state, call);
  const [chosen, setChosen] = useState<string | null>(null);
  const [finding, setFinding] = useState(false);
  const ledger = useMemo(
    () =>
      buildLedger(
        state,
        state.rules!.method.stages.map((s) => s.key),
      ),
    [state],
  );
  const { suspected, inPlan } = useDrawn(view);
  if (!view) return null;
  // Of whatever was tapped, of what was found, of what is likeliest.
  const named = chosen ?? call.closed?.body.found?.element;
  const shown = (view.ranked.find((r) => r.suspect.id === named) ?? view.ranked[0]!).suspect;
  const caution = state.rules!.method.stages.find((s) => s.key === 'strip-out')?.caution ?? null;
  const mayTest = person !== null && mayWrite(person.role, 'call-tested');
  return (
    <Beside
      label={t('call.label')}
      first
      map={
        <ShowerMap
          model={model}
          lines={ledger.lines}
          marks={new Map()}
          chosen={chosen}
          suspected={suspected}
          onChoose={setChosen}
        />
      }
      below={
        <div className="grid h-44 flex-none grid-cols-[16rem_1fr] gap-3 max-md:h-auto max-md:grid-cols-1">
          <StainPlan model={model} places={call.opened.body.symptoms.map((s) => s.place)} suspected={inPlan} />
          <p className="self-end text-soft text-sm">{t('call.legend')}</p>
        </div>
      }
    >
      {call.closed ? (
        <Ended shower={shower} call={call} onAnew={onAnew} />
      ) : (
        <>
          {view.open && (
            <p role="status" className="border-water border-l-4 pl-2 font-semibold">
              {t('call.stop', {
                what: suspectName(t, model, view.open),
                share: percentWords(t, view.ranked[0]!.probability),
              })}
            </p>
          )}
          {mayTest && (
            <NextTest
              model={model}
              view={view}
              showerId={shower.id}
              callId={call.opened.id}
              onTested={(body: Body<'call-tested'>) => void write(shower.id, 'call-tested', body)}
            />
          )}
          {mayTest && (
            <button type="button" className="key key-main" onClick={() => setFinding(true)}>
              {t('call.found')}
            </button>
          )}
        </>
      )}
      <Suspects model={model} view={view} chosen={chosen} onChoose={setChosen} />
      <ComesOut model={model} suspect={shown} caution={caution} />
      <Told shower={shower} call={call} view={view} />
      {finding && (
        <FoundSheet
          shower={shower}
          call={call}
          view={view}
          foretold={closed ?? view}
          onClose={() => setFinding(false)}
        />
      )}
    </Beside>
  );
}

/** A shower lets water through: the call is taken, the way is traced, what was found is kept. */
export function CallScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  const [anew, setAnew] = useState(false);
  const [way, setWay] = useState(false);
  useKeepAwake();
  if (!shower?.state.geometry || !shower.state.rules || !person) return <Missing />;
  const calls = [...shower.state.calls.values()];
  const open = calls.findLast((c) => !c.closed);
  const call = open ?? (anew ? null : (calls.at(-1) ?? null));
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ToolHeader
        back={`/showers/${id}`}
        title={t('call.title', { name: shower.state.created?.body.name })}
        job={shower.state.created?.body.job}
      >
        <button type="button" className="key" aria-pressed={way} onClick={() => setWay(!way)}>
          {t('call.way.title')}
        </button>
      </ToolHeader>
      {way ? (
        <WayView shower={shower} />
      ) : call ? (
        <OpenCall key={call.opened.id} shower={shower} call={call} onAnew={() => setAnew(true)} />
      ) : mayWrite(person.role, 'call-opened') ? (
        <CallForm shower={shower} />
      ) : (
        <p className="p-4 text-lg text-soft">{t('call.noneYet')}</p>
      )}
    </div>
  );
}
