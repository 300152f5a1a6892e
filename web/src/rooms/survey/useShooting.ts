import { placeOf } from '@careful-seam/core/checks/place';
import { usableShots } from '@careful-seam/core/floor/survey/shots';
import { nextPlace } from '@careful-seam/core/floor/survey/surveyPlan';
import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { readShotsCsv } from '@careful-seam/files/shotsCsv';
import { useEffect, useRef, useState } from 'react';
import { type LocalShower, useParts } from '../../tablet/store';
import { problemWords } from '../../ui/words';
import type { ShotMode, Target } from './ShotPad';
import type { Survey } from './surveyOf';
import type { FloorJudged } from './useFloorJudged';
import { useLaser } from './useLaser';

/** Shots closer than this are one place, mm. */
const SAME_PLACE_MM = 60;

/** Taking shots: the place that is next, the rod's or the typed figure, the laser, and a file of them. */
export function useShooting(
  shower: LocalShower,
  { check, shots, datumMm, requirement }: Survey,
  stage: string,
  { floor, plan }: Pick<FloorJudged, 'floor' | 'plan'>,
) {
  const { writeAll, write } = useParts('writeAll', 'write');
  const { state } = shower;
  const [mode, setMode] = useState<ShotMode>('rod');
  const [chosenPlace, setPlace] = useState<PlanPoint | null>(null);
  const [auto, setAuto] = useState(false);
  const [heardMm, setHeard] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const place = chosenPlace ?? nextPlace(plan, shots);
  const target: Target =
    mode === 'rod' && datumMm === null ? { kind: 'datum' } : place ? { kind: 'place', place } : null;
  const left = plan.filter((p) => !shots.some((s) => Math.hypot(s.xMm - p.xMm, s.yMm - p.yMm) <= SAME_PLACE_MM)).length;

  const keep = async (valueMm: number, typed: string, instrument: string) => {
    setHeard(null);
    if (target === null) return;
    const body = { stage, check: check.id, atMm: 0, valueMm: Math.abs(valueMm), typed: typed.slice(0, 40), instrument };
    if (target.kind === 'datum') {
      const shot = { ...floor.drain, zMm: 0, uncertaintyMm: check.uncertaintyMm };
      const drain = { element: state.geometry!.model.drain.id };
      await write(shower.id, 'reading', { ...body, place: drain, shot });
      return;
    }
    const zMm = mode === 'rod' ? datumMm! - valueMm : valueMm;
    const { xMm, yMm } = target.place;
    const others = shots.filter((s) => Math.hypot(s.xMm - xMm, s.yMm - yMm) > SAME_PLACE_MM / 2);
    const usable = usableShots(floor, [...others, { xMm, yMm, zMm }]);
    if (!usable.ok && usable.problem.field === `shots.${others.length}`)
      return setProblem(problemWords(usable.problem));
    setProblem(null);
    setPlace(null);
    const shot = { xMm, yMm, zMm, uncertaintyMm: check.uncertaintyMm };
    await write(shower.id, 'reading', { ...body, place: placeOf(state, requirement.element), shot });
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
    const body = { stage, check: check.id, atMm: 0, instrument: 'file', place: placeOf(state, requirement.element) };
    await writeAll(
      shower.id,
      usable.value.map((s) => ({
        kind: 'reading' as const,
        body: {
          ...body,
          valueMm: Math.abs(s.zMm),
          typed: `${s.zMm} mm`,
          shot: { ...s, uncertaintyMm: check.uncertaintyMm },
        },
      })),
    );
  };
  const clear = () => setProblem(null);
  return { mode, setMode, setPlace, auto, setAuto, heardMm, problem, clear, target, left, keep, laser, rod, readCsv };
}
