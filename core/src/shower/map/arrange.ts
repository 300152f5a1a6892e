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

/** The paper that panels are arranged on, in its units. */
export interface Sheet {
  width: number;
  height: number;
  /** Room between parts. */
  gap: number;
  /** Room above a panel for its name. */
  title: number;
}

/** Panels in their places. */
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

/** Room for a part's name between it and the part above, whose marks stand out over its edge, in title heights. */
const NAME_ROOM = 1.4;

/** Height that a row of niches, benches or a ceiling needs at least, in drawing units. */
const LOWER_LEAST = 120;

/** Each curb as a strip across the room, one under the other. */
function placeCurbs(curbs: readonly Panel[], room: Room, scale: number, title: number): PlacedPanel[] {
  const step = title * NAME_ROOM;
  const each = (room.height - step * (curbs.length - 1)) / curbs.length;
  return curbs.map((panel, k) => {
    const scaleX = Math.min(scale, room.width / sizeX(panel));
    return place(panel, room.x, room.y + k * (each + step), scaleX, Math.min(each, CURB_STRIP) / sizeY(panel));
  });
}

/** How large a part is drawn in a cell: a curb fills it, its height apart from its length; others keep their shape. */
function scalesIn(panel: Panel, width: number, height: number, most: number): [number, number] {
  if (panel.kind === 'curb') return [Math.min(most, width / sizeX(panel)), Math.min(height, CURB_STRIP) / sizeY(panel)];
  const scale = Math.min(width / sizeX(panel), height / sizeY(panel));
  return [scale, scale];
}

/** Parts in a grid of equal cells, as many columns as make the least of them largest. */
function placeParts(parts: readonly Panel[], room: Room, wallScale: number, gap: number, title: number): PlacedPanel[] {
  const cellsFor = (columns: number) => {
    const rows = Math.ceil(parts.length / columns);
    const width = (room.width - gap * (columns - 1)) / columns;
    const height = (room.height - title * NAME_ROOM * (rows - 1)) / rows;
    const scales = parts.map((p) => scalesIn(p, width, height, wallScale));
    const least = Math.min(...parts.map((p, k) => Math.min(sizeX(p) * scales[k]![0], 1.4 * sizeY(p) * scales[k]![1])));
    return { columns, width, height, scales, least };
  };
  const choices = parts.map((_, k) => cellsFor(k + 1)).filter((c) => c.height > 0);
  const best = choices.reduce((a, b) => (b.least > a.least ? b : a));
  return parts.map((panel, k) => {
    const column = k % best.columns;
    const row = Math.floor(k / best.columns);
    const x = room.x + column * (best.width + gap);
    const y = room.y + row * (best.height + title * NAME_ROOM);
    return place(panel, x, y, best.scales[k]![0], best.scales[k]![1]);
  });
}

/**
 * Walls side by side on one height line, the floor plan beneath them, each curb laid open beside the plan with its
 * height drawn larger, and with it niches, benches and ceiling as large as there is room. Everything fits the sheet at
 * the largest scale, nothing over anything else.
 */
export function arrange(panels: readonly Panel[], sheet: Sheet): Arrangement {
  const walls = panels.filter((p) => p.kind === 'wall');
  const plan = panels.find((p) => p.kind === 'plan')!;
  const curbs = panels.filter((p) => p.kind === 'curb');
  const parts = panels.filter((p) => p.kind === 'niche' || p.kind === 'bench' || p.kind === 'ceiling');
  const lowerLeast = parts.length > 0 ? LOWER_LEAST * (parts.length + curbs.length > 4 ? 2 : 1) : 0;
  const lowest = Math.min(...walls.map((p) => p.box.minY));
  const highest = Math.max(...walls.map((p) => p.box.maxY));
  const wallsMm = walls.reduce((sum, p) => sum + sizeX(p), 0);
  const { width, height, gap, title } = sheet;
  const besideShare = parts.length > 0 ? 0.6 : curbs.length > 0 ? 0.46 : 0;
  const scale = Math.min(
    (width - gap * Math.max(0, walls.length - 1)) / wallsMm,
    (height - gap - 2 * title) / (highest - lowest + sizeY(plan)),
    (height - gap - 2 * title - lowerLeast) / (highest - lowest),
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
  if (curbs.length > 0 && parts.length === 0) placed.push(...placeCurbs(curbs, room, scale, title));
  if (parts.length > 0) placed.push(...placeParts([...curbs, ...parts], room, scale, gap, title));
  return { panels: placed, scale };
}
