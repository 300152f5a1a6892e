import { type Face, type FaceKind, plainFace } from './face';
import type { Point3 } from './point';
import type { Niche, ShowerGeometry } from './showerGeometry';
import { onWall, wallFrame } from './wallFrame';

interface Span {
  /** What the parts of the niche in this span add to their name: nothing for the lowest. */
  name: string;
  lowMm: number;
  highMm: number;
}

const shelvesOf = (niche: Niche) => [...(niche.shelves ?? [])].sort((a, b) => a.heightMm - b.heightMm);

/** The open spaces of a niche from its sill up, between its shelves; heights above the wall's foot. */
function spans(niche: Niche): Span[] {
  const found: Span[] = [];
  let low = { name: '', z: niche.sillMm };
  for (const shelf of shelvesOf(niche)) {
    const under = niche.sillMm + shelf.heightMm;
    found.push({ name: low.name, lowMm: low.z, highMm: under });
    low = { name: `:above-${shelf.id}`, z: under + shelf.thicknessMm };
  }
  return [...found, { name: low.name, lowMm: low.z, highMm: niche.sillMm + niche.heightMm }];
}

/** The faces of a niche: back and sides in one piece for each space between shelves, sill, head, and its shelves. */
export function nicheFaces(g: ShowerGeometry, niche: Niche): Face[] {
  const f = wallFrame(g, niche.edge);
  const [l, r] = [niche.alongMm, niche.alongMm + niche.widthMm];
  const front = (u: number, v: number) => onWall(f, u, v);
  const back = (u: number, v: number) => onWall(f, u, v, niche.depthMm);
  const face = (part: string, loop: Point3[], kind: FaceKind = 'niche') =>
    plainFace(`niche:${niche.id}:${part}`, kind, niche.edge, loop);
  const upward = (v: number) => [front(l, v), front(r, v), back(r, v), back(l, v)];
  const downward = (v: number) => [back(l, v), back(r, v), front(r, v), front(l, v)];
  const sides = spans(niche).flatMap(({ name, lowMm: s, highMm: t }) => [
    face(`back${name}`, [back(l, s), back(r, s), back(r, t), back(l, t)]),
    face(`left${name}`, [front(l, s), back(l, s), back(l, t), front(l, t)]),
    face(`right${name}`, [back(r, s), front(r, s), front(r, t), back(r, t)]),
  ]);
  const shelves = shelvesOf(niche).flatMap((shelf) => {
    const [s, t] = [niche.sillMm + shelf.heightMm, niche.sillMm + shelf.heightMm + shelf.thicknessMm];
    return [
      face(`shelf-${shelf.id}:top`, upward(t), 'niche-shelf'),
      face(`shelf-${shelf.id}:front`, [front(l, s), front(r, s), front(r, t), front(l, t)], 'niche-shelf'),
      face(`shelf-${shelf.id}:under`, downward(s), 'niche-shelf'),
    ];
  });
  return [
    face('sill', upward(niche.sillMm)),
    face('head', downward(niche.sillMm + niche.heightMm)),
    ...sides,
    ...shelves,
  ];
}

/** The mouth of a niche in its wall, clockwise as seen from inside. */
export function nicheMouth(g: ShowerGeometry, niche: Niche): Point3[] {
  const f = wallFrame(g, niche.edge);
  const [l, r, s, t] = [niche.alongMm, niche.alongMm + niche.widthMm, niche.sillMm, niche.sillMm + niche.heightMm];
  return [onWall(f, l, s), onWall(f, l, t), onWall(f, r, t), onWall(f, r, s)];
}
