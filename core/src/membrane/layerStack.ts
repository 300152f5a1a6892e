import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { anyMm, filmUm, positiveMm } from '../units/bounded';

/** Where a layer lies on a plane, mm. */
const Rect = z.object({
  xMm: anyMm,
  yMm: anyMm,
  widthMm: positiveMm,
  heightMm: positiveMm,
});
/** A layer on an unfolded face. What is of the kind `mortar` adds height and is no layer of its own. */
const Layer = z.object({ kind: z.string().min(1).max(60), thicknessUm: filmUm, rect: Rect });
/** A layer with its thickness. */
export type Layer = z.infer<typeof Layer>;
/** Layers by their outlines, in the order they are laid. */
export const LayerStackInput = z.object({ layers: z.array(Layer).min(1).max(400) });

/** What a layer is called that is not counted as one. */
const MORTAR = 'mortar';

/** A cell that the edges of all layers cut out, with what lies on it. */
export interface StackCell {
  /** A cell in which the stack is the same all over. */
  rect: z.infer<typeof Rect>;
  /** Layers over each other in it. */
  layers: number;
  /** How high they build, µm. */
  heightUm: number;
}

/** Where the stack can change, in order. */
const edges = (values: readonly number[]): number[] => [...new Set(values)].sort((a, b) => a - b);

/** Every cell between the edges of the layers that something lies on. */
export function stackCells(layers: readonly Layer[]): StackCell[] {
  const xs = edges(layers.flatMap(({ rect }) => [rect.xMm, rect.xMm + rect.widthMm]));
  const ys = edges(layers.flatMap(({ rect }) => [rect.yMm, rect.yMm + rect.heightMm]));
  const cells: StackCell[] = [];
  for (let j = 0; j + 1 < ys.length; j += 1)
    for (let i = 0; i + 1 < xs.length; i += 1) {
      const [x, y] = [(xs[i]! + xs[i + 1]!) / 2, (ys[j]! + ys[j + 1]!) / 2];
      const here = layers.filter(
        ({ rect }) => x > rect.xMm && x < rect.xMm + rect.widthMm && y > rect.yMm && y < rect.yMm + rect.heightMm,
      );
      if (here.length === 0) continue;
      cells.push({
        rect: { xMm: xs[i]!, yMm: ys[j]!, widthMm: xs[i + 1]! - xs[i]!, heightMm: ys[j + 1]! - ys[j]! },
        layers: here.filter((l) => l.kind !== MORTAR).length,
        heightUm: here.reduce((sum, l) => sum + l.thicknessUm, 0),
      });
    }
  return cells;
}

/** Where layers lie most over each other. */
export interface LayerStack {
  /** At the worst place. */
  mostLayers: number;
  /** Height there, µm. */
  highestUm: number;
  /** Middle of the highest place. */
  at: { xMm: number; yMm: number };
}

/** The most layers anywhere, and the highest place. [own arithmetic] */
export function layerStack({ layers }: z.infer<typeof LayerStackInput>): Outcome<LayerStack> {
  const cells = stackCells(layers);
  const highest = cells.reduce((a, b) => (b.heightUm > a.heightUm ? b : a));
  const { xMm, yMm, widthMm, heightMm } = highest.rect;
  return done({
    mostLayers: Math.max(...cells.map((c) => c.layers)),
    highestUm: highest.heightUm,
    at: { xMm: xMm + widthMm / 2, yMm: yMm + heightMm / 2 },
  });
}
