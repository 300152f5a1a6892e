import { judgeFloorFall, judgeFloorFlat, surveyedFloor, surveyLimits } from '@careful-seam/core/checks/survey';
import { flowLines, flowShares } from '@careful-seam/core/floor/ponding/flow';
import { whereNext } from '@careful-seam/core/floor/survey/judgeSurvey';
import { usableShots } from '@careful-seam/core/floor/survey/shots';
import { nextPlace, surveyPlan } from '@careful-seam/core/floor/survey/surveyPlan';
import { wildShots } from '@careful-seam/core/floor/survey/wildShots';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { signedAreaMm2 } from '@careful-seam/core/shower/geometry/polygon';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { readShotsCsv, writeShotsCsv } from '@careful-seam/files/shotsCsv';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { placeOf } from '../../shared/runs';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useParts, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { FileKey } from '../../ui/FileKey';
import { usePreferences } from '../../ui/preferences';
import { saveFile } from '../../ui/saveFile';
import { problemWords, words } from '../../ui/words';
import { BedLine } from './BedLine';
import { FlatResult } from './FlatResult';
import { FloorPlan } from './FloorPlan';
import { ShotCard } from './ShotCard';
import { type ShotMode, ShotPad, type Target } from './ShotPad';
import { SurveyResult } from './SurveyResult';
import { type Survey, surveyOf } from './surveyOf';
import { useCertainty } from './useCertainty';
import { useLaser } from './useLaser';

const FLOW_EVERY_MM = 170;

/** Places all over the floor that water is let run from. */
function rainOn(footprint: readonly PlanPoint[]): PlanPoint[] {
  const span = Math.sqrt(Math.abs(signedAreaMm2(footprint)));
  return surveyPlan({ footprint, drain: { xMm: -1e6, yMm: -1e6 }, drainRimMm: 0 }, Math.max(FLOW_EVERY_MM, span / 8));
}

/** What a bed of mortar must have at its thinnest, as the stage's own checks say; null where the base is no mortar. */
function leastBedMm(state: ShowerState, stage: string): number | null {
  const found = state.requirements.find((r) => r.stage.key === stage && /^mortar-(at-drain|single)/.test(r.check.id));
  return found?.check.kind === 'measured' ? (found.check.limit.atLeastMm ?? null) : null;
}

