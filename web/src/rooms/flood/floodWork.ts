import type { Outcome } from '@careful-seam/core/outcome/outcome';
import type { FloodPlan, FloodPlanInput } from '@careful-seam/core/water/floodPlan';
import type { FloodVerdict } from '@careful-seam/core/water/floodVerdict';
import type { FloodVerdictInput } from '@careful-seam/core/water/floodVerdictInput';
import { type Remote, wrap } from 'comlink';
import { useEffect, useState } from 'react';
import { problemWords } from '../../ui/words';
import type { FloodWork } from './flood.worker';

/** The worker, once somebody asked for it. */
let started: Remote<FloodWork> | null = null;

/** The worker that computes floods; started when it is first asked. */
export function floodWork(): Remote<FloodWork> {
  started ??= wrap<FloodWork>(new Worker(new URL('./flood.worker.ts', import.meta.url), { type: 'module' }));
  return started;
}

/** What a sum beside the screen has come to so far. */
export interface Computed<T> {
  /** The last one that was worked out; null before the first. */
  value: T | null;
  /** What is wrong, as a sentence; null where nothing is. */
  problem: string | null;
  /** It is still being worked out. */
  busy: boolean;
}

/** Computes away from the interface whenever the input changes by value; the last answer stays in view meanwhile. */
function useComputed<I, T>(input: I | null, compute: (input: I) => Promise<Outcome<T>>): Computed<T> {
  const key = input === null ? '' : JSON.stringify(input);
  const [found, setFound] = useState<Computed<T>>({ value: null, problem: null, busy: input !== null });
  useEffect(() => {
    if (key === '') return setFound({ value: null, problem: null, busy: false });
    let current = true;
    setFound((f) => ({ ...f, busy: true }));
    void compute(JSON.parse(key) as I).then((outcome) => {
      if (!current) return;
      setFound(
        outcome.ok
          ? { value: outcome.value, problem: null, busy: false }
          : { value: null, problem: problemWords(outcome.problem), busy: false },
      );
    });
    return () => {
      current = false;
    };
  }, [key, compute]);
  return found;
}

/** A verdict, worked out beside the screen. */
const askVerdict = async (input: FloodVerdictInput): Promise<Outcome<FloodVerdict>> => floodWork().floodVerdict(input);
/** What a plan can show, worked out beside the screen. */
const askPlan = async (input: FloodPlanInput): Promise<Outcome<FloodPlan>> => floodWork().floodPlan(input);

/** The verdict on what was read, kept up with the readings. */
export const useFloodVerdict = (input: FloodVerdictInput | null): Computed<FloodVerdict> =>
  useComputed(input, askVerdict);
/** What a plan can show, kept up with what is chosen. */
export const useFloodPlan = (input: FloodPlanInput | null): Computed<FloodPlan> => useComputed(input, askPlan);
