import type { ShowerGeometry } from '../shower/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '../shower/geometry/showerModel';

const IN = 25.4;

export interface SampleOptions {
  widthMm?: number;
  depthMm?: number;
  wallMm?: number;
  riseMm?: number;
  corner?: boolean;
  niche?: boolean;
}

/** An alcove (or a corner shower, open to the front and the right) for tests: ids are short and readable. */
export function sampleShower({
  widthMm = 60 * IN,
  depthMm = 36 * IN,
  wallMm = 96 * IN,
  riseMm = 0.75 * IN,
  corner,
  niche,
}: SampleOptions = {}): ShowerGeometry {
  const wall = (id: string) => ({
    kind: 'wall' as const,
    id,
    heightMm: wallMm,
    boardJoints: [{ id: `${id}-joint`, run: 'level' as const, atMm: wallMm / 2 }],
    sheetLaps: [{ id: `${id}-lap`, run: 'level' as const, atMm: wallMm * 0.4 }],
  });
  const curb = (id: string) => ({ kind: 'curb' as const, id, heightMm: 6 * IN, widthMm: 4.5 * IN });
  return {
    footprint: [
      { xMm: 0, yMm: 0 },
      { xMm: widthMm, yMm: 0 },
      { xMm: widthMm, yMm: depthMm },
      { xMm: 0, yMm: depthMm },
    ],
    edges: [curb('front'), corner ? curb('right') : wall('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: 'd', xMm: widthMm / 2, yMm: depthMm / 2 },
    perimeterRiseMm: riseMm,
    penetrations: [
      { id: 'valve', kind: 'valve', edge: 3, alongMm: depthMm / 2, heightMm: wallMm / 2.2, diameterMm: 100 },
    ],
    ...(niche
      ? {
          niches: [
            {
              id: 'n',
              edge: 2,
              alongMm: widthMm / 3,
              sillMm: wallMm / 2,
              widthMm: widthMm / 4,
              heightMm: wallMm / 6,
              depthMm: 90,
            },
          ],
        }
      : {}),
  };
}

/** The same as built surface. */
export function sampleModel(options?: SampleOptions): ShowerModel {
  const model = showerModel(sampleShower(options));
  if (!model.ok) throw new Error(model.problem.code);
  return model.value;
}
