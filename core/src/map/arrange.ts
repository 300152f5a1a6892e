import type { Point2 } from '../geometry/point';
import type { Panel } from './panel';

/** A panel's place on a sheet: drawing units, y down. `scaleX`/`scaleY` turn the panel's mm into units. */
export interface PlacedPanel {
  panel: Panel;
  x: number;
  y: number;
  width: number;
  height: number;
  scaleX: number;
  scaleY: number;
}

export interface Sheet {
  width: number;
  height: number;
  /** Room between parts. */
  gap: number;
  /** Room above a panel for its name. */
  title: number;
}

export interface Arrangement {
  panels: PlacedPanel[];
  /** Units per mm on walls and plan. */
  scale: number;
}

/** A point of a panel on the sheet. */
export function toSheet(placed: PlacedPanel, [x, y]: Point2): Point2 {
  const { box } = placed.panel;
  return [placed.x + (x - box.minX) * placed.scaleX, placed.y + placed.height - (y - box.minY) * placed.scaleY];
}

function place(panel: Panel, x: number, y: number, scaleX: number, scaleY = scaleX): PlacedPanel {
  const { box } = panel;
  return { panel, x, y, scaleX, scaleY, width: (box.maxX - box.minX) * scaleX, height: (box.maxY - box.minY) * scaleY };
}

const sizeX = (p: Panel): number => p.box.maxX - p.box.minX;
const sizeY = (p: Panel): number => p.box.maxY - p.box.minY;

interface Room {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Most that a curb's height is drawn larger than its length, so that its edges stay apart under a thumb. */
const CURB_STRIP = 176;

/** Each curb as a strip across the room, one under the other. */
function placeCurbs(curbs: readonly Panel[], room: Room, scale: number, title: number): PlacedPanel[] {
  const each = (room.height - title * (curbs.length - 1)) / curbs.length;
  return curbs.map((panel, k) => {
    const scaleX = Math.min(scale, room.width / sizeX(panel));
    return place(panel, room.x, room.y + k * (each + title), scaleX, Math.min(each, CURB_STRIP) / sizeY(panel));
  });
}

/** Parts in a grid of equal cells, as many columns as make the smallest of them largest. */
function placeParts(parts: readonly Panel[], room: Room, gap: number, title: number): PlacedPanel[] {
  const cellsFor = (columns: number) => {
    const rows = Math.ceil(parts.length / columns);
    const width = (room.width - gap * (columns - 1)) / columns;
    const height = (room.height - title * (rows - 1)) / rows;
    const scales = parts.map((p) => Math.min(width / sizeX(p), height / sizeY(p)));
    return { columns, width, height, scales, least: Math.min(...scales) };
  };
  const choices = parts.map((_, k) => cellsFor(k + 1));
  const best = choices.reduce((a, b) => (b.least > a.least ? b : a));
  return parts.map((panel, k) => {
    const column = k % best.columns;
    const row = Math.floor(k / best.columns);
    const x = room.x + column * (best.width + gap);
    return place(panel, x, room.y + row * (best.height + title), best.scales[k]!);
  });
}

/** Share of the lower half that curbs take when niches, benches or a ceiling stand under them. */
const CURBS_BESIDE_PARTS = 0.34;

/**
 * Walls side by side on one height line, the floor plan beneath them, each curb laid open beside the plan with its
 * height drawn larger, and under it niches, benches and ceiling drawn as large as there is room. Everything fits the
 * sheet at the largest scale, nothing over anything else.
 */
export function arrange(panels: readonly Panel[], sheet: Sheet): Arrangement {
  const walls = panels.filter((p) => p.kind === 'wall');
  const plan = panels.find((p) => p.kind === 'plan')!;
  const curbs = panels.filter((p) => p.kind === 'curb');
  const parts = panels.filter((p) => p.kind === 'niche' || p.kind === 'bench' || p.kind === 'ceiling');
  const lowest = Math.min(...walls.map((p) => p.box.minY));
  const highest = Math.max(...walls.map((p) => p.box.maxY));
  const wallsMm = walls.reduce((sum, p) => sum + sizeX(p), 0);
  const { width, height, gap, title } = sheet;
  const besideShare = parts.length > 1 ? 0.56 : parts.length + curbs.length > 0 ? 0.46 : 0;
  const scale = Math.min(
    (width - gap * Math.max(0, walls.length - 1)) / wallsMm,
    (height - gap - 2 * title) / (highest - lowest + sizeY(plan)),
    (width * (1 - besideShare)) / sizeX(plan),
  );
  const rowWidth = wallsMm * scale + gap * Math.max(0, walls.length - 1);
  let x = (width - rowWidth) / 2;
  const placed = walls.map((panel) => {
    const spot = place(panel, x, title + (highest - panel.box.maxY) * scale, scale);
    x += spot.width + gap;
    return spot;
  });
  const below = title + (highest - lowest) * scale + gap + title;
  placed.push(place(plan, 0, below, scale));
  const left = sizeX(plan) * scale + gap * 2;
  const room = { x: left, y: below, width: width - left, height: height - below };
  const curbsHigh =
    parts.length > 0 ? Math.min(room.height * CURBS_BESIDE_PARTS, CURB_STRIP * curbs.length) : room.height;
  if (curbs.length > 0) placed.push(...placeCurbs(curbs, { ...room, height: curbsHigh }, scale, title));
  if (parts.length > 0) {
    const used = curbs.length > 0 ? curbsHigh + title : 0;
    placed.push(...placeParts(parts, { ...room, y: room.y + used, height: room.height - used }, gap, title));
  }
  return { panels: placed, scale };
}
