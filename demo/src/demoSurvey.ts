import { askedOfKind } from '@careful-seam/core/checks/asked';
import { surveyedFloor } from '@careful-seam/core/checks/survey';
import { surveyPlan } from '@careful-seam/core/floor/survey/surveyPlan';
import { birdbathFloor, laserReceiver } from '@careful-seam/instruments/laserReceiver';
import { type DemoWriter, placeOf } from './writer';

/** A level survey by the simulated laser of a base with a birdbath: rim first, then place after place of the plan. */
export function shootBirdbath(w: DemoWriter): void {
  const { geometry, requirements } = w.state();
  const asked = askedOfKind(requirements, 'survey').find((r) => r.stage.key === 'base');
  if (!asked || !geometry) throw new Error('the demo’s base has no survey');
  const { check } = asked;
  const { floor } = surveyedFloor(geometry.model, true);
  const laser = laserReceiver(birdbathFloor, { seed: 7 });
  const shoot = (xMm: number, yMm: number, element: string, datumMm: number | null): number => {
    const rodMm = laser.read(xMm, yMm);
    w.write('inspector', 'reading', {
      stage: 'base',
      check: check.id,
      place: placeOf(w.state(), element),
      atMm: 0,
      valueMm: rodMm,
      typed: `${rodMm} mm`,
      instrument: 'laser',
      shot: { xMm, yMm, zMm: datumMm === null ? 0 : datumMm - rodMm, uncertaintyMm: check.uncertaintyMm },
    });
    return rodMm;
  };
  const rimMm = shoot(floor.drain.xMm, floor.drain.yMm, geometry.model.drain.id, null);
  for (const p of surveyPlan(floor, check.spacingMm)) shoot(p.xMm, p.yMm, asked.element, rimMm);
}
