import type { Outcome } from '@careful-seam/core/outcome/outcome';
import type { FloodPlan, FloodPlanInput } from '@careful-seam/core/water/floodPlan';
import type { FloodVerdict } from '@careful-seam/core/water/floodVerdict';
import type { FloodVerdictInput } from '@careful-seam/core/water/floodVerdictInput';
import { type Remote, wrap } from 'comlink';
import { useEffect, useState } from 'react';
import { problemWords } from '../../ui/words';
import type { FloodWork } from './flood.worker';

let started: Remote<FloodWork> | null = null;

/** The worker that computes floods; started when it is first asked. */
export function floodWork(): Remote<FloodWork> {
  started ??= wrap<FloodWork>(new Worker(new URL('./flood.worker.ts', import.meta.url), { type: 'module' }));
  return started;
}

export interface Computed<T> {
  value: T | null;
  problem: string | null;
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

const askVerdict = async (input: FloodVerdictInput): Promise<Outcome<FloodVerdict>> => floodWork().floodVerdict(input);
const askPlan = async (input: FloodPlanInput): Promise<Outcome<FloodPlan>> => floodWork().floodPlan(input);

export const useFloodVerdict = (input: FloodVerdictInput | null): Computed<FloodVerdict> =>
  useComputed(input, askVerdict);
export const useFloodPlan = (input: FloodPlanInput | null): Computed<FloodPlan> => useComputed(input, askPlan);
