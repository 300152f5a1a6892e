import { judgeFloorFall, judgeFloorFlat, surveyedFloor, surveyLimits } from '@careful-seam/core/checks/survey';
import { flowLines } from '@careful-seam/core/floor/ponding/flow';
import { whereNext } from '@careful-seam/core/floor/survey/judgeSurvey';
import { surveyPlan } from '@careful-seam/core/floor/survey/surveyPlan';
import { wildShots } from '@careful-seam/core/floor/survey/wildShots';
import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { signedAreaMm2 } from '@careful-seam/core/shower/geometry/polygon';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { useMemo } from 'react';
import type { Survey } from './surveyOf';
import { useCertainty } from './useCertainty';

/** Between two drops whose way is drawn, mm. */
const FLOW_EVERY_MM = 170;

/** Places all over the floor that water is let run from. */
function rainOn(footprint: readonly PlanPoint[]): PlanPoint[] {
  const span = Math.sqrt(Math.abs(signedAreaMm2(footprint)));
  return surveyPlan({ footprint, drain: { xMm: -1e6, yMm: -1e6 }, drainRimMm: 0 }, Math.max(FLOW_EVERY_MM, span / 8));
}

/** A floor as its shots say it is, with those that are tried raised by so many mm (by their entry). */
export function useFloorJudged(model: ShowerModel, { check, shots }: Survey, tried: Readonly<Record<string, number>>) {
  const isFall = check.measures.of === 'fall';
  const { floor, openEdges } = useMemo(() => surveyedFloor(model, isFall), [model, isFall]);
  const plan = useMemo(() => surveyPlan(floor, check.spacingMm), [floor, check]);
  const asIf = useMemo(() => shots.map((s) => ({ ...s, zMm: s.zMm + (tried[s.entry] ?? 0) })), [shots, tried]);
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
  const trying = shots.filter((s) => (tried[s.entry] ?? 0) !== 0).length;
  return {
    isFall,
    floor,
    openEdges,
    plan,
    asIf,
    fall,
    flat,
    judged,
    certainty,
    doubt,
    flow,
    trying,
    wild: wildShots(shots)[0],
  };
}
/** What the shots come to, with the ways of water. */
export type FloorJudged = ReturnType<typeof useFloorJudged>;
