import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import { lengthLimit } from '@careful-seam/core/rules/checks/check';
import { isThinnestBed } from '@careful-seam/core/rules/tools';
import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { type ReactNode, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useParts, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { usePreferences } from '../../ui/preferences';
import { BedLine } from './BedLine';
import { FloorPlan } from './FloorPlan';
import { ShotCard } from './ShotCard';
import { ShotPad } from './ShotPad';
import { SurveySays } from './SurveySays';
import { SurveyTools } from './SurveyTools';
import { type Survey, surveyOf } from './surveyOf';
import { useFloorJudged } from './useFloorJudged';
import { useShooting } from './useShooting';

/** What a bed of mortar must have at its thinnest, as the stage's own checks say; null where the base is no mortar. */
function leastBedMm(state: ShowerState, stage: string): number | null {
  const found = state.requirements.find((r) => r.stage.key === stage && isThinnestBed(r.check));
  return (found && lengthLimit(found.check).atLeastMm) ?? null;
}

/** The bed under the drain's rim as it is typed, and whether it is thick enough where a shot stands so far over the rim, mm. */
function useBed(state: ShowerState, stage: string) {
  const { unit } = usePreferences();
  const [text, setText] = useState('');
  const leastMm = leastBedMm(state, stage);
  const rim = leastMm === null || text.trim() === '' ? null : parseLength(text, unit);
  const rimMm = rim?.ok ? rim.value.mm : null;
  const tooThin = (mm: number) => rimMm !== null && leastMm !== null && mm + rimMm < leastMm - 1e-6;
  const label = (mm: number) => showLength(mm + (rimMm ?? 0), unit, 32).replace(/ (in|mm)$/, '');
  return { leastMm, text, setText, tooThin, label };
}

/** How far a floor reaches from its two walls, mm. */
const sizeOf = (footprint: readonly PlanPoint[]) => ({
  width: Math.max(...footprint.map((p) => p.xMm)),
  depth: Math.max(...footprint.map((p) => p.yMm)),
});

/** What is said grows and shrinks as it is worked out; the keys below it stay where the finger is. */
function SaysPlace({ children }: { children: ReactNode }) {
  const { t } = useTranslation();
  return (
    <section
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what is longer than its place has to be scrolled with the keyboard too
      tabIndex={0}
      aria-label={t('survey.says')}
      className="flex min-h-40 flex-1 flex-col gap-3 overflow-y-auto max-lg:min-h-0 max-lg:flex-none max-lg:overflow-visible"
    >
      {children}
    </section>
  );
}

/** The survey of one stage: plan, pad and what it says. */
function SurveyOf({ shower, survey, stage }: { shower: LocalShower; survey: Survey; stage: string }) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const { state } = shower;
  const { shots } = survey;
  const [chosen, setChosen] = useState<number | null>(null);
  const [tried, setTried] = useState<Record<string, number>>({});
  const [moving, setMoving] = useState(() => !window.matchMedia('(prefers-reduced-motion: reduce)').matches);
  const floor = useFloorJudged(state.geometry!.model, survey, tried);
  const shooting = useShooting(shower, survey, stage, floor);
  const mayShoot = mayWrite(person!.role, 'reading');
  const { judged, isFall } = floor;
  const bed = useBed(state, stage);
  const here = chosen === null ? null : (shots[chosen] ?? null);
  const shootAt = (place: PlanPoint) => {
    shooting.setPlace(place);
    setChosen(null);
  };
  return (
    <main className="bench grid min-h-0 grid-cols-[1fr_432px] max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2 p-3">
        <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
          <FloorPlan
            floor={floor.floor}
            shots={floor.asIf}
            judged={judged}
            gap={floor.flat?.ok ? floor.flat.value.gap : null}
            flow={floor.flow}
            moving={moving}
            next={shooting.target === null ? null : shooting.rod}
            doubt={floor.doubt?.at ?? null}
            chosen={chosen}
            raised={new Set(shots.flatMap((s, i) => (tried[s.entry] ? [i] : [])))}
            label={bed.label}
            tooThin={bed.tooThin}
            onShot={setChosen}
            onPlace={shootAt}
          />
        </div>
        <SurveyTools
          showerId={shower.id}
          shots={shots}
          isFall={isFall}
          chosen={chosen}
          onChoose={setChosen}
          moving={moving}
          onMoving={setMoving}
          onFile={mayShoot ? (file) => void shooting.readCsv(file) : null}
        />
      </div>
      <aside
        className="flex min-h-0 flex-col gap-3 overflow-y-auto border-edge border-l p-3 max-lg:border-l-0"
        aria-label={t('survey.shoot')}
      >
        <SaysPlace>
          <SurveySays floor={floor} survey={survey} onShot={setChosen} onBack={() => setTried({})}>
            {judged && bed.leastMm !== null && (
              <BedLine judged={judged} leastMm={bed.leastMm} text={bed.text} onType={bed.setText} />
            )}
          </SurveySays>
        </SaysPlace>
        {here && (
          <ShotCard
            shot={here}
            number={chosen! + 1}
            triedMm={tried[here.entry] ?? 0}
            mayWrite={mayShoot}
            onTry={(mm) => setTried({ ...tried, [here.entry]: Math.abs(mm) < 1e-6 ? 0 : mm })}
            onAgain={() => shootAt({ xMm: here.xMm, yMm: here.yMm })}
            onOut={() => {
              void write(shower.id, 'correction', { target: here.entry, action: 'withdraw' });
              setChosen(null);
            }}
            onClose={() => setChosen(null)}
          />
        )}
        {mayShoot && (
          <ShotPad
            mode={shooting.mode}
            onMode={shooting.setMode}
            target={shooting.target}
            onPlace={shooting.setPlace}
            floorMm={sizeOf(floor.floor.footprint)}
            laser={shooting.laser}
            heardMm={shooting.heardMm}
            auto={shooting.auto}
            onAuto={shooting.setAuto}
            left={shooting.left}
            problem={shooting.problem}
            datumName={t(isFall ? 'survey.onRim' : 'survey.onMark')}
            onType={shooting.clear}
            onKeep={(valueMm, typed) => void shooting.keep(valueMm, typed, 'rod')}
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
