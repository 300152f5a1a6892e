import { judge } from '../../checks/judge';
import { judgeOf } from '../../checks/judges';
import { stretchOn } from '../../checks/place';
import { outsideWater, stretchBelow } from '../../checks/waterProof';
import type { Judgement } from '../../log/judgement';
import type { ShowerState } from '../../log/state';
import { type Stretch, subtract, totalMm, union } from '../../shower/seams/intervals';
import type { Seam } from '../../shower/seams/seam';
import { isOpen } from '../holds/defectLife';

/** How a stretch of seam is drawn. */
export const LINE_STATES = ['unseen', 'seen', 'measured', 'defect', 'covered', 'not-required'] as const;
/** One of them. */
export type LineState = (typeof LINE_STATES)[number];

/** A stretch of seam in one state. */
export interface LinePiece extends Stretch {
  state: LineState;
  /** Proved by water: drawn doubled. */
  water: boolean;
}

/** How a seam is drawn: pieces end to end, small cross ticks at its readings. */
export interface SeamLine {
  seam: string;
  pieces: LinePiece[];
  ticksMm: number[];
}

interface Layers {
  required: boolean;
  defect: Stretch[];
  covered: Stretch[];
  unseen: Stretch[];
  seenOnly: Stretch[];
  measured: Stretch[];
  water: Stretch[];
}

function defectStretches(state: ShowerState, seam: Seam): Stretch[] {
  return [...state.defects.values()]
    .filter(isOpen)
    .flatMap((d) => d.places.filter((p) => p.element === seam.id))
    .flatMap((p) => stretchOn(seam, p) ?? []);
}

function waterStretches(state: ShowerState, seam: Seam): Stretch[] {
  const below = state.flood?.provedBelowMm ?? null;
  const wet = below === null || outsideWater(seam) ? null : stretchBelow(seam, below);
  return wet ? [wet] : [];
}

function unseenOf(j: Judgement, seam: Seam): Stretch[] {
  return subtract([{ fromMm: 0, toMm: seam.lengthMm }], [...j.seen, ...j.measured, ...j.failed]);
}

/** A note is not required: it draws only what somebody answered. */
const draws = (j: Judgement): boolean =>
  j.requirement.check.severity !== 'note' || j.seen.length + j.measured.length + j.failed.length > 0;

function layersOf(state: ShowerState, seam: Seam, judgements: readonly Judgement[]): Layers {
  const waiting = judgements.filter((j) => j.deviation === null);
  const measuredChecks = judgements.filter((j) => judgeOf(j.requirement.check).measuresPlaces);
  const full = [{ fromMm: 0, toMm: seam.lengthMm }];
  return {
    required: judgements.length > 0,
    defect: union([...defectStretches(state, seam), ...waiting.flatMap((j) => j.failed)]),
    covered: state.covered.get(seam.id) ?? [],
    unseen: union(waiting.flatMap((j) => unseenOf(j, seam))),
    seenOnly: union(measuredChecks.flatMap((j) => subtract(full, j.measured))),
    measured: measuredChecks.length > 0 ? full : [],
    water: waterStretches(state, seam),
  };
}

const inside = (stretches: readonly Stretch[], mm: number): boolean =>
  stretches.some((s) => mm > s.fromMm && mm < s.toMm);

function stateAt(layers: Layers, mm: number): LineState {
  if (inside(layers.defect, mm)) return 'defect';
  if (inside(layers.covered, mm)) return 'covered';
  if (!layers.required) return 'not-required';
  if (inside(layers.unseen, mm)) return 'unseen';
  if (inside(layers.seenOnly, mm) || layers.measured.length === 0) return 'seen';
  return 'measured';
}

/**
 * The line of one seam from the judgements on it: on each stretch the worst of the checks required, a doubled line
 * where water proved it.
 */
export function seamLine(state: ShowerState, seam: Seam, judgements: readonly Judgement[]): SeamLine {
  const layers = layersOf(state, seam, judgements.filter(draws));
  const { defect, covered, unseen, seenOnly, water } = layers;
  const cuts = [
    0,
    seam.lengthMm,
    ...[defect, covered, unseen, seenOnly, water].flat().flatMap((s) => [s.fromMm, s.toMm]),
  ];
  const ends = [...new Set(cuts.filter((c) => c >= 0 && c <= seam.lengthMm))].sort((a, b) => a - b);
  const pieces: LinePiece[] = [];
  ends.slice(1).forEach((toMm, i) => {
    const fromMm = ends[i]!;
    if (toMm - fromMm < 1e-6) return;
    const middle = (fromMm + toMm) / 2;
    const piece = { fromMm, toMm, state: stateAt(layers, middle), water: inside(water, middle) };
    const last = pieces.at(-1);
    if (last && last.state === piece.state && last.water === piece.water) last.toMm = toMm;
    else pieces.push(piece);
  });
  const ticksMm = [...new Set(judgements.flatMap((j) => j.readings.map((r) => r.atMm)))].sort((a, b) => a - b);
  return { seam: seam.id, pieces, ticksMm };
}

/** Inches of seam by state: the ledger in figures (mm). `water` counts beside the others. */
export interface SeamFigures {
  totalMm: number;
  byState: Record<LineState, number>;
  waterMm: number;
}

/** Adds up the pieces of lines by state, mm. Every piece counts in exactly one state. */
export function seamFigures(lines: readonly SeamLine[]): SeamFigures {
  const byState = Object.fromEntries(LINE_STATES.map((s) => [s, 0])) as Record<LineState, number>;
  let waterMm = 0;
  for (const piece of lines.flatMap((l) => l.pieces)) {
    byState[piece.state] += piece.toMm - piece.fromMm;
    if (piece.water) waterMm += piece.toMm - piece.fromMm;
  }
  return { totalMm: LINE_STATES.reduce((sum, s) => sum + byState[s], 0), byState, waterMm };
}

/** The whole shower as line work and figures, for the stages up to and with `uptoStage` (or one stage alone). */
export interface Ledger {
  judgements: Judgement[];
  lines: SeamLine[];
  figures: SeamFigures;
}

/** Judges every requirement of the stages chosen and draws every seam from it. `stages` are keys. */
export function buildLedger(state: ShowerState, stages: readonly string[]): Ledger {
  const chosen = new Set(stages);
  const judgements = state.requirements.filter((r) => chosen.has(r.stage.key)).map((r) => judge(state, r));
  const byElement = new Map<string, Judgement[]>();
  for (const j of judgements) {
    const list = byElement.get(j.requirement.element);
    if (list) list.push(j);
    else byElement.set(j.requirement.element, [j]);
  }
  const lines = (state.geometry?.model.seams ?? []).map((s) => seamLine(state, s, byElement.get(s.id) ?? []));
  return {
    judgements,
    lines,
    figures: seamFigures(lines.filter((l) => l.pieces.some((p) => p.state !== 'not-required'))),
  };
}

/** The stage that is worked on: the lowest with checks that is not released, or the last one. */
export function currentStage(state: ShowerState): string | null {
  const stages = [...(state.rules?.method.stages ?? [])]
    .filter((s) => s.checks.length > 0)
    .sort((a, b) => a.order - b.order);
  const next = stages.find((s) => state.stages.get(s.key)?.word !== 'released');
  return (next ?? stages.at(-1))?.key ?? null;
}

/** mm of seam still unseen in a set of lines. */
export function unseenMm(lines: readonly SeamLine[]): number {
  return lines.reduce((sum, l) => sum + totalMm(l.pieces.filter((p) => p.state === 'unseen')), 0);
}
