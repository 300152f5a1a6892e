import { judge } from '@careful-seam/core/checks/judge';
import type { Entry } from '@careful-seam/core/log/entry';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import { buildLedger, currentStage } from '@careful-seam/core/proof/shown/seamLine';
import { showLength } from '@careful-seam/core/units/length';
import { elementName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams, useSearchParams } from 'react-router';
import { Ladder, StagePicker } from '../drawing/Ladder';
import { Legend } from '../drawing/Legend';
import { type MarkState, ShowerMap } from '../drawing/ShowerMap';
import { DefectLifeSheet } from '../rooms/defect/DefectLifeSheet';
import { DefectSheet } from '../rooms/defect/DefectSheet';
import { RedoSheet } from '../rooms/defect/RedoSheet';
import { ChangedType } from '../rooms/newShower/ChangedType';
import { ElementCard } from '../rooms/shower/ElementCard';
import { StageCard } from '../rooms/shower/StageCard';
import { DropLock } from '../shared/DropLock';
import { Missing } from '../shared/Missing';
import { OfferedBook } from '../shared/OfferedBook';
import { SyncMark } from '../shared/SyncMark';
import { type LocalShower, useParts, useStore } from '../tablet/store';
import { useKeepAwake } from '../tablet/tabletCare';
import { usePreferences } from '../ui/preferences';

const UNDO_MS = 120_000;

function marksOf(state: ShowerState, stage: string): Map<string, MarkState> {
  const marks = new Map<string, MarkState>();
  const rank: MarkState[] = ['not-required', 'pass', 'unseen', 'fail'];
  for (const r of state.requirements) {
    if (r.stage.key !== stage || r.hasLength) continue;
    const j = judge(state, r);
    const mark: MarkState = j.satisfied ? 'pass' : j.verdict === 'fail' ? 'fail' : 'unseen';
    const before = marks.get(r.element) ?? 'not-required';
    if (rank.indexOf(mark) > rank.indexOf(before)) marks.set(r.element, mark);
  }
  return marks;
}

/** The stage's own lines; a stage that asks nothing of the seams shows what stands under it. */
function stagesShown(state: ShowerState, stage: string): string[] {
  if (state.requirements.some((r) => r.stage.key === stage && r.hasLength)) return [stage];
  const order = state.rules?.method.stages.find((s) => s.key === stage)?.order ?? 0;
  return (state.rules?.method.stages ?? [])
    .filter((s) => s.order <= order && state.stages.get(s.key)?.begun)
    .map((s) => s.key);
}

function Figures({ shower, stage }: { shower: LocalShower; stage: string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { figures } = useMemo(() => buildLedger(shower.state, stagesShown(shower.state, stage)), [shower.state, stage]);
  const parts = (['measured', 'seen', 'unseen', 'defect', 'covered'] as const).filter((s) => figures.byState[s] > 0.5);
  if (figures.totalMm === 0) return <p className="text-soft">{t('shower.noSeams')}</p>;
  return (
    <p data-testid="figures">
      <span className="font-bold">{t('shower.ofSeam', { total: showLength(figures.totalMm, unit) })}</span>{' '}
      {figures.waterMm > 0.5 && (
        <span className="mr-3 text-water">
          {showLength(figures.waterMm, unit).replace(/ in$| mm$/, '')} {t('line.water')}
        </span>
      )}
      {parts.map((s) => (
        <span key={s} className={`mr-3 ${s === 'defect' ? 'text-hold' : 'text-soft'}`}>
          {showLength(figures.byState[s], unit).replace(/ in$| mm$/, '')} {t(`line.${s}`)}
        </span>
      ))}
    </p>
  );
}

/** The last answer of this person, for a while: one tap takes it back. */
function Undo({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { person, write } = useParts('person', 'write');
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000);
    return () => clearInterval(timer);
  }, []);
  const last = useMemo(() => {
    const parsed = shower.entries.filter((e) => e.authorId === person?.id).map((e) => JSON.parse(e.text) as Entry);
    const undone = new Set(parsed.flatMap((e) => (e.kind === 'correction' ? [e.body.target] : [])));
    parsed.sort((a, b) => (a.orderAt < b.orderAt ? 1 : -1));
    return parsed.find((e) => e.kind !== 'correction' && !undone.has(e.id)) ?? null;
  }, [shower.entries, person?.id]);
  if (
    !last ||
    now - Date.parse(last.observedAt) > UNDO_MS ||
    last.kind === 'shower-created' ||
    last.kind === 'geometry-set' ||
    last.kind === 'rules-pinned' ||
    last.kind === 'record-signed'
  )
    return null;
  const what =
    last.kind === 'reading' && !last.body.film
      ? t(shower.state.seamById.has(last.body.place.element) ? 'undo.reading' : 'undo.readingWhole', {
          value: showLength(last.body.valueMm, unit),
          at: showLength(last.body.atMm, unit),
        })
      : t(last.kind === 'reading' ? 'undo.film' : `undo.${last.kind}`, { defaultValue: t('undo.other') });
  return (
    <button
      type="button"
      className="key max-w-52 flex-none text-sm leading-tight"
      onClick={() => void write(shower.id, 'correction', { target: last.id, action: 'withdraw' })}
    >
      {t('undo.button', { what })}
    </button>
  );
}

