import type { Certainty } from '@careful-seam/core/floor/survey/judgeSurvey';
import type { Shot } from '@careful-seam/core/floor/survey/shots';
import type { SurveyCheck } from '@careful-seam/core/rules/checks/survey';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { proxy, type Remote, wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { SurveyWork } from './survey.worker';

/** How often the shots are drawn anew within their uncertainty. */
const RUNS = 2000;
/** The same draws each time, so that a figure does not flicker. */
const SEED = 20_261;
/** The worker, once somebody asked for it. */
let started: Remote<SurveyWork> | null = null;

/** The worker that guesses at true heights; started when it is first asked. */
function surveyWork(): Remote<SurveyWork> {
  started ??= wrap<SurveyWork>(new Worker(new URL('./survey.worker.ts', import.meta.url), { type: 'module' }));
  return started;
}

/** How sure the verdict is, while it is tried. */
export interface CertaintyRun {
  /** As far as it has come; null before the first. */
  value: Certainty | null;
  /** Draws so far. */
  done: number;
  /** Draws in all. */
  of: number;
  /** It is still being worked out. */
  busy: boolean;
  /** Stops it; what was drawn stays. */
  cancel: () => void;
}

/** How sure a survey is, worked out beside the page; starts anew with other shots, and stops when it is told. */
export function useCertainty(
  model: ShowerModel,
  check: SurveyCheck,
  shots: readonly Shot[],
  wanted: boolean,
): CertaintyRun {
  const [found, setFound] = useState<{ value: Certainty | null; done: number; busy: boolean }>({
    value: null,
    done: 0,
    busy: false,
  });
  const stop = useRef(() => {});
  const key = JSON.stringify(shots.map((s) => [s.xMm, s.yMm, s.zMm]));
  useEffect(() => {
    if (!wanted) return setFound({ value: null, done: 0, busy: false });
    let going = true;
    stop.current = () => {
      going = false;
    };
    setFound((f) => ({ ...f, done: 0, busy: true }));
    const progress = proxy(async (done: number) => {
      if (going) setFound((f) => ({ ...f, done }));
      return going;
    });
    const plain = (JSON.parse(key) as [number, number, number][]).map(([xMm, yMm, zMm]) => ({ xMm, yMm, zMm }));
    void surveyWork()
      .certainty(model.geometry, check, plain, SEED, RUNS, progress)
      .then((value) => setFound({ value, done: value?.runs ?? 0, busy: false }));
    return () => {
      going = false;
    };
  }, [key, model, check, wanted]);
  return { ...found, of: RUNS, cancel: () => stop.current() };
}
