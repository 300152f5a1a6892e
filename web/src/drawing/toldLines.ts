import type { LineState, SeamLine } from '@careful-seam/core/proof/shown/seamLine';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';

/** Every seam drawn as it is told, whatever its record says: in one state, or parted evenly into several. None: not asked. */
export function toldLines(model: ShowerModel, told: (seam: string) => readonly LineState[]): SeamLine[] {
  return model.seams.map(({ id, lengthMm }) => {
    const said = told(id);
    const states: readonly LineState[] = said.length > 0 ? said : ['not-required'];
    const part = lengthMm / states.length;
    const pieces = states.map((state, i) => ({ fromMm: i * part, toMm: (i + 1) * part, state, water: false }));
    return { seam: id, pieces, ticksMm: [] };
  });
}
