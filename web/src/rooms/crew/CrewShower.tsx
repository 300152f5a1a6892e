import { isOverdue } from '@careful-seam/core/proof/holds/defectLife';
import { openLookRequests } from '@careful-seam/core/proof/holds/lookRequests';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { buildLedger, currentStage } from '@careful-seam/core/proof/shown/seamLine';
import { dayWords, hourWords, momentWords } from '@careful-seam/words/sentences/moments';
import { blockerSentence } from '@careful-seam/words/sentences/sentences';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { StagePicker } from '../../drawing/Ladder';
import { MarkedPicture } from '../../drawing/MarkedPicture';
import { type MarkState, ShowerMap } from '../../drawing/ShowerMap';
import { DefectStory } from '../../shared/DefectStory';
import { HelpKey } from '../../shared/Help';
import { Missing } from '../../shared/Missing';
import { SyncMark } from '../../shared/SyncMark';
import { WorkDoneSheet } from '../../shared/WorkDoneSheet';
import { type LocalShower, useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { AnswerForm } from './AnswerForm';
import { type Hold, holdsOf, isToFix } from './holds';
import { READY_FROM, type ReadyFrom, readyAtOf } from './readyFrom';

/** A map that shows the defects alone. */
const NO_MARKS = new Map<string, MarkState>();

/** One hold in the list. */
interface HoldProps {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** What holds, in words. */
  hold: Hold;
  /** It is open. */
  chosen: boolean;
  /** Opens it. */
  onChoose: () => void;
}

/** The picture of a hold is at most so high, rem: what is wrong in words and its answer stand beside it on a phone. */
const PICTURE_REM = 12;

/** The picture of what is wrong, as the inspector took it, with its marks. */
function HoldPicture({ defect: { photos } }: Pick<Hold, 'defect'>) {
  const [picture] = photos;
  if (!picture) return null;
  return (
    <div data-testid="hold-picture" style={{ maxWidth: `${(PICTURE_REM * picture.widthPx) / picture.heightPx}rem` }}>
      <MarkedPicture {...picture} tool={null} />
    </div>
  );
}

/** A hold: what is wrong, where, what right looks like, and the answer. */
function HoldLine({ shower, hold, chosen, onChoose }: HoldProps) {
  const { t } = useTranslation();
  const { defect, where, what, right, words, dueMs, step } = hold;
  const waits = !isToFix(hold);
  const overdue = isOverdue(defect, shower.state.clockMs);
  return (
    <li className={`border-l-4 pl-2 ${waits ? 'border-cure' : 'border-hold'}`}>
      <button
        type="button"
        className="min-h-12 w-full cursor-pointer text-left leading-snug"
        aria-expanded={chosen}
        onClick={onChoose}
      >
        <span className="font-bold">{where}</span>
        <span className={`block ${waits ? '' : 'text-hold'}`}>{what}</span>
        <span className="block text-soft text-sm">
          {t(`step.${overdue ? 'overdue' : step}`)}
          {dueMs !== null && ` · ${t('life.due', { at: dayWords(dueMs, shower.state.created!.body.timeZone) })}`}
        </span>
      </button>
      {!waits && !chosen && <HoldPicture defect={defect} />}
      {words && <p className="font-semibold">{words}</p>}
      {right && <p className="text-sm">{right}</p>}
      {!chosen && waits && (
        <button type="button" className="key mt-1.5" onClick={onChoose}>
          {t('crew.see')}
        </button>
      )}
      {chosen && (
        <div className="flex flex-col gap-2 py-2">
          {!waits && (
            <AnswerForm book={shower.state.rules!.book} showerId={shower.id} defect={defect} onDone={onChoose} />
          )}
          <DefectStory state={shower.state} defect={defect} />
        </div>
      )}
    </li>
  );
}

/** Says a stage is done, or that it is ready for a look. */
function StageKeys({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const { state } = shower;
  const [chosen, setChosen] = useState<string | null>(null);
  const [telling, setTelling] = useState(false);
  const [from, setFrom] = useState<ReadyFrom>('now');
  const stage = chosen ?? currentStage(state) ?? '';
  const spec = state.rules!.method.stages.find((s) => s.key === stage);
  const asked = openLookRequests(state).find((r) => r.body.stage === stage);
  const word = state.stages.get(stage)?.word ?? 'open';
  const blockers = word === 'held' ? blockersOf(state, stage).filter((b) => b.kind === 'lower-stage') : [];
  const model = state.geometry!.model;
  return (
    <section className="flex flex-col gap-2" aria-label={t('crew.stages')}>
      <StagePicker state={state} chosen={stage} onChoose={setChosen} />
      {spec?.caution && <p className="border-cure border-l-4 pl-2 text-sm">{spec.caution}</p>}
      {blockers.map((b) => (
        <p key={JSON.stringify(b)} className="text-hold text-sm">
          {blockerSentence(t, model, state.rules!.book, b, unit)}
        </p>
      ))}
      {asked && (
        <p className="text-cure">
          {t('crew.lookAsked', { at: momentWords(Date.parse(asked.observedAt), state.created?.body.timeZone) })}
          {asked.body.readyAt &&
            ` ${t('crewPlan.readyAt', { at: hourWords(Date.parse(asked.body.readyAt), state.created?.body.timeZone) })}`}
        </p>
      )}
      <div className="grid grid-cols-2 gap-1.5">
        <button type="button" className="key" disabled={word === 'released'} onClick={() => setTelling(true)}>
          {t('crew.stageDone')}
        </button>
        <button
          type="button"
          className="key key-main"
          disabled={word === 'released' || asked !== undefined}
          onClick={() => {
            const readyAt = readyAtOf(from, Date.now(), state.created!.body.timeZone);
            void write(shower.id, 'look-requested', { stage, ...(readyAt === null ? {} : { readyAt }) });
          }}
        >
          {t('crew.readyForLook')}
        </button>
        <select
          className="field col-span-2"
          aria-label={t('crewPlan.from')}
          value={from}
          disabled={word === 'released' || asked !== undefined}
          onChange={(e) => setFrom(e.target.value as ReadyFrom)}
        >
          {READY_FROM.map((key) => (
            <option key={key} value={key}>
              {t(`crewPlan.readyFrom.${key}`)}
            </option>
          ))}
        </select>
      </div>
      {telling && <WorkDoneSheet showerId={shower.id} state={state} stage={stage} onClose={() => setTelling(false)} />}
    </section>
  );
}

/** What lies at the edge of the phone. */
interface InReachProps {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** What is to be put right first; nothing where nothing is. */
  first: Hold | undefined;
  /** Opens its answer; null while one is open. */
  onAnswer: (() => void) | null;
}

/** What a thumb reaches: the answer to what is to be put right first, and the stages, open where nothing is. */
function InReach({ shower, first, onAnswer }: InReachProps) {
  const { t } = useTranslation();
  const [stages, setStages] = useState(false);
  const isOpen = stages || !first;
  return (
    <div className="flex flex-col gap-2 border-edge border-t-2 px-3 py-2">
      {first && (
        <div className="flex gap-1.5">
          <button type="button" className="key" aria-expanded={stages} onClick={() => setStages(!stages)}>
            {t('crew.stages')}
          </button>
          {onAnswer && (
            <button type="button" className="key key-main min-w-0 flex-1 text-lg leading-tight" onClick={onAnswer}>
              {t('crew.answerTo', { where: first.where })}
            </button>
          )}
        </div>
      )}
      {isOpen && <StageKeys shower={shower} />}
    </div>
  );
}

/** One shower on a crew's phone: its own holds on the map in plain words, the answer, and "done" for a stage. */
export function CrewShower() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const { unit } = usePreferences();
  const shower = useStore((s) => s.showers.get(id));
  const [chosen, setChosen] = useState<string | null>(null);
  const state = shower?.state;
  const holds = useMemo(() => (state ? holdsOf(t, state, unit) : []), [state, t, unit]);
  const ledger = useMemo(() => {
    if (!state) return null;
    return buildLedger(state, [...new Set([currentStage(state) ?? '', ...holds.map((h) => h.defect.stage)])]);
  }, [state, holds]);
  if (!shower || !state?.geometry || !state.rules || !ledger) return <Missing />;
  const lit = holds.find((h) => h.defect.id === chosen) ?? holds[0];
  const first = holds.find(isToFix);
  const lines = (some: readonly Hold[]) => (
    <ul className="flex flex-col gap-3">
      {some.map((hold) => (
        <HoldLine
          key={hold.defect.id}
          shower={shower}
          hold={hold}
          chosen={hold.defect.id === chosen}
          onChoose={() => setChosen(hold.defect.id === chosen ? null : hold.defect.id)}
        />
      ))}
    </ul>
  );
  const marks = new Map(NO_MARKS);
  for (const h of holds) for (const place of h.defect.places) marks.set(place.element, 'fail');
  return (
    <div className="mx-auto flex h-full max-w-2xl flex-col">
      <header className="flex items-center gap-2 border-edge border-b-2 px-3 py-1.5">
        <Link to="/" className="key flex items-center">
          {t('shower.day')}
        </Link>
        <h1 className="min-w-0 flex-1 font-bold text-lg leading-tight">
          {state.created?.body.name}{' '}
          <span className="block font-normal text-sm text-soft">{state.created?.body.job}</span>
        </h1>
        <SyncMark />
        <HelpKey />
      </header>
      <main className="flex flex-1 flex-col gap-2 overflow-y-auto px-3 py-2">
        {holds.length === 0 && <p className="font-semibold">{t('crew.noHolds')}</p>}
        {lit && lines([lit])}
        <div className="h-64 flex-none">
          <ShowerMap
            model={state.geometry.model}
            lines={ledger.lines}
            marks={marks}
            chosen={lit?.defect.places[0]?.element ?? null}
            onChoose={(element) => {
              const here = holds.find((h) => h.defect.places.some((p) => p.element === element));
              if (here) setChosen(here.defect.id);
            }}
          />
        </div>
        {lines(holds.filter((h) => h !== lit))}
      </main>
      <InReach
        shower={shower}
        first={first}
        onAnswer={first && chosen === null ? () => setChosen(first.defect.id) : null}
      />
    </div>
  );
}