function SurveyOf({ shower, survey, stage }: { shower: LocalShower; survey: Survey; stage: string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { writeAll, write, person } = useParts('writeAll', 'write', 'person');
  const { state } = shower;
  const model = state.geometry!.model;
  const { check, shots, datumMm } = survey;
  const isFall = check.measures.of === 'fall';
  const { floor, openEdges } = useMemo(() => surveyedFloor(model, isFall), [model, isFall]);
  const plan = useMemo(() => surveyPlan(floor, check.spacingMm), [floor, check]);
  const [mode, setMode] = useState<ShotMode>('rod');
  const [chosenPlace, setPlace] = useState<PlanPoint | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [tried, setTried] = useState<Record<string, number>>({});
  const [auto, setAuto] = useState(false);
  const [heardMm, setHeard] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [rimText, setRimText] = useState('');
  const [moving, setMoving] = useState(() => !window.matchMedia('(prefers-reduced-motion: reduce)').matches);
  const mayShoot = mayWrite(person!.role, 'reading');

  const asIf = useMemo(() => shots.map((s) => ({ ...s, zMm: s.zMm + (tried[s.entry] ?? 0) })), [shots, tried]);
  const trying = shots.filter((s) => (tried[s.entry] ?? 0) !== 0).length;
  const fall = useMemo(
    () => (isFall && asIf.length >= 3 ? judgeFloorFall(model, check, asIf) : null),
    [model, check, asIf, isFall],
  );
  const flat = useMemo(
    () => (!isFall && asIf.length >= 3 ? judgeFloorFlat(model, check, asIf) : null),
    [model, check, asIf, isFall],
  );
  const judged = fall?.ok ? fall.value : null;
  const certainty = useCertainty(model, check, asIf, judged !== null && shots.length >= check.shotsAtLeast);
  const doubt = judged ? whereNext(judged, surveyLimits(check)!) : null;
  const flow = useMemo(
    () => (judged ? flowLines(judged.surface, judged.z, openEdges, rainOn(floor.footprint)) : []),
    [judged, openEdges, floor],
  );
  const leastBed = leastBedMm(state, stage);
  const rim = leastBed === null || rimText.trim() === '' ? null : parseLength(rimText, unit);
  const rimMm = rim?.ok ? rim.value.mm : null;
  const wild = wildShots(shots)[0];
  const open = nextPlace(plan, shots);
  const place = chosenPlace ?? open;
  const target: Target =
    mode === 'rod' && datumMm === null ? { kind: 'datum' } : place ? { kind: 'place', place } : null;
  const left = plan.filter((p) => !shots.some((s) => Math.hypot(s.xMm - p.xMm, s.yMm - p.yMm) <= 60)).length;

  const keep = async (valueMm: number, typed: string, instrument: string) => {
    setHeard(null);
    if (target === null) return;
    const body = { stage, check: check.id, atMm: 0, valueMm: Math.abs(valueMm), typed: typed.slice(0, 40), instrument };
    if (target.kind === 'datum') {
      const shot = { ...floor.drain, zMm: 0, uncertaintyMm: check.uncertaintyMm };
      await write(shower.id, 'reading', { ...body, place: { element: model.drain.id }, shot });
      return;
    }
    const zMm = mode === 'rod' ? datumMm! - valueMm : valueMm;
    const { xMm, yMm } = target.place;
    const others = shots.filter((s) => Math.hypot(s.xMm - xMm, s.yMm - yMm) > 30);
    const usable = usableShots(floor, [...others, { xMm, yMm, zMm }]);
    if (!usable.ok && usable.problem.field === `shots.${others.length}`)
      return setProblem(problemWords(usable.problem));
    setProblem(null);
    setPlace(null);
    const shot = { xMm, yMm, zMm, uncertaintyMm: check.uncertaintyMm };
    await write(shower.id, 'reading', { ...body, place: placeOf(state, survey.requirement.element), shot });
  };
  const laser = useLaser((rodMm) => {
    if (auto && mode === 'rod' && target !== null) void keep(rodMm, `${rodMm} mm`, 'laser');
    else setHeard(rodMm);
  });
  const rod = target?.kind === 'place' ? target.place : floor.drain;
  const rodKey = `${target?.kind} ${rod.xMm} ${rod.yMm} ${auto}`;
  const told = useRef('');
  // Told once for each place, whatever else is drawn anew.
  useEffect(() => {
    if (laser.state !== 'on' || target === null || told.current === rodKey) return;
    told.current = rodKey;
    laser.setRod(rod);
  });

  const readCsv = async (file: File) => {
    const read = readShotsCsv(await file.text());
    if (!read.ok) return setProblem(problemWords(read.problem));
    const usable = usableShots(floor, read.value);
    if (!usable.ok) return setProblem(problemWords(usable.problem));
    setProblem(null);
    const base = { stage, check: check.id, atMm: 0, instrument: 'file' };
    await writeAll(
      shower.id,
      usable.value.map((s) => ({
        kind: 'reading' as const,
        body: {
          ...base,
          place: placeOf(state, survey.requirement.element),
          valueMm: Math.abs(s.zMm),
          typed: `${s.zMm} mm`,
          shot: { ...s, uncertaintyMm: check.uncertaintyMm },
        },
      })),
    );
  };
  const here = chosen === null ? null : (shots[chosen] ?? null);
  const xs = floor.footprint.map((p) => p.xMm);
  const ys = floor.footprint.map((p) => p.yMm);
  return (
    <main className="bench grid min-h-0 grid-cols-[1fr_432px] max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2 p-3">
        <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
          <FloorPlan
            floor={floor}
            shots={asIf}
            judged={judged}
            gap={flat?.ok ? flat.value.gap : null}
            flow={flow}
            moving={moving}
            next={target === null ? null : rod}
            doubt={doubt?.at ?? null}
            chosen={chosen}
            raised={new Set(shots.flatMap((s, i) => (tried[s.entry] ? [i] : [])))}
            label={(mm) => showLength(mm + (rimMm ?? 0), unit, 32).replace(/ (in|mm)$/, '')}
            tooThin={(mm) => rimMm !== null && leastBed !== null && mm + rimMm < leastBed - 1e-6}
            onShot={setChosen}
            onPlace={(p) => {
              setPlace(p);
              setChosen(null);
            }}
          />
        </div>
        <div className="flex flex-wrap items-center gap-1.5">
          <span className="text-soft text-sm" aria-hidden="true">
            {t('survey.choose')}
          </span>
          <select
            className="field w-auto min-w-20 px-1 text-base"
            aria-label={t('survey.choose')}
            value={chosen ?? ''}
            onChange={(e) => setChosen(e.target.value === '' ? null : Number(e.target.value))}
          >
            <option value="">–</option>
            {shots.map((s, i) => (
              <option key={s.entry} value={i}>
                {t('survey.option', { number: i + 1, x: showLength(s.xMm, unit), y: showLength(s.yMm, unit) })}
              </option>
            ))}
          </select>
          {isFall && (
            <button type="button" className="key px-2 text-sm" aria-pressed={moving} onClick={() => setMoving(!moving)}>
              {t('survey.water')}
            </button>
          )}
          <button
            type="button"
            className="key px-2 text-sm"
            disabled={shots.length === 0}
            onClick={() => saveFile(writeShotsCsv(shots), 'text/csv', 'shots.csv')}
          >
            {t('survey.csvOut')}
          </button>
          {mayShoot && <FileKey label={t('survey.csvIn')} accept=".csv,text/csv" onFile={(f) => void readCsv(f)} />}
          {isFall && (
            <a
              className="key flex items-center px-2 text-sm"
              href={`/api/showers/${shower.id}/marks.pdf?unit=${unit}&lang=${words.language}`}
              download
            >
              {t('survey.marks')}
            </a>
          )}
        </div>
      </div>
      <aside
        className="flex min-h-0 flex-col gap-3 overflow-y-auto border-edge border-l p-3 max-lg:border-l-0"
        aria-label={t('survey.shoot')}
      >
        {fall && !fall.ok && (
          <p role="alert" className="text-hold">
            {problemWords(fall.problem)}
          </p>
        )}
        {flat && !flat.ok && (
          <p role="alert" className="text-hold">
            {problemWords(flat.problem)}
          </p>
        )}
        {shots.length < check.shotsAtLeast && (
          <p className="text-soft">{t('survey.few', { count: shots.length, need: check.shotsAtLeast })}</p>
        )}
        {judged && (
          <SurveyResult
            judged={judged}
            check={check}
            certainty={certainty}
            doubt={doubt}
            shares={openEdges.length > 0 ? flowShares(flow) : null}
            trying={trying}
          />
        )}
        {judged && leastBed !== null && (
          <BedLine judged={judged} leastMm={leastBed} text={rimText} onType={setRimText} />
        )}
        {flat?.ok && <FlatResult flat={flat.value} check={check} floor={floor} shots={asIf} />}
        {wild && (
          <p className="border-cure border-l-4 pl-2" data-testid="wild">
            {t('survey.wild', { number: wild.shot + 1, off: showLength(Math.abs(wild.offMm), unit) })}{' '}
            <button type="button" className="key px-2 text-sm" onClick={() => setChosen(wild.shot)}>
              {t('survey.showIt')}
            </button>
          </p>
        )}
        {trying > 0 && (
          <p className="flex items-center gap-2 border-cure border-l-4 pl-2">
            <span className="flex-1">{t('survey.trying', { count: trying })}</span>
            <button type="button" className="key px-2 text-sm" onClick={() => setTried({})}>
              {t('survey.back')}
            </button>
          </p>
        )}
        {here && (
          <ShotCard
            shot={here}
            number={chosen! + 1}
            triedMm={tried[here.entry] ?? 0}
            mayWrite={mayShoot}
            onTry={(mm) => setTried({ ...tried, [here.entry]: Math.abs(mm) < 1e-6 ? 0 : mm })}
            onAgain={() => {
              setPlace({ xMm: here.xMm, yMm: here.yMm });
              setChosen(null);
            }}
            onOut={() => {
              void write(shower.id, 'correction', { target: here.entry, action: 'withdraw' });
              setChosen(null);
            }}
            onClose={() => setChosen(null)}
          />
        )}
        {mayShoot && (
          <ShotPad
            mode={mode}
            onMode={setMode}
            target={target}
            onPlace={setPlace}
            floorMm={{ width: Math.max(...xs), depth: Math.max(...ys) }}
            laser={laser}
            heardMm={heardMm}
            auto={auto}
            onAuto={setAuto}
            left={left}
            problem={problem}
            datumName={t(isFall ? 'survey.onRim' : 'survey.onMark')}
            onType={() => setProblem(null)}
            onKeep={(valueMm, typed) => void keep(valueMm, typed, 'rod')}
          />
        )}
      </aside>
    </main>
  );
}

/** A level survey of the floor: shots, and what they say of falls, ponds and flatness. */
export function SurveyScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const [asked] = useSearchParams();
  const shower = useStore((s) => s.showers.get(id));
  const stage = asked.get('stage') ?? 'base';
  const survey = useMemo(() => (shower?.state.geometry ? surveyOf(shower.state, stage) : null), [shower?.state, stage]);
  useKeepAwake();
  if (!shower?.state.geometry || !survey) return <Missing />;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ToolHeader
        back={`/showers/${id}?stage=${stage}`}
        title={t(`survey.title.${survey.check.measures.of}`, { name: shower.state.created?.body.name })}
      />
      <SurveyOf key={`${id} ${stage}`} shower={shower} survey={survey} stage={stage} />
    </div>
  );
}
