import { BREAKS, type BreakSigns, INSIDES } from '../log/callBodies';

/** What boards and pans are made of, as far as it decides how they come out. */
export const MATERIALS = [
  'gypsum',
  'cellulose-fibre',
  'fibre-cement',
  'cement-mesh',
  'foam-board',
  'plaster-lath',
  'cast-stone',
  'fibreglass',
  'steel',
  'foam-tray',
  'mortar-bed',
] as const;
/** One of them. */
export type Material = (typeof MATERIALS)[number];

/** How each gives way, and what it is like inside. */
interface Signs {
  how: readonly NonNullable<BreakSigns['how']>[];
  inside: readonly NonNullable<BreakSigns['inside']>[];
}

/** Boards. In layers: gypsum or cellulose fibre; in one piece: fibre-cement [common practice, no source]; the others from memory. */
const BOARDS: Partial<Record<Material, Signs>> = {
  gypsum: { how: ['layers', 'crumbles'], inside: ['white'] },
  'cellulose-fibre': { how: ['layers'], inside: ['brown', 'grey'] },
  'fibre-cement': { how: ['one-piece'], inside: ['grey'] },
  'cement-mesh': { how: ['meshed', 'crumbles'], inside: ['grey'] },
  'foam-board': { how: ['cuts'], inside: ['foam'] },
  'plaster-lath': { how: ['meshed', 'crumbles'], inside: ['white', 'metal'] },
};
/** Pans and bases. Cast stone breaks under a hammer, fibreglass is sawn [common practice, no source]; the others from memory. */
const PANS: Partial<Record<Material, Signs>> = {
  'cast-stone': { how: ['lumps'], inside: ['stone', 'grey'] },
  fibreglass: { how: ['fibres'], inside: ['glass'] },
  steel: { how: ['rings'], inside: ['metal'] },
  'foam-tray': { how: ['cuts'], inside: ['foam'] },
  'mortar-bed': { how: ['crumbles'], inside: ['grey'] },
};

/** Signs that tell anything of a board, or of a pan, each in the order of all of them. */
export function signsOf(part: 'board' | 'pan') {
  const known = Object.values(part === 'board' ? BOARDS : PANS);
  return {
    how: BREAKS.filter((sign) => known.some((s) => s.how.includes(sign))),
    inside: INSIDES.filter((sign) => known.some((s) => s.inside.includes(sign))),
  };
}

/** How a material is told. */
export interface ToldBy {
  /** All that the signs fit as well, likeliest first; none where nothing was said or nothing fits. */
  likely: Material[];
  /** Both signs point to one material alone. */
  sure: boolean;
}

/**
 * What a board or a pan most likely is, by how it breaks and what is inside. The first guess is often wrong: it is sure only where two signs
 * point to the same one, and the next piece may tell otherwise.
 */
export function toldByBreak(part: 'board' | 'pan', { how, inside }: BreakSigns): ToldBy {
  const known = Object.entries(part === 'board' ? BOARDS : PANS) as [Material, Signs][];
  const fits = known.map(([material, signs]) => ({
    material,
    points:
      Number(how !== undefined && signs.how.includes(how)) +
      Number(inside !== undefined && signs.inside.includes(inside)),
  }));
  const most = Math.max(...fits.map((f) => f.points));
  if (most === 0) return { likely: [], sure: false };
  const likely = fits.filter((f) => f.points === most).map((f) => f.material);
  return { likely, sure: most === 2 && likely.length === 1 };
}
