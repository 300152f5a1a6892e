import type { Body } from '@careful-seam/core/log/bodies';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { Call } from '@careful-seam/core/log/state';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import { percentWords, suspectName } from '@careful-seam/words/sentences/callSentences';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { ShowerMap } from '../../drawing/ShowerMap';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useParts, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { Beside } from './Beside';
import { CallForm } from './CallForm';
import { Ended, Told } from './CallTold';
import { ComesOut } from './ComesOut';
import { FloorWatch } from './FloorWatch';
import { FoundSheet } from './FoundSheet';
import { NextTest } from './NextTest';
import { StainPlan } from './StainPlan';
import { StripOut } from './StripOut';
import { Suspects } from './Suspects';
import { useLedger } from './useLedger';
import { useTrace } from './useTrace';
import { WayView } from './WayView';

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

/** Somebody told of a floor that stays dark, or it was watched already. */
const isDark = ({ opened, watched }: Call): boolean =>
  watched.length > 0 || opened.body.symptoms.some((s) => s.signs.includes('dark-floor') || s.darkHours !== undefined);

/** Where a call stands: the map with what is suspected, what to try next, what was told. */
function OpenCall({
  shower,
  call,
  isStrip,
  onAnew,
}: {
  shower: LocalShower;
  call: Call;
  /** The strip-out is shown, and not the tests. */
  isStrip: boolean;
  onAnew: () => void;
}) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const { state } = shower;
  const model = state.geometry!.model;
  const { view, closed } = useTrace(state, call);
  const [chosen, setChosen] = useState<string | null>(null);
  const [finding, setFinding] = useState(false);
  const ledger = useLedger(state);
  const { suspected, inPlan } = useDrawn(view);
  if (!view) return null;
  // Of whatever was tapped, of what was found, of what is likeliest.
  const named = chosen ?? call.closed?.body.found?.element;
  const shown = (view.ranked.find((r) => r.suspect.id === named) ?? view.ranked[0]!).suspect;
  const caution = state.rules!.method.stages.find((s) => s.key === 'strip-out')?.caution ?? null;
  const mayTest = person !== null && mayWrite(person.role, 'call-tested');
  const sayFound = !call.closed && mayTest && (
    <button type="button" className="key key-main" onClick={() => setFinding(true)}>
      {t('call.found')}
    </button>
  );
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
      {isStrip ? (
        <>
          <StripOut shower={shower} call={call} view={view} suspect={shown} />
          {sayFound}
        </>
      ) : call.closed ? (
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
          {sayFound}
        </>
      )}
      <Suspects model={model} view={view} chosen={chosen} onChoose={setChosen} />
      <ComesOut model={model} suspect={shown} caution={caution} />
      {!isStrip && isDark(call) && <FloorWatch shower={shower} call={call} />}
      {!isStrip && <Told shower={shower} call={call} view={view} />}
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
  const [shown, setShown] = useState<'tests' | 'strip' | 'way'>('tests');
  const show = (view: 'strip' | 'way') => setShown(shown === view ? 'tests' : view);
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
        {call && (
          <button type="button" className="key" aria-pressed={shown === 'strip'} onClick={() => show('strip')}>
            {t('call.strip.title')}
          </button>
        )}
        <button type="button" className="key" aria-pressed={shown === 'way'} onClick={() => show('way')}>
          {t('call.way.title')}
        </button>
      </ToolHeader>
      {shown === 'way' ? (
        <WayView shower={shower} />
      ) : call ? (
        <OpenCall
          key={call.opened.id}
          shower={shower}
          call={call}
          isStrip={shown === 'strip'}
          onAnew={() => setAnew(true)}
        />
      ) : mayWrite(person.role, 'call-opened') ? (
        <CallForm shower={shower} />
      ) : (
        <p className="p-4 text-lg text-soft">{t('call.noneYet')}</p>
      )}
    </div>
  );
}
