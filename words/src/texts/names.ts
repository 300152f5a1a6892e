import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import type { Thing, ThingKind } from '@careful-seam/core/shower/map/turning';
import { walkingOrder } from '@careful-seam/core/shower/map/unfold';
import type { Seam } from '@careful-seam/core/shower/seams/seam';
import type { Words } from './language';

/** Letters of walls and curbs by edge id, in walking order from the left: A, B, C… */
export function edgeLetters(model: ShowerModel): Map<string, string> {
  const order = walkingOrder(model).filter((i) => model.geometry.edges[i]!.kind !== 'open');
  return new Map(order.map((edge, k) => [edgeId(model.geometry, edge), String.fromCharCode(65 + k)]));
}

/** The faces of a curb. */
const CURB_PARTS: Record<string, string> = { inner: 'part.curbInner', top: 'part.curbTop', outer: 'part.curbOuter' };

/** The face of a wall. */
function wallName(t: Words, model: ShowerModel, id: string, part: string, letter: string): string {
  if (part === 'cap') return t('part.wallCap', { letter });
  if (part.startsWith('end-')) return t('part.wallEnd', { letter });
  if (part.startsWith('under-')) return t('part.wallUnder', { letter });
  const edge = model.geometry.edges.find((_, i) => edgeId(model.geometry, i) === id);
  return t(edge?.kind === 'half-wall' ? 'part.halfWall' : 'part.wall', { letter });
}

/** Letter of the wall that a niche or a bench belongs to. */
function letterOfPart(model: ShowerModel, kind: string, id: string): string {
  const face = model.faces.find((f) => f.id.startsWith(`${kind}:${id}:`));
  return face?.edge == null ? '' : (edgeLetters(model).get(edgeId(model.geometry, face.edge)) ?? '');
}

/** A part of a niche or a bench: "sill of the niche in wall B". */
function partName(t: Words, model: ShowerModel, kind: string, id: string, part: string): string {
  const word = part.startsWith('shelf-') ? 'shelf' : part;
  const named = kind === 'niche' ? t(`part.niches.${word}`) : t(`part.benches.${word}`);
  return t(`part.${kind}Part`, { part: named, letter: letterOfPart(model, kind, id) });
}

/** A face in words: "wall B", "floor", "curb D top". */
export function faceName(t: Words, model: ShowerModel, face: string): string {
  const [kind, id = '', part = ''] = face.split(':');
  const letter = edgeLetters(model).get(id) ?? '';
  if (kind === 'wall') return wallName(t, model, id, part, letter);
  if (kind === 'curb') return t(CURB_PARTS[part] ?? 'part.curbEnd', { letter });
  if (kind === 'niche' || kind === 'bench') return partName(t, model, kind, id, part);
  if (kind === 'ceiling') return t('part.ceiling');
  if (kind === 'outside-floor') return t('part.outsideFloor');
  if (kind === 'floor' || kind === 'shower') return t(`part.${kind}`);
  return t('part.outside');
}

/** A seam by what meets in it. */
function seamName(t: Words, model: ShowerModel, seam: Seam): string {
  const letters = edgeLetters(model);
  const parts = seam.faces.map((f) => f.split(':'));
  const named = parts
    .map(([, id]) => letters.get(id ?? '') ?? '')
    .filter((x) => x !== '')
    .sort();
  const curb = parts.find(([kind]) => kind === 'curb');
  const wall = parts.find(([kind]) => kind === 'wall');
  const curbLetter = letters.get(curb?.[1] ?? '') ?? '';
  switch (seam.kind) {
    case 'curb-wall':
      if (!wall) return t('seam.curb-wall-outer', { a: curbLetter, side: t(`jamb.${seam.id.split('|').at(-1)}`) });
      return t('seam.curb-wall', { a: curbLetter, b: letters.get(wall[1] ?? ''), part: t(`curbPart.${curb?.[2]}`) });
    case 'curb-curb':
      return t('seam.curb-curb', { a: named[0], b: named[1], part: t(`curbPart.${curb?.[2]}`) });
    case 'curb-top-edge': {
      const part = parts.find(([, , p]) => p !== 'top')?.[2];
      return t('seam.curb-top-edge', { a: curbLetter, part: t(`edgePart.${part}`) });
    }
    case 'niche-mouth':
    case 'niche-edge':
    case 'niche-shelf':
    case 'niche-shelf-edge':
    case 'bench-wall':
    case 'bench-floor':
    case 'bench-edge': {
      const own = parts.filter(([kind]) => kind === 'niche' || kind === 'bench');
      const [kind = '', id = ''] = own[0] ?? [];
      const words = own.map(([k, , p = '']) =>
        t(`part.${k === 'niche' ? 'niches' : 'benches'}.${p.startsWith('shelf-') ? 'shelf' : p}`),
      );
      const a = wall ? letters.get(wall[1] ?? '') : letterOfPart(model, kind, id);
      return t(`seam.${seam.kind}`, { a, part: [...new Set(words)].join(' / ') });
    }
    default:
      return t(`seam.${seam.kind}`, { a: named[0], b: named[1] });
  }
}

/** Any element in the words of the trade. */
export function elementName(t: Words, model: ShowerModel, element: string): string {
  const seam = model.seams.find((s) => s.id === element);
  if (seam) return seamName(t, model, seam);
  const corner = model.corners.find((c) => c.id === element);
  if (corner) return t('corner.name', { parts: corner.faces.map((f) => faceName(t, model, f)).join(', ') });
  const hole = model.penetrations.find((p) => p.id === element);
  if (hole) return t(`penetration.${hole.kind}`, { letter: edgeLetters(model).get(hole.face.split(':')[1] ?? '') });
  if (element === model.drain.id) return t('drain');
  const name = faceName(t, model, element);
  return name.charAt(0).toUpperCase() + name.slice(1);
}

/** A thing as a person takes it for one: the drain, wall B, the niche in wall B. */
export function thingName(t: Words, model: ShowerModel, thing: Pick<Thing, 'id' | 'kind'>): string {
  const [, id = ''] = thing.id.split(':');
  const names: Record<ThingKind, () => string> = {
    drain: () => t('drain'),
    niche: () => t('part.nicheIn', { letter: letterOfPart(model, 'niche', id) }),
    bench: () => t('part.benchAt', { letter: letterOfPart(model, 'bench', id) }),
    curb: () => t('part.curb', { letter: edgeLetters(model).get(id) ?? '' }),
    wall: () => faceName(t, model, thing.id),
    floor: () => t('part.floor'),
    ceiling: () => t('part.ceiling'),
    shower: () => t('part.shower'),
  };
  const name = names[thing.kind]();
  return name.charAt(0).toUpperCase() + name.slice(1);
}

/** All places of a defect, a redo or a look by name, each once; `most` of them, and how many more there are. */
export function placesName(
  t: Words,
  model: ShowerModel,
  places: readonly { element: string }[],
  most = Number.POSITIVE_INFINITY,
): string {
  const names = [...new Set(places.map((p) => elementName(t, model, p.element)))];
  const shown = names.slice(0, most).join(', ');
  return names.length > most ? t('places.more', { shown, count: names.length - most }) : shown;
}
