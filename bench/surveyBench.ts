import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { judgeSurvey, surveyCertainty } from '@careful-seam/core/floor/survey/judgeSurvey';

const RUNS = 500;
const ROUNDS = 5;
const [CELL_MM, WIDE, HIGH, COLUMNS, ROWS] = [7.5, 200, 120, 9, 6];
const LIMITS = { uncertaintyMm: 0.4 * 1.96, minFall: 0.25 / 12, maxFall: 0.5 / 12, pondMm: 25.4 / 16 };

/** The case that the compiled grid fill has: 54 shots of a cone to a middle drain, one of them 3 mm low. */
function surveyed() {
  const [w, h] = [(WIDE - 1) * CELL_MM, (HIGH - 1) * CELL_MM];
  const drain = { xMm: (WIDE / 2) * CELL_MM, yMm: (HIGH / 2) * CELL_MM };
  const shots = Array.from({ length: COLUMNS * ROWS }, (_, k) => {
    const xMm = ((k % COLUMNS) * w) / (COLUMNS - 1);
    const yMm = (Math.floor(k / COLUMNS) * h) / (ROWS - 1);
    const low = k === COLUMNS + 6 ? 3 : 0;
    return { xMm, yMm, zMm: 0.0208 * Math.hypot(xMm - drain.xMm, yMm - drain.yMm) - low };
  });
  const footprint = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ].map(([xMm, yMm]) => ({ xMm: xMm!, yMm: yMm! }));
  const judged = judgeSurvey({ footprint, drain, drainRimMm: 55 }, 0, shots, LIMITS);
  if (!judged.ok) throw new Error(judged.problem.code);
  return judged.value;
}

export interface SurveyBench {
  mineMs: number;
  theirsMs: number;
  vertices: number;
}

const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;

/** 500 guesses of fall and ponding against the same number of compiled grid fills, in turn; null without a compiler. */
export function surveyBench(): SurveyBench | null {
  if (spawnSync('g++', ['--version']).status !== 0) return null;
  const folder = mkdtempSync(join(tmpdir(), 'survey-bench-'));
  const program = join(folder, 'gridFill');
  try {
    execFileSync('g++', ['-O2', '-o', program, fileURLToPath(new URL('./gridFill.cpp', import.meta.url))]);
    const judged = surveyed();
    const [mine, theirs] = [[] as number[], [] as number[]];
    for (let round = 0; round < ROUNDS; round += 1) {
      const start = performance.now();
      surveyCertainty(judged, 0, LIMITS, { seed: round + 1, runs: RUNS });
      mine.push(performance.now() - start);
      theirs.push(Number(execFileSync(program).toString().split(' ')[0]));
    }
    return { mineMs: median(mine), theirsMs: median(theirs), vertices: judged.surface.x.length };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
