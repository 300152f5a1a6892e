import type { Because } from '../../log/judgement';
import type { ShowerState, StageState } from '../../log/state';

/** The stage's state, made on first mention. */
export function stageOf(state: ShowerState, key: string): StageState {
  let stage = state.stages.get(key);
  if (!stage) {
    stage = { word: 'open', begun: false, work: [], release: null, touched: null, because: null, beside: [] };
    state.stages.set(key, stage);
  }
  return stage;
}

/** Something was done or seen on the stage: from open it becomes held. */
export function beginStage(state: ShowerState, key: string): StageState {
  const stage = stageOf(state, key);
  stage.begun = true;
  if (stage.word === 'open') stage.word = 'held';
  return stage;
}

/** Takes a stage's release back: what it rested on is gone, and somebody has to release it anew. Nothing when none stands. */
export function takeReleaseBack(state: ShowerState, key: string, cause: Because['cause'], entry: string): void {
  const stage = state.stages.get(key);
  if (!stage?.begun) return;
  if (stage.release) stage.because = { cause, entry, blockers: [] };
  stage.release = null;
  stage.touched = null;
  stage.word = 'held';
}
