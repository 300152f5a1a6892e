import { issueValues } from '@careful-seam/core/outcome/issueValues';
import type { Outcome } from '@careful-seam/core/outcome/outcome';
import type { Point2 } from '@careful-seam/core/shower/geometry/point';
import { ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { arrange, toSheet } from '@careful-seam/core/shower/map/arrange';
import { unfold } from '@careful-seam/core/shower/map/unfold';
import { refuse } from '@careful-seam/words/errors/errors';
import { pathOf } from './pathOf';

/** Dimensions as a file: what it is, and the shower as measured, in mm. */
const FORMAT = 'careful-seam-geometry';

/** The dimensions of a shower as JSON text. */
export function geometryJson(geometry: ShowerGeometry): string {
  return JSON.stringify({ format: FORMAT, formatVersion: 1, geometry }, null, 1);
}

/** Reads such a file; the first fault is told with its field and a way out. */
export function readGeometryJson(text: string): Outcome<ShowerModel> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse('dimensions-not-json', 'file');
  }
  const file = json as { format?: unknown; geometry?: unknown } | null;
  if (file?.format !== FORMAT) return refuse('no-dimensions-in-file', 'format');
  const read = ShowerGeometry.safeParse(file.geometry);
  if (read.success) return showerModel(read.data);
  const issue = read.error.issues[0]!;
  const field = issue.path.join('.');
  return refuse('dimensions-invalid', field, issueValues(issue, field));
}

/** The sheet that a drawing file is laid out on, in its own units. */
const SHEET = { width: 1000, height: 720, gap: 16, title: 24 };

/** The shower laid open as one SVG text: parts with their names, seams as lines. `nameOf` names a part. */
export function mapSvg(model: ShowerModel, title: string, nameOf: (panel: string) => string): string {
  const { panels } = arrange(unfold(model), SHEET);
  const asText = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
  const parts = panels.map((placed) => {
    const at = (p: Point2) => toSheet(placed, p);
    const faces = placed.panel.faces.map(
      (f) =>
        `<path d="${[f.outline, ...f.holes].map((loop) => `${pathOf(loop.map(at))}Z`).join('')}" fill="#fff" fill-rule="evenodd" stroke="#999" stroke-width="0.6"/>`,
    );
    const seams = placed.panel.seams.map(
      (d) =>
        `<path id="${asText(d.seam)}${d.echo ? ' again' : ''}" d="${pathOf(d.points.map(at))}" fill="none" stroke="#000" stroke-width="1.6"/>`,
    );
    const name = `<text x="${placed.x.toFixed(1)}" y="${(placed.y - 8).toFixed(1)}" font-size="13">${asText(nameOf(placed.panel.id))}</text>`;
    return `<g>${name}${faces.join('')}${seams.join('')}</g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-12 -12 ${SHEET.width + 24} ${SHEET.height + 24}"><title>${asText(title)}</title>${parts.join('')}</svg>`;
}

/** The shower laid open as DXF, in mm and true to scale, parts beside each other, seams on a layer of their kind. */
export async function mapDxf(model: ShowerModel, nameOf: (panel: string) => string): Promise<string> {
  const { DxfWriter, point3d, Units } = await import('@tarikjabiri/dxf');
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  const kinds = new Map(model.seams.map((s) => [s.id, s.kind]));
  for (const kind of new Set(kinds.values())) dxf.addLayer(kind, 7, 'Continuous');
  let left = 0;
  for (const panel of unfold(model)) {
    const at = ([x, y]: Point2) => point3d(x - panel.box.minX + left, y, 0);
    dxf.addText(point3d(left, panel.box.maxY + 60, 0), 50, nameOf(panel.id));
    for (const d of panel.seams) {
      const layerName = kinds.get(d.seam)!;
      d.points.slice(1).forEach((p, k) => {
        dxf.addLine(at(d.points[k]!), at(p), { layerName });
      });
    }
    left += panel.box.maxX - panel.box.minX + 300;
  }
  return dxf.stringify();
}
