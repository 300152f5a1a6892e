import { showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { SHAPES, shapedShower } from '@careful-seam/core/tests/anyShower';
import { sentenceOf } from '@careful-seam/words/errors/errors';
import { describe, expect, it } from 'vitest';
import { geometryJson, mapDxf, mapSvg, readGeometryJson } from './drawingFiles';

const { geometry } = shapedShower(SHAPES[2]!(1500, 1500), {
  bench: 5,
  shelves: 1,
  ceiling: 1,
  riseMm: 19,
  lineDrain: false,
});
const built = showerModel(geometry);
if (!built.ok) throw new Error(built.problem.code);
const model = built.value;

describe('drawings as files', () => {
  it('come back from JSON as they went out', () => {
    const read = readGeometryJson(geometryJson(geometry));
    if (!read.ok) throw new Error(read.problem.code);
    expect(read.value.seams.map((s) => s.id)).toEqual(model.seams.map((s) => s.id));
    expect(read.value.totals).toEqual(model.totals);
  });
  it.each([
    ['{', 'file'],
    ['{"format":"other"}', 'format'],
    ['{"format":"careful-seam-geometry","geometry":{"footprint":[]}}', 'footprint'],
    [geometryJson({ ...geometry, drain: { kind: 'point', xMm: 9000, yMm: 0 } }), 'drain'],
  ])('are refused with the field: %s', (text, field) => {
    const read = readGeometryJson(text);
    if (read.ok) throw new Error('was read');
    expect(read.problem.field).toContain(field);
    expect(sentenceOf(read.problem, 'en').length).toBeGreaterThan(20);
  });
  it('show each seam in the SVG, and names as text, never as markup', () => {
    const svg = mapSvg(model, 'Loft <1>', (id) => id);
    for (const s of model.seams) expect(svg).toContain(`id="${s.id}"`);
    expect(svg).toContain('<title>Loft &#60;1&#62;</title>');
  });
  it('hold each seam at its true length in the DXF, on the layer of its kind', async () => {
    const dxf = await mapDxf(model, (id) => id);
    const pairs = dxf.split('\n').map((line) => line.trim());
    const lengths = new Map<string, number>();
    for (let i = 0; i < pairs.length; i += 1) {
      if (pairs[i] !== 'LINE') continue;
      const values = new Map<string, string>();
      for (let k = i + 1; k + 1 < pairs.length && pairs[k] !== '0'; k += 2) values.set(pairs[k]!, pairs[k + 1]!);
      const at = (code: string) => Number(values.get(code));
      const layer = values.get('8')!;
      lengths.set(layer, (lengths.get(layer) ?? 0) + Math.hypot(at('11') - at('10'), at('21') - at('20')));
    }
    expect(lengths.get('wall-wall-inside')! / model.totals.seamMmByKind['wall-wall-inside']!).toBeGreaterThan(1.99);
    expect(lengths.get('curb-outside-floor')).toBeCloseTo(model.totals.seamMmByKind['curb-outside-floor']!, 1);
  });
});
