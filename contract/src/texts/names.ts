import { edgeId } from '@careful-seam/core/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/geometry/showerModel';
import { walkingOrder } from '@careful-seam/core/map/unfold';
import type { Seam } from '@careful-seam/core/seams/seam';
import type { Words } from './words';

/** Letters of walls and curbs by edge id, in walking order from the left: A, B, C… */
export function edgeLetters(model: ShowerModel): Map<string, string> {
  const order = walkingOrder(model).filter((i) => model.geometry.edges[i]!.kind !== 'open');
  return new Map(order.map((edge, k) => [edgeId(model.geometry, edge), String.fromCharCode(65 + k)]));
}

const CURB_PARTS: Record<string, string> = { inner: 'part.curbInner', top: 'part.curbTop', outer: 'part.curbOuter' };

/** A face in words: "wall B", "floor", "curb D top". */
export function faceName(t: Words, model: ShowerModel, face: string): string {
  const [kind, id = '', part = ''] = face.split(':');
  const letter = edgeLetters(model).get(id) ?? '';
  if (kind === 'wall') return t('part.wall', { letter });
  if (kind === 'curb') return t(CURB_PARTS[part] ?? 'part.curbEnd', { letter });
  if (kind === 'niche') return t('part.niche');
  if (kind === 'floor' || kind === 'shower') return t(`part.${kind}`);
  return t('part.outside');
}

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
    case 'niche-edge': {
      const niche = model.geometry.niches?.find((n) => parts.some(([kind, id]) => kind === 'niche' && id === n.id));
      return t(`seam.${seam.kind}`, { a: niche ? letters.get(edgeId(model.geometry, niche.edge)) : '' });
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
