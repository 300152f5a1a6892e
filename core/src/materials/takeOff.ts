import type { FilmZone } from '../membrane/film/filmZones';
import type { FilmLimits } from '../membrane/film/judgeFilm';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { wallFrame } from '../shower/geometry/wallFrame';
import { fastenerGrid, studsAt } from '../walls/fastenerGrid';
import { type CutRolls, cutRolls } from './cutRolls';
import { type TakeOffItem, type TakeOffUnit, unitOf } from './takeOffItem';

/** Liquid film that a shower needs: areas of its zones, coats, and the label's figures. */
export interface FilmNeed {
  /** By zone, m². */
  areas: ReadonlyMap<FilmZone, number>;
  /** What the film must be. */
  limits: FilmLimits;
}

/** One line of a take-off. Amounts in the item's unit: mm, L, m² or pieces. */
export interface TakeOffLine {
  /** Id of the item. */
  id: string;
  /** Its words. */
  label: string;
  /** In what it is counted. */
  unit: TakeOffUnit;
  /** What the drawing comes to. */
  net: number;
  /** With its share of waste. */
  withWaste: number;
  /** How much a pack holds. */
  pack: number;
  /** What a pack is called. */
  packLabel: string;
  /** Whole packs. */
  packs: number;
  /** Of what is cut from rolls: the pieces, mm, and how they are cut. */
  pieces: number[];
  /** Where each of the pieces goes: the seam, and the place in the list of showers, 0 of a single one. */
  goesOn: { shower: number; seam: string }[];
  /** How rolls are cut; null for what comes in no rolls. */
  cut: CutRolls | null;
  /** Where its figures come from. */
  source: string;
}

/** Under this share of what the drawing comes to, what was used is a finding [common practice, no source]. */
export const USED_LEAST_SHARE = 0.7;

/** True for faces that this method builds. */
type Counts = (faces: readonly string[]) => boolean;

/** Seams of some kinds that this method builds. */
function seamsOf(model: ShowerModel, kinds: readonly string[], counts: Counts) {
  return model.seams.filter((s) => kinds.includes(s.kind) && counts(s.faces) && s.lengthMm > 0.5);
}

/** How many fasteners hold the walls. */
function fastenersOf(model: ShowerModel, item: Extract<TakeOffItem, { of: 'fasteners' }>, counts: Counts): number {
  let count = 0;
  for (const face of model.faces) {
    const edge = face.edge === null ? null : model.geometry.edges[face.edge]!;
    if (face.kind !== 'wall' || !counts([face.id]) || !edge || (edge.kind !== 'wall' && edge.kind !== 'half-wall'))
      continue;
    const widthMm = wallFrame(model.geometry, face.edge!).lengthMm;
    const grid = fastenerGrid({
      widthMm,
      heightMm: edge.heightMm,
      studsAtMm: studsAt(widthMm, item.studSpacingMm),
      firstRowMm: Math.min(item.firstRowMm, edge.heightMm),
      spacingMm: item.spacingMm,
    });
    count += grid.ok ? grid.value.count : 0;
  }
  return count;
}

/** Litres of product for the least dry film on every zone that isn't a strip of another; null without a label. */
function filmLitres({ areas, limits }: FilmNeed): number {
  if (limits.dryLeastUm === null || limits.solids === null) return 0;
  const m2 = [...areas].reduce((sum, [zone, area]) => sum + (zone === 'corners' ? 0 : area), 0);
  return (m2 * limits.dryLeastUm) / 1000 / limits.solids / (1 - limits.lossShare);
}

