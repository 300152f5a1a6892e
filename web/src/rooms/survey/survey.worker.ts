import { judgeFloorFall, surveyLimits } from '@careful-seam/core/checks/survey';
import { type Certainty, surveyCertainty } from '@careful-seam/core/floor/survey/judgeSurvey';
import type { Shot } from '@careful-seam/core/floor/survey/shots';
import type { SurveyCheck } from '@careful-seam/core/rules/checks/survey';
import type { ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { expose } from 'comlink';

/** Guesses at the true heights, off the interface's thread; `onProgress` may stop them. */
const work = {
  async certainty(
    geometry: ShowerGeometry,
    check: SurveyCheck,
    shots: Shot[],
    seed: number,
    runs: number,
    onProgress: (done: number) => Promise<boolean>,
  ): Promise<Certainty | null> {
    const model = showerModel(geometry);
    const judged = model.ok ? judgeFloorFall(model.value, check, shots) : null;
    const limits = surveyLimits(check);
    if (!judged?.ok || !limits) return null;
    const total: Certainty = { runs: 0, probabilityBelow: 0, probabilityPond: 0, probabilityEither: 0 };
    // In pieces, so that the page can stop it between two of them.
    for (let piece = 0; total.runs < runs; piece += 1) {
      const count = Math.min(100, runs - total.runs);
      const part = surveyCertainty(judged.value, 0, limits, { seed: seed + piece, runs: count });
      for (const key of ['probabilityBelow', 'probabilityPond', 'probabilityEither'] as const)
        total[key] = (total[key] * total.runs + part[key] * part.runs) / (total.runs + part.runs);
      total.runs += part.runs;
      if (!(await onProgress(total.runs))) break;
    }
    return total;
  },
};
/** What this worker can be asked. */
export type SurveyWork = typeof work;

expose(work);
