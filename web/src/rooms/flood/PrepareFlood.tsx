import { leastFillMm } from '@careful-seam/core/checks/floodNeeds';
import { lowestCurbMm } from '@careful-seam/core/checks/waterProof';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import { showLength } from '@careful-seam/core/units/length';
import { type FloodPlanInput, USUAL_CLIMATE } from '@careful-seam/core/water/floodPlan';
import { smallLength } from '@careful-seam/words/sentences/floodSentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type LocalShower, newId, useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { LengthField } from '../../ui/LengthField';
import { usePreferences } from '../../ui/preferences';
import { FloodFigures, waterLineProblem } from './FloodFigures';
import { useFloodPlan } from './floodWork';
import { type Looked, lookBodies, MoistureKeys } from './MoistureKeys';
import { WaterBand } from './WaterBand';

/** Steps in which each gauge reads, mm. */
const STEPS = {
  marks: [25.4 / 32, 25.4 / 16, 1],
  logger: [0.05, 0.1, 0.5, 1],
} as const;

/** A step of a gauge as it is printed on it: binary inches for tapes, millimetres for the rest. */
const stepWords = (mm: number): string => (Number.isInteger(mm * 100) ? `${mm} mm` : showLength(mm, 'in', 32));

/** What a test of this length and gauge can show, before it begins. */
function PlanWords({
  plan,
  smallest,
  onHours,
}: {
  plan: ReturnType<typeof useFloodPlan>;
  smallest: number | null;
  /** Told of the hours that it takes. */
  onHours: (hours: number) => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const found = plan.value;
  if (!found) return <p className="text-soft">{plan.problem ?? t('flood.computing')}</p>;
  if (smallest === null)
    return (
      <p data-testid="flood-plan" className="border-hold border-l-4 pl-2 text-hold">
        {t('flood.reason.smallest-leak-not-set')}
      </p>
    );
  if (found.halfWidthMmPerDay === null)
    return (
      <p data-testid="flood-plan" className="border-hold border-l-4 pl-2 text-hold">
        {t('flood.planBlind')}
      </p>
    );
  const words = t(`flood.plan.${found.verdict}`, {
    half: smallLength(found.halfWidthMmPerDay, unit),
    smallest: smallLength(smallest, unit),
  });
  const { hoursNeeded } = found;
  if (found.verdict === 'can-pass')
    return (
      <p data-testid="flood-plan" className="border-ink border-l-4 pl-2">
        {words}
      </p>
    );
  return (
    <div className="flex items-center gap-2 border-cure border-l-4 pl-2 font-semibold">
      <p data-testid="flood-plan" className="flex-1">
        {words} {hoursNeeded === null ? t('flood.planNever') : t('flood.planHours', { hours: hoursNeeded })}
      </p>
      {hoursNeeded !== null && (
        <button type="button" className="key flex-none" onClick={() => onHours(hoursNeeded)}>
          {t('flood.planTake', { hours: hoursNeeded })}
        </button>
      )}
    </div>
  );
}

/** A flood test before its water is in: the line, how it is measured, what is prepared and looked at, and its start. */
function useBeginning(shower: LocalShower, check: FloodCheck) {
  const writeAll = useStore((s) => s.writeAll);
  const model = shower.state.geometry!.model;
  const curb = lowestCurbMm(model);
  const [levelMm, setLevel] = useState(
    Math.min(
      Math.max(check.fillOverDrainMm, leastFillMm(model, check)),
      curb === null ? Infinity : curb - check.belowCurbMm,
    ),
  );
  const [prepared, setPrepared] = useState<string[]>([]);
  const [looked, setLooked] = useState<Looked>({});
  // A plan begins as one that a tight shower can pass: two marks on a tape can't tell the leak that is looked for from none in a day.
  const [method, setMethod] = useState<'marks' | 'logger'>('logger');
  const [stepMm, setStep] = useState<number>(STEPS.logger[1]);
  const [withPan, setPan] = useState(true);
  const [plannedHours, setHours] = useState(check.plannedHours);
  const plan: FloodPlanInput = {
    method,
    plannedHours,
    resolutionMm: stepMm,
    panResolutionMm: withPan ? stepMm : null,
    climate: withPan ? null : USUAL_CLIMATE,
    smallestLeakMmPerDay: check.smallestLeakMmPerDay,
  };
  const found = useFloodPlan(plan);
  const problem = waterLineProblem(model, check, levelMm);
  const left =
    check.preparation.filter((p) => !prepared.includes(p.id)).length +
    check.places.filter((p) => looked[p.id] === undefined).length;
  const start = async () => {
    await writeAll(shower.id, [
      {
        kind: 'flood-started',
        id: newId(),
        body: {
          waterLineMm: levelMm,
          plannedHours,
          method,
          resolutionMm: stepMm,
          panResolutionMm: withPan ? stepMm : null,
          smallestLeakMmPerDay: check.smallestLeakMmPerDay,
          prepared,
        },
      },
      ...lookBodies(looked, 'start', ''),
    ]);
  };
  return {
    levelMm,
    setLevel,
    prepared,
    setPrepared,
    looked,
    setLooked,
    method,
    setMethod,
    stepMm,
    setStep,
    withPan,
    setPan,
    plannedHours,
    setHours,
    found,
    problem,
    left,
    start,
  };
}
/** What is chosen for the test. */
type Beginning = ReturnType<typeof useBeginning>;

/** The water line, and what measures it. */
function Measuring({ beginning }: { beginning: Beginning }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { levelMm, setLevel, problem, method, setMethod, stepMm, setStep, withPan, setPan } = beginning;
  return (
    <>
      <LengthField
        label={t('flood.line')}
        unit={unit}
        mm={levelMm}
        most={2000}
        onMm={setLevel}
        step={unit === 'in' ? 25.4 / 8 : 2}
      />
      {problem && (
        <p role="alert" className="border-hold border-l-4 pl-2 font-semibold text-hold">
          {t(problem.above ? 'flood.aboveCurb' : 'flood.nearCurb', { most: showLength(problem.mostMm, unit) })}
        </p>
      )}
      <Choice
        label={t('flood.method')}
        value={method}
        options={(['marks', 'logger'] as const).map((key) => ({ key, label: t(`flood.methods.${key}`) }))}
        onChoose={(key) => {
          setMethod(key);
          setStep(STEPS[key][1]);
        }}
      />
      <Choice
        label={t('flood.step')}
        value={stepMm}
        options={STEPS[method].map((key) => ({ key, label: stepWords(key) }))}
        onChoose={setStep}
      />
      <Choice
        label={t('flood.pan')}
        value={withPan ? 'yes' : 'no'}
        options={[
          { key: 'yes', label: t('flood.panYes') },
          { key: 'no', label: t('flood.panNo') },
        ]}
        onChoose={(key) => setPan(key === 'yes')}
      />
    </>
  );
}

/** One thing that is done before the water, with why. */
function Prepared({ step, beginning }: { step: FloodCheck['preparation'][number]; beginning: Beginning }) {
  const { prepared, setPrepared } = beginning;
  const on = prepared.includes(step.id);
  return (
    <li>
      <label className="flex min-h-12 cursor-pointer items-center gap-3 border border-edge px-2 py-1">
        <input
          type="checkbox"
          className="h-6 w-6 flex-none accent-[var(--ink)]"
          checked={on}
          onChange={() => setPrepared(on ? prepared.filter((x) => x !== step.id) : [...prepared, step.id])}
        />
        <span className="leading-tight">
          <span className="font-semibold">{step.label}</span>
          <span className="block text-soft text-sm">{step.why}</span>
        </span>
      </label>
    </li>
  );
}

/** Before the water: what must be prepared, the water line, and what the plan can tell before anybody carries a bucket. */
export function PrepareFlood({
  shower,
  check,
  early,
}: {
  shower: LocalShower;
  check: FloodCheck;
  early: string | null;
}) {
  const { t } = useTranslation();
  const model = shower.state.geometry!.model;
  const beginning = useBeginning(shower, check);
  const { levelMm, setLevel, looked, setLooked, plannedHours, setHours, found, problem, left, start } = beginning;
  return (
    <div className="grid h-full min-h-0 grid-cols-[1fr_400px] max-lg:h-auto max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2 p-4">
        <h2 className="font-bold text-lg">{t('flood.lineTitle')}</h2>
        <div className="h-60 flex-none">
          <WaterBand model={model} levelMm={levelMm} provedBelowMm={null} onLevel={setLevel} />
        </div>
        <div className="grid grid-cols-2 gap-4 max-sm:grid-cols-1">
          <div className="flex flex-col gap-2">
            <Measuring beginning={beginning} />
          </div>
          <div className="flex flex-col gap-2">
            <FloodFigures model={model} check={check} levelMm={levelMm} />
          </div>
        </div>
      </div>
      <div className="flex min-h-0 flex-col gap-2 border-edge border-l p-4 max-lg:border-l-0">
        {early && <p className="border-hold border-l-4 pl-2 font-semibold text-hold">{early}</p>}
        <div className="flex items-center gap-2">
          <h2 className="flex-1 font-bold text-lg">{t('flood.prepareTitle')}</h2>
          {check.preparation.length > 1 && (
            <button
              type="button"
              className="key px-2 text-sm"
              disabled={check.preparation.every((p) => beginning.prepared.includes(p.id))}
              onClick={() => beginning.setPrepared(check.preparation.map((p) => p.id))}
            >
              {t('flood.allPrepared')}
            </button>
          )}
        </div>
        <ul className="flex flex-col gap-1.5 overflow-y-auto">
          {check.preparation.map((p) => (
            <Prepared key={p.id} step={p} beginning={beginning} />
          ))}
          <li className="flex flex-col gap-1 pt-1">
            <span className="font-semibold">{t('flood.beforeWater')}</span>
            <MoistureKeys check={check} looked={looked} onLooked={setLooked} />
          </li>
        </ul>
        <Choice
          label={t('flood.hours')}
          value={plannedHours}
          options={[...new Set([check.plannedHours, 24, 48, 72, plannedHours])].map((key) => ({
            key,
            label: `${key} h`,
          }))}
          onChoose={setHours}
        />
        <PlanWords plan={found} smallest={check.smallestLeakMmPerDay} onHours={setHours} />
        <button
          type="button"
          className="key key-main mt-auto text-lg"
          disabled={left > 0 || problem !== null}
          onClick={() => void start()}
        >
          {left > 0 ? t('flood.startLeft', { count: left }) : t('flood.start')}
        </button>
      </div>
    </div>
  );
}
