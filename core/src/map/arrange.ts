import type { Point2 } from '../geometry/point';
import type { Panel } from './unfold';

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

/**
 * Walls side by side on one height line, the floor plan beneath them, each curb laid open beside the plan with its
 * height drawn larger so that its edges stay apart under a thumb. Everything fits the sheet at the largest scale.
 */
export function arrange(panels: readonly Panel[], sheet: Sheet): Arrangement {
  const walls = panels.filter((p) => p.kind === 'wall');
  const plan = panels.find((p) => p.kind === 'plan')!;
  const curbs = panels.filter((p) => p.kind === 'curb');
  const lowest = Math.min(...walls.map((p) => p.box.minY));
  const highest = Math.max(...walls.map((p) => p.box.maxY));
  const wallsMm = walls.reduce((sum, p) => sum + sizeX(p), 0);
  const { width, height, gap, title } = sheet;
  const curbShare = curbs.length > 0 ? 0.46 : 0;
  const scale = Math.min(
    (width - gap * Math.max(0, walls.length - 1)) / wallsMm,
    (height - gap - 2 * title) / (highest - lowest + sizeY(plan)),
    (width * (1 - curbShare)) / sizeX(plan),
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
  const each = curbs.length > 0 ? (height - below - title * (curbs.length - 1)) / curbs.length : 0;
  curbs.forEach((panel, k) => {
    const scaleX = Math.min(scale, (width - left) / sizeX(panel));
    placed.push(place(panel, left, below + k * (each + title), scaleX, Math.min(each, 44 * 4) / sizeY(panel)));
  });
  return { panels: placed, scale };
}