/** The shower: ladder, unfolded map and card side by side. */
export function Shower() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const { unit, keys } = usePreferences();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  const [asked] = useSearchParams();
  const [stageChosen, setStage] = useState<string | null>(asked.get('stage'));
  useKeepAwake();
  const [element, setElement] = useState<string | null>(null);
  const [sheet, setSheet] = useState<{
    kind: 'defect' | 'redo' | 'life';
    /** Id of the defect it is about, or null for a new one. */
    defect: string | null;
    stretch: { fromMm: number; toMm: number } | null;
  } | null>(null);
  const state = shower?.state;
  const stage = stageChosen ?? (state ? currentStage(state) : null);
  const ledger = useMemo(() => (state && stage ? buildLedger(state, stagesShown(state, stage)) : null), [state, stage]);
  const marks = useMemo(() => (state && stage ? marksOf(state, stage) : new Map<string, MarkState>()), [state, stage]);
  useEffect(() => {
    const back = (e: KeyboardEvent) => e.key === 'Escape' && !e.defaultPrevented && sheet === null && setElement(null);
    window.addEventListener('keydown', back);
    return () => window.removeEventListener('keydown', back);
  }, [sheet]);

  if (!shower || !state?.geometry || !state.rules || !stage || !ledger || !person) return <Missing />;
  const model = state.geometry.model;
  const about = sheet?.defect ? (state.defects.get(sheet.defect) ?? null) : null;
  const mayInspect = mayWrite(person.role, 'reading');
  const size = model.faces[0]!.loop;
  const span = (axis: 0 | 1) => Math.max(...size.map((p) => p[axis])) - Math.min(...size.map((p) => p[axis]));
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
        <Link to="/" className="key flex items-center">
          {t('shower.day')}
        </Link>
        <div className="min-w-0">
          <h1 className="font-bold text-xl leading-tight">
            {state.created?.body.name}{' '}
            <span className="font-normal text-base text-soft">{state.created?.body.job}</span>
          </h1>
          <p className="text-soft text-sm">
            {showLength(span(1), unit)} x {showLength(span(0), unit)} · {state.rules.method.label} ·{' '}
            {state.rules.book.title}
          </p>
        </div>
        <div className="flex-1 px-2 max-md:order-last max-md:basis-full max-md:px-0">
          <Figures shower={shower} stage={stage} />
        </div>
        {mayInspect && <OfferedBook shower={shower} />}
        {mayInspect && <ChangedType shower={shower} />}
        {mayInspect && (
          <Link to={`/showers/${id}/dimensions`} className="key flex items-center px-2 text-sm">
            {t('shower.dimensions')}
          </Link>
        )}
        <SyncMark />
        <Link to={`/showers/${id}/record`} className="key flex items-center">
          {t('shower.record')}
        </Link>
      </header>
      <main className="bench grid min-h-0 grid-cols-[176px_1fr_412px] max-lg:grid-cols-1">
        <div className="min-h-0 overflow-y-auto border-edge border-r p-2 max-lg:hidden">
          <Ladder
            state={state}
            chosen={stage}
            onChoose={(key) => {
              setStage(key);
              setElement(null);
            }}
          />
        </div>
        <div className="px-3 pt-2 lg:hidden">
          <StagePicker
            state={state}
            chosen={stage}
            onChoose={(key) => {
              setStage(key);
              setElement(null);
            }}
          />
        </div>
        <div className="flex min-h-0 flex-col p-3 max-lg:pb-0">
          <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
            <ShowerMap
              model={model}
              lines={ledger.lines}
              marks={marks}
              chosen={element}
              onChoose={setElement}
              keys={keys}
              waterMm={state.flood?.running ? state.flood.waterLineMm : null}
            />
          </div>
          <div className="flex items-center gap-3">
            <div className="flex-1 max-md:hidden">
              <Legend />
            </div>
            <DropLock />
            <Undo shower={shower} />
          </div>
        </div>
        <aside
          aria-label={element ? elementName(t, model, element) : t('stage.label')}
          className="flex min-h-0 flex-col gap-2 border-edge border-l bg-paper p-3 max-lg:border-l-0"
        >
          {element ? (
            <ElementCard
              key={`${element} ${stage}`}
              showerId={id}
              state={state}
              stage={stage}
              element={element}
              mayInspect={mayInspect}
              mayAsk={mayWrite(person.role, 'deviation-asked')}
              onDefect={(defect, stretch) => setSheet({ kind: 'defect', defect: defect?.id ?? null, stretch })}
              onLife={(defect) => setSheet({ kind: 'life', defect: defect.id, stretch: null })}
              onClose={() => setElement(null)}
            />
          ) : (
            <StageCard
              shower={shower}
              stage={stage}
              mayInspect={mayInspect}
              mayBuild={mayWrite(person.role, 'work-done')}
              onChoose={setElement}
            />
          )}
        </aside>
      </main>
      {sheet?.kind === 'defect' && element && (
        <DefectSheet
          showerId={id}
          state={state}
          stage={stage}
          element={element}
          defect={about}
          stretch={sheet.stretch}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet?.kind === 'redo' && about && (
        <RedoSheet showerId={id} state={state} defect={about} onClose={() => setSheet(null)} />
      )}
      {sheet?.kind === 'life' && about && (
        <DefectLifeSheet
          showerId={id}
          state={state}
          defect={about}
          onRedo={() => setSheet({ ...sheet, kind: 'redo' })}
          onPicture={() => setSheet({ ...sheet, kind: 'defect' })}
          onClose={() => setSheet(null)}
        />
      )}
    </div>
  );
}
