import { plannedEndMs, verdictInput } from '@careful-seam/core/checks/floodReadings';
import { judgeStage } from '@careful-seam/core/checks/judge';
import { waitingUntilMs } from '@careful-seam/core/checks/judges';
import { FLOOD_MARGIN_MM } from '@careful-seam/core/checks/waterProof';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import type { FloodVerdict } from '@careful-seam/core/water/floodVerdict';
import {
  airWords,
  floodAdvice,
  floodCondition,
  floodSentence,
  shortfallSentences,
} from '@careful-seam/words/sentences/floodSentences';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { type ReactNode, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { usePreferences } from '../../ui/preferences';
import { words } from '../../ui/words';
import { FloodChart } from './FloodChart';
import { FloodFacts } from './FloodFacts';
import { FloodLog } from './FloodLog';
import { FloodSheets, type SheetName } from './FloodSheets';
import { useFloodVerdict } from './floodWork';
import { PrepareFlood } from './PrepareFlood';
import { ProvedList } from './ProvedList';
import { WaterBand } from './WaterBand';

/** A sentence when the wait before the water is not over, or the stage below not released; null when all is ready. */
function useEarly(state: ShowerState, stageOrder: number): string | null {
  const { t } = useTranslation();
  const below = state.rules!.method.stages.filter((s) => s.order < stageOrder && s.checks.length > 0 && s.holdPoint);
  const readyAtMs = waitingUntilMs(below.flatMap((s) => judgeStage(state, s.key)));
  if (readyAtMs !== null) return t('flood.early', { at: momentWords(readyAtMs, state.created?.body.timeZone) });
  const held = below.filter((s) => state.stages.get(s.key)?.word !== 'released');
  return held.length > 0 ? t('flood.notReleased', { stages: held.map((s) => s.label).join(', ') }) : null;
}

/** The verdict large, then what it rests on and what would bring a decision. */
function VerdictWords({
  shower,
  test,
  check,
  verdict,
  zone,
  problem,
  busy,
  word,
}: {
  shower: LocalShower;
  test: FloodTest;
  check: FloodCheck;
  verdict: FloodVerdict | null;
  zone: string;
  problem: string | null;
  busy: boolean;
  word: 'pass' | 'fail' | 'undecided' | 'aborted' | null;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  if (!verdict) return <p className="text-soft">{problem ?? t(busy ? 'flood.computing' : 'flood.noReading')}</p>;
  const shown = word ?? verdict.verdict;
  return (
    <div
      className={`border-l-4 pl-3 ${shown === 'pass' ? 'border-water' : shown === 'fail' ? 'border-hold' : 'border-cure'}`}
      aria-live="polite"
      data-testid="flood-verdict"
    >
      <p className={`font-bold text-xl ${shown === 'fail' ? 'text-hold' : ''}`}>{t(`flood.verdict.${shown}`)}</p>
      <p className="text-lg leading-snug">
        {floodSentence(t, { model: shower.state.geometry!.model, test, check, verdict, unit, zone })}
      </p>
      <p className="text-soft text-sm">
        {airWords(t, verdict, unit)} {floodCondition(t, verdict)}
      </p>
      {shown === 'undecided' &&
        floodAdvice(t, verdict).map((line) => (
          <p key={line} className="text-sm">
            {line}
          </p>
        ))}
    </div>
  );
}

/** The keys of a test that runs: read, file, event, temperatures, look, end. */
function RunningKeys({
  test,
  check,
  onSheet,
}: {
  test: FloodTest;
  check: FloodCheck;
  onSheet: (name: SheetName) => void;
}) {
  const { t } = useTranslation();
  const late = Date.now() > plannedEndMs(test) + check.readWithinHours * 3_600_000;
  const key = (name: SheetName, main = false): ReactNode => (
    <button type="button" className={`key px-2 ${main ? 'key-main' : ''}`} onClick={() => onSheet(name)}>
      {t(`flood.keys.${name}`)}
    </button>
  );
  return (
    <div className="grid grid-cols-2 gap-1.5">
      {late && <p className="col-span-2 border-hold border-l-4 pl-2 text-hold text-sm">{t('flood.late')}</p>}
      {key('moisture')}
      {key('climate')}
      {key('event')}
      {key('file', test.method === 'logger')}
      {key('live')}
      {key('read', test.method === 'marks')}
      {key('end')}
    </div>
  );
}

/** The first mark of a test by hand, once the water has settled: one tap for the water and the pan. */
function FirstMark({
  showerId,
  test,
  check,
  zone,
}: {
  showerId: string;
  test: FloodTest;
  check: FloodCheck;
  zone: string;
}) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const fromMs = test.startMs + check.settleHours * 3_600_000;
  const mark = (of: 'water' | 'pan', levelMm: number) => ({
    kind: 'flood-reading' as const,
    body: { levelMm, instrument: 'mark', of, typed: '0' },
  });
  const marks = [mark('water', test.filledToMm), ...(test.panResolutionMm === null ? [] : [mark('pan', 0)])];
  return (
    <>
      <p className="border-cure border-l-4 pl-2">{t('flood.firstMark', { at: momentWords(fromMs, zone) })}</p>
      <button
        type="button"
        className="key key-main"
        disabled={Date.now() < fromMs}
        onClick={() => void writeAll(showerId, marks)}
      >
        {t('flood.marked')}
      </button>
    </>
  );
}

/** A test under way or ended: chart, verdict, water line, what was read, and the keys that go on. */
function FloodTestView({
  shower,
  test,
  check,
  zone,
  mayInspect,
  onAgain,
}: {
  shower: LocalShower;
  test: FloodTest;
  check: FloodCheck;
  zone: string;
  mayInspect: boolean;
  onAgain: () => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [sheet, setSheet] = useState<SheetName | null>(null);
  const model = shower.state.geometry!.model;
  const input = useMemo(() => verdictInput(test, check), [test, check]);
  const found = useFloodVerdict(input);
  const verdict = found.value;
  const asked = verdict?.questions[0] ?? null;
  const askedMs = asked && test.startMs + asked.atHours * 3_600_000;
  const word = test.end?.verdict ?? null;
  const belowMm = test.provedBelowMm ?? test.waterLineMm - FLOOD_MARGIN_MM;
  const close = () => setSheet(null);
  const stageLabel = (key: string) => shower.state.rules!.method.stages.find((s) => s.key === key)?.label ?? key;
  const short = shortfallSentences(t, test.end?.short ?? [], check, stageLabel, unit);
  return (
    <div className="grid h-full min-h-0 grid-cols-[1fr_400px] max-lg:h-auto max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2 p-4">
        <VerdictWords
          shower={shower}
          test={test}
          check={check}
          verdict={verdict}
          zone={zone}
          problem={found.problem}
          busy={found.busy}
          word={word}
        />
        <div className={input && verdict ? 'min-h-0 flex-1 max-lg:h-80 max-lg:flex-none' : 'hidden'}>
          {input && verdict ? (
            <FloodChart
              input={input}
              verdict={verdict}
              words={floodSentence(t, { model, test, check, verdict, unit, zone })}
            />
          ) : null}
        </div>
        <div className={input && verdict ? 'h-36 flex-none' : 'h-36 lg:min-h-0 lg:flex-1'}>
          <WaterBand model={model} levelMm={test.waterLineMm} provedBelowMm={test.provedBelowMm} />
        </div>
      </div>
      <div className="flex min-h-0 flex-col gap-2 border-edge border-l p-4 max-lg:border-l-0">
        <FloodFacts model={model} test={test} zone={zone} />
        {test.end && test.end.verdict !== test.end.stated && (
          <p className="border-hold border-l-4 pl-2 text-hold">
            {t('flood.judgedAnew', { stated: t(`flood.verdict.${test.end.stated}`) })}
          </p>
        )}
        {mayInspect && test.running && test.method === 'marks' && test.levels.length === 0 && (
          <FirstMark showerId={shower.id} test={test} check={check} zone={zone} />
        )}
        {short.map((words) => (
          <p key={words} className="border-hold border-l-4 pl-2 text-hold text-sm">
            {words}
          </p>
        ))}
        <div className="min-h-0 flex-1 overflow-y-auto">
          {!test.running && <ProvedList state={shower.state} belowMm={belowMm} proved={test.provedBelowMm !== null} />}
          <FloodLog showerId={shower.id} test={test} check={check} zone={zone} mayInspect={mayInspect} />
        </div>
        {test.running && (
          <a
            className="key flex items-center justify-center text-sm"
            href={`/api/showers/${shower.id}/flood.ics?lang=${words.language}`}
            download
          >
            {t('flood.calendar')}
          </a>
        )}
        {mayInspect && test.running && <RunningKeys test={test} check={check} onSheet={setSheet} />}
        {mayInspect && !test.running && (
          <div className="grid grid-cols-2 gap-1.5">
            <button type="button" className="key" onClick={() => setSheet('moisture')}>
              {t('flood.keys.moisture')}
            </button>
            <button type="button" className="key" onClick={onAgain}>
              {t('flood.again')}
            </button>
          </div>
        )}
      </div>
      {sheet && (
        <FloodSheets
          shower={shower}
          test={test}
          check={check}
          zone={zone}
          sheet={sheet}
          askedMs={askedMs}
          onClose={close}
        />
      )}
    </div>
  );
}

/** The flood test of a shower: prepared, under way, or ended. */
export function FloodScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  useKeepAwake();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  const [again, setAgain] = useState<string | null>(null);
  const found = shower?.state.rules ? floodCheckOf(shower.state.rules.method) : null;
  if (!shower?.state.geometry || !found || !person) return <Missing />;
  const { state } = shower;
  const zone = state.created?.body.timeZone ?? 'UTC';
  const mayInspect = mayWrite(person.role, 'flood-started');
  const test = state.flood;
  const preparing = test === null || again === test.entry;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ToolHeader
        back={`/showers/${id}`}
        title={t('flood.title', { name: state.created?.body.name })}
        job={state.created?.body.job}
      >
        <Link to={`/showers/${id}/record`} className="key flex items-center">
          {t('shower.record')}
        </Link>
      </ToolHeader>
      <main className="min-h-0">
        {!preparing ? (
          <FloodTestView
            shower={shower}
            test={test}
            check={found.check}
            zone={zone}
            mayInspect={mayInspect}
            onAgain={() => setAgain(test.entry)}
          />
        ) : mayInspect ? (
          <Prepare shower={shower} check={found.check} stageOrder={found.stage.order} />
        ) : (
          <p className="p-6 text-soft">{t('flood.notStarted')}</p>
        )}
      </main>
    </div>
  );
}

/** Before the water: what is prepared, how deep, and what the test can show. */
function Prepare({ shower, check, stageOrder }: { shower: LocalShower; check: FloodCheck; stageOrder: number }) {
  return <PrepareFlood shower={shower} check={check} early={useEarly(shower.state, stageOrder)} />;
}
