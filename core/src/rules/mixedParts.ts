import type { ProductLine } from './productLine';

/** How two product lines stand to each other, best first. */
export const TOGETHER = ['one-maker', 'approved', 'unproved', 'warranty-lost', 'wrong-mortar'] as const;
/** One of them. */
export type Together = (typeof TOGETHER)[number];

/** Two lines of one shower; `paper` names what approves them, where something does. */
export interface PairOfLines {
  a: ProductLine;
  b: ProductLine;
  together: Together;
  paper: string | null;
}

/** All that can be said of the product lines of one shower without asking their makers. */
export interface MixedParts {
  /** The worst of all pairs; `one-maker` with none. */
  together: Together;
  pairs: PairOfLines[];
  /** Lines that are made for none of the methods in use. */
  forNoMethod: ProductLine[];
}

/** A mortar of one kind under a product whose label asks for the other. */
function isWrongMortar(a: ProductLine, b: ProductLine): boolean {
  if ((a.kind === 'mortar') === (b.kind === 'mortar')) return false;
  const kinds = [a.mortarKind, b.mortarKind];
  return !kinds.includes(undefined) && !kinds.includes('either') && kinds[0] !== kinds[1];
}

function pairOf(a: ProductLine, b: ProductLine): PairOfLines {
  if (isWrongMortar(a, b)) return { a, b, together: 'wrong-mortar', paper: null };
  const paper = [a.goesWith.find((g) => g.line === b.id), b.goesWith.find((g) => g.line === a.id)].find(Boolean)?.paper;
  if (paper !== undefined) return { a, b, together: 'approved', paper };
  if (a.maker.trim().toLowerCase() === b.maker.trim().toLowerCase())
    return { a, b, together: 'one-maker', paper: null };
  return { a, b, together: a.ownPartsOnly || b.ownPartsOnly ? 'warranty-lost' : 'unproved', paper: null };
}

/**
 * Whether the lines of a shower go together: by one maker, by a paper that names both, unproved without either, and
 * outside a warranty where one of them asks for its maker's own parts; a mortar of the kind that the other's label
 * does not ask for is wrong whoever made it [common practice, no source].
 */
export function mixedParts(lines: readonly ProductLine[], methods: readonly string[]): MixedParts {
  const pairs = lines.flatMap((a, i) => lines.slice(i + 1).map((b) => pairOf(a, b)));
  const worst = Math.max(0, ...pairs.map((p) => TOGETHER.indexOf(p.together)));
  return {
    together: TOGETHER[worst]!,
    pairs,
    forNoMethod: lines.filter((line) => !line.methods.some((m) => methods.includes(m))),
  };
}
