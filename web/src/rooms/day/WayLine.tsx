import type { InspectorDay } from '@careful-seam/core/plan/inspectorDay';
import { type DayPart, nearestOnBand, placeOnBand } from './dayAxis';

/** A minute, ms. */
const MINUTE_MS = 60_000;

/** A row that a stop is drawn on: its place from the top of the list and its height, px. */
export interface RowBox {
  top: number;
  height: number;
}

/**
 * The inspector's way as one line through the hours: along a row while a look lasts, down to the next one while one drives. Stops are numbered
 * where their looks begin; labels keep clear of the line, since the names stand at its left.
 */
export function WayLine({
  day,
  rows,
  parts,
  wide,
  nowMs,
}: {
  day: InspectorDay;
  rows: readonly RowBox[];
  parts: readonly DayPart[];
  wide: number;
  nowMs: number;
}) {
  const { order, begins } = day.route;
  const points = order.flatMap((id, k) => {
    const row = rows[k];
    const stop = day.byId.get(id);
    if (!row || !stop) return [];
    const y = row.top + row.height / 2;
    // What is read in the evening stands at the end of its day.
    const from = nearestOnBand(parts, begins[k]!);
    const to = nearestOnBand(parts, begins[k]! + stop.minutes * MINUTE_MS);
    return [{ number: k + 1, x: from * wide, x2: Math.max(to * wide, from * wide + 10), y }];
  });
  if (points.length === 0) return null;
  const now = placeOnBand(parts, nowMs);
  const first = points[0]!;
  const path = points.map(({ x, x2, y }, k) => `${k === 0 ? 'M' : 'L'}${x} ${y}H${x2}`).join('');
  const height = Math.max(...rows.map((r) => r.top + r.height));
  return (
    <svg
      viewBox={`0 0 ${wide} ${height}`}
      width={wide}
      height={height}
      className="pointer-events-none absolute top-0 right-2"
      aria-hidden="true"
      data-testid="way"
    >
      {now !== null && <path d={`M${now * wide} 0L${first.x} ${first.y}`} className="way-halo" />}
      <path d={path} className="way-halo" />
      {now !== null && now * wide < first.x && (
        <path d={`M${now * wide} 0L${first.x} ${first.y}`} className="way-line [stroke-dasharray:2_5]" />
      )}
      <path d={path} className="way-line" />
      {points.map(({ number, x, y }) => (
        <g key={number}>
          <circle cx={x} cy={y} r={12} className="fill-leaf stroke-ink [stroke-width:2.5]" />
          <text x={x} y={y + 5} textAnchor="middle" className="fill-ink font-bold text-[14px]">
            {number}
          </text>
        </g>
      ))}
    </svg>
  );
}
