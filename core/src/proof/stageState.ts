import type { ShowerState, StageState } from './state';

/** The stage's state, made on first mention. */
export function stageOf(state: ShowerState, key: string): StageState {
  let stage = state.stages.get(key);
  if (!stage) {
    stage = { word: 'open', begun: false, work: [], release: null };
    state.stages.set(key, stage);
  }
  return stage;
}

/** Something was done or seen on the stage: from open it becomes held. */
export function begin(state: ShowerState, key: string): StageState {
  const stage = stageOf(state, key);
  stage.begun = true;
  if (stage.word === 'open') stage.word = 'held';
  return stage;
}
