import { judge } from '../checks/judge';
import { outsideFaces } from '../checks/waterProof';
import type { ShowerState } from '../log/state';
import { edgeId } from '../shower/geometry/showerGeometry';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { suspectsOf } from './ledgerSays';
import type { LedgerWord } from './startingValues';
import type { Rates, Suspect } from './suspects';
import { waterPaths } from './waterPaths';

/** Where water stands once it is behind the tile: tile and grout hold none of it back. */
export const BED_SPACE = 'bed';
/** What must stay dry. */
export const TIMBER = 'timber';

/** Layers that hold water back, from the tile inwards: what lies on the boards, and the joints of the boards themselves. */
export const BARRIER_LAYERS = ['membrane', 'board'] as const;
/** One of them. */
export type BarrierLayer = (typeof BARRIER_LAYERS)[number];

/** Stages whose work is each layer. */
const STAGES_OF: Readonly<Record<BarrierLayer, readonly string[]>> = {
  membrane: ['membrane', 'drain-tie-in', 'curb', 'niche', 'bench', 'penetrations'],
  board: ['boards'],
};

/** One place where something holds water back. */
export interface WayBarrier {
  /** Its name: element and layer. */
  name: string;
  element: string;
  layer: BarrierLayer;
  /** It lets water through: an open defect, a failed check, or because somebody opened it to see. */
  isOpen: boolean;
  says: LedgerWord;
}

/** A side of the shower: what water comes to behind it. */
export interface WaySide {
  /** `floor`, `ceiling`, or the id of an edge. */
  side: string;
  /** Fewest barriers that stand before its timber; 0: it is open. */
  barriersLeft: number;
  /** Elements through which water comes to it. */
  through: string[];
  /** The element that carries most of its risk, with its share of the whole shower's. */
  weakest: { element: string; share: number } | null;
}

/** Where water can go. */
export interface WaterWay {
  barriers: WayBarrier[];
  sides: WaySide[];
  barriersLeft: number;
  /** Barriers whose closing stops all of it, fewest first. */
  cut: WayBarrier[];
}

/** The side that a face belongs to; null for what is outside. */
export function sideOf(model: ShowerModel, face: string): string | null {
  const found = model.faces.find((f) => f.id === face);
  if (!found || found.kind === 'outside') return null;
  if (found.kind === 'floor' || found.kind === 'outside-floor') return 'floor';
  if (found.kind === 'ceiling') return 'ceiling';
  return found.edge === null ? null : edgeId(model.geometry, found.edge);
}

/** Sides that lie behind an element. */
const behind = (model: ShowerModel, { faces }: Suspect): string[] => {
  const sides = [...new Set(faces.flatMap((f) => sideOf(model, f) ?? []))];
  // What lies on the outside alone, water behind the tile does not come to.
  const inner = faces.some((f) => sideOf(model, f) !== null && !outsideFaces([f]));
  return inner ? sides : [];
};

/** Layers that an element's rules ask for; one at least, since something was built there. */
function layersOf(state: ShowerState, element: string): { layer: BarrierLayer; failed: boolean }[] {
  const asked = state.requirements.filter((r) => r.element === element && r.check.severity !== 'note');
  const found = BARRIER_LAYERS.flatMap((layer) => {
    const its = asked.filter((r) => STAGES_OF[layer].includes(r.stage.key));
    if (its.length === 0) return [];
    return [{ layer, failed: its.some((r) => judge(state, r).verdict === 'fail' && !judge(state, r).satisfied) }];
  });
  return found.length > 0 ? found : [{ layer: 'membrane', failed: false }];
}

/** All barriers of a shower. `opened` are names of those that somebody opened to see what comes of it. */
function barriersOf(state: ShowerState, suspects: readonly Suspect[], opened: ReadonlySet<string>): WayBarrier[] {
  return suspects.flatMap(({ id, says }) =>
    layersOf(state, id).map(({ layer, failed }, k): WayBarrier => {
      const name = `${id} ${layer}`;
      // A defect lies on the first layer that water meets.
      const isOpen = opened.has(name) || failed || (k === 0 && says === 'defect');
      return { name, element: id, layer, isOpen, says };
    }),
  );
}

/**
 * Where water can go once it is behind the tile: through open places into what is behind each side, how many barriers still stand, which
 * place carries most risk. Null where nothing is drawn.
 */
export function waterWay(state: ShowerState, rates: Rates, opened: ReadonlySet<string>): WaterWay | null {
  const model = state.geometry?.model;
  if (!model) return null;
  const suspects = suspectsOf(state, rates).filter((s) => behind(model, s).length > 0);
  const barriers = barriersOf(state, suspects, opened);
  const all = suspects.reduce((sum, s) => sum + s.prior, 0);
  const names = [...new Set(suspects.flatMap((s) => behind(model, s)))];
  const gap = (element: string, k: number) => `${element} #${k}`;
  const spaces = [BED_SPACE, TIMBER, ...names];
  const edges: { name: string; between: [string, string]; intact: boolean }[] = names.map((side) => ({
    name: `into ${side}`,
    between: [side, TIMBER],
    intact: false,
  }));
  for (const suspect of suspects) {
    const its = barriers.filter((b) => b.element === suspect.id);
    for (const [k, b] of its.entries()) {
      spaces.push(gap(suspect.id, k));
      edges.push({
        name: b.name,
        between: [k === 0 ? BED_SPACE : gap(suspect.id, k - 1), gap(suspect.id, k)],
        intact: !b.isOpen,
      });
    }
    for (const side of behind(model, suspect))
      edges.push({ name: `${suspect.id} to ${side}`, between: [gap(suspect.id, its.length - 1), side], intact: false });
  }
  const whole = waterPaths({ spaces, barriers: edges, from: BED_SPACE, to: TIMBER });
  const cut = whole.ok ? whole.value.cut : [];
  // Behind one side timber leads to the next: a side is judged by what lies before it alone.
  const standing = (element: string) => barriers.filter((b) => b.element === element && !b.isOpen).length;
  return {
    barriers,
    barriersLeft: whole.ok ? (whole.value.barriersLeft ?? 0) : 0,
    cut: barriers.filter((b) => cut.includes(b.name)),
    sides: names.map((side): WaySide => {
      const here = suspects.filter((s) => behind(model, s).includes(side)).sort((a, b) => b.prior - a.prior);
      return {
        side,
        barriersLeft: Math.min(...here.map((s) => standing(s.id))),
        through: here.filter((s) => standing(s.id) === 0).map((s) => s.id),
        weakest: here[0] && all > 0 ? { element: here[0].id, share: here[0].prior / all } : null,
      };
    }),
  };
}