/** How much is needed without waste. */
function netOf(model: ShowerModel, item: TakeOffItem, counts: Counts, film: FilmNeed | null): number {
  const area = (kinds: readonly string[]) =>
    model.faces.filter((f) => kinds.includes(f.kind) && counts([f.id])).reduce((sum, f) => sum + f.areaMm2, 0) / 1e6;
  switch (item.of) {
    case 'strips':
      return seamsOf(model, item.seams, counts).reduce((sum, s) => sum + s.lengthMm + 2 * item.lapMm, 0);
    case 'bead': {
      const mm = seamsOf(model, item.seams, counts).reduce((sum, s) => sum + s.lengthMm, 0);
      return (item.beads * mm * Math.PI * item.beadMm ** 2) / 4 / 1e6;
    }
    case 'corners':
      return model.corners.filter((c) => item.kinds.includes(c.kind) && counts(c.faces)).length;
    case 'penetrations':
      return model.penetrations.filter((p) => item.kinds.includes(p.kind) && counts([p.face])).length;
    case 'area': {
      const edges = item.turnUp ? seamsOf(model, item.turnUp.seams, counts) : [];
      return area(item.faces) + edges.reduce((sum, s) => sum + s.lengthMm * item.turnUp!.mm, 0) / 1e6;
    }
    case 'bed':
      return area(item.faces) * item.meanMm;
    case 'film':
      return film ? filmLitres(film) : 0;
    case 'fasteners':
      return fastenersOf(model, item, counts);
  }
}

/** One line of the take-off. */
function lineOf(model: ShowerModel, item: TakeOffItem, counts: Counts, film: FilmNeed | null): TakeOffLine {
  const net = netOf(model, item, counts, film);
  const withWaste = net * (1 + item.wasteShare);
  const seams = item.of === 'strips' ? seamsOf(model, item.seams, counts) : [];
  const lapMm = item.of === 'strips' ? item.lapMm : 0;
  const pieces = seams.map((s) => s.lengthMm + 2 * lapMm);
  const cut = pieces.length > 0 ? cutRolls({ rollMm: item.pack, piecesMm: pieces }) : null;
  const rolls = cut?.ok ? cut.value : null;
  return {
    id: item.id,
    label: item.label,
    unit: unitOf(item),
    net,
    withWaste,
    pack: item.pack,
    packLabel: item.packLabel,
    packs: Math.max(rolls?.rolls.length ?? 0, Math.ceil(withWaste / item.pack - 1e-9)),
    pieces,
    goesOn: seams.map((s) => ({ shower: 0, seam: s.id })),
    cut: rolls,
    source: item.source,
  };
}

/**
 * What a shower uses of each item of its method, from its drawing. `counts` tells whether something on these faces is
 * built by the method, so that in a shower of two methods each takes off its own. Lines that come to nothing are left out.
 */
export function takeOff(
  model: ShowerModel,
  items: readonly TakeOffItem[],
  counts: Counts,
  film: FilmNeed | null,
): TakeOffLine[] {
  return items.map((item) => lineOf(model, item, counts, film)).filter((line) => line.net > 0);
}

/** Lines of several showers as one list to buy: pieces are cut from the same rolls. */
export function shoppingList(showers: readonly (readonly TakeOffLine[])[]): TakeOffLine[] {
  const byId = new Map<string, TakeOffLine>();
  const placed = showers.flatMap((lines, shower) =>
    lines.map((line) => ({ ...line, goesOn: line.goesOn.map(({ seam }) => ({ shower, seam })) })),
  );
  for (const line of placed) {
    const had = byId.get(line.id);
    if (!had) {
      byId.set(line.id, line);
      continue;
    }
    const pieces = [...had.pieces, ...line.pieces];
    const goesOn = [...had.goesOn, ...line.goesOn];
    const cut = pieces.length > 0 ? cutRolls({ rollMm: line.pack, piecesMm: pieces }) : null;
    const withWaste = had.withWaste + line.withWaste;
    const rolls = cut?.ok ? cut.value : null;
    const packs = Math.max(rolls?.rolls.length ?? 0, Math.ceil(withWaste / line.pack - 1e-9));
    byId.set(line.id, { ...had, net: had.net + line.net, withWaste, pieces, goesOn, cut: rolls, packs });
  }
  return [...byId.values()];
}

/** What was used against the drawing: far less than it comes to is a finding. */
export function usedVerdict(net: number, used: number): 'enough' | 'far-less' {
  return used < USED_LEAST_SHARE * net ? 'far-less' : 'enough';
}
