import { partOfFace, WHOLE_SHOWER } from '../checks/requirements';
import type { ShowerModel } from '../shower/geometry/showerModel';
import type { SeamKind } from '../shower/seams/seam';

/** What defects are counted by: the parts that a person of the trade would name. */
export const ELEMENT_GROUPS = [
  'floor',
  'wall',
  'joint',
  'corner',
  'niche',
  'bench',
  'curb',
  'drain',
  'opening',
  'edge',
  'ceiling',
  'whole',
] as const;
/** One of them. */
export type ElementGroup = (typeof ELEMENT_GROUPS)[number];

/** Groups whose parts are counted and not measured. */
export const COUNTED_GROUPS: readonly ElementGroup[] = ['corner', 'drain', 'opening', 'whole'];

/** Seams that belong to no thing of their own. */
const OF_SEAM: Partial<Record<SeamKind, ElementGroup>> = {
  'floor-wall': 'floor',
  'wall-wall-inside': 'wall',
  'wall-wall-outside': 'wall',
  'board-joint': 'joint',
  'sheet-lap': 'joint',
  transition: 'joint',
  'wall-ceiling': 'ceiling',
  'ceiling-edge': 'ceiling',
};

/** Faces by the parts that they belong to. */
const OF_PART = {
  floor: 'floor',
  walls: 'wall',
  curb: 'curb',
  niche: 'niche',
  bench: 'bench',
  ceiling: 'ceiling',
  'outside-floor': 'floor',
} as const satisfies Record<string, ElementGroup>;

/** Elements of a drawing with their groups. */
const remembered = new WeakMap<ShowerModel, Map<string, ElementGroup>>();

function groupsOf(model: ShowerModel): Map<string, ElementGroup> {
  const groups = new Map<string, ElementGroup>([[WHOLE_SHOWER, 'whole']]);
  const faceGroup = new Map<string, ElementGroup>();
  for (const f of model.faces) {
    const part = partOfFace(f.kind);
    const group = part === null ? 'edge' : OF_PART[part];
    faceGroup.set(f.id, group);
    groups.set(f.id, group);
  }
  // What is built as one thing is named as that thing, before what it leans on.
  const thing = (faces: readonly string[]) =>
    (['niche', 'bench', 'curb'] as const).find((g) => faces.some((f) => faceGroup.get(f) === g));
  for (const s of model.seams) groups.set(s.id, thing(s.faces) ?? OF_SEAM[s.kind] ?? 'edge');
  for (const c of model.corners) groups.set(c.id, thing(c.faces) ?? 'corner');
  for (const p of model.penetrations) groups.set(p.id, 'opening');
  groups.set(model.drain.id, 'drain');
  return groups;
}

/** The group that an element of a drawing is counted in; the whole shower for one that the drawing has no more. */
export function elementGroup(model: ShowerModel | null, element: string): ElementGroup {
  if (!model) return 'whole';
  const groups = remembered.get(model) ?? groupsOf(model);
  remembered.set(model, groups);
  return groups.get(element) ?? 'whole';
}
