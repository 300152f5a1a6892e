import { lineWork } from '@careful-seam/core/proof/shown/lineWork';
import { type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';
import { useMemo } from 'react';
import { pathOf } from './pathOf';
import { Mark, type Props, SIZE, STROKES } from './ShowerMap';

/** What is drawn on the sheet of the map. */
interface OnSheet {
  /** Walls, floor and parts, laid out side by side, px. */
  panels: readonly PlacedPanel[];
}
/** What is chosen: one element, or all that is looked at as one. */
type Chosen = Pick<Props, 'chosen'> & Required<Pick<Props, 'together'>>;
/** A solid halo outside the line of the seam that is chosen. */
export function Halo({ panels, chosen, together }: OnSheet & Chosen) {
  return (
    <>
      {panels.flatMap((placed) =>
        placed.panel.seams
          .filter((d) => d.seam === chosen || together.has(d.seam))
          .map((d, k) => (
            <g key={`${placed.panel.id} ${d.seam} ${k}`} className="fill-none [stroke-linecap:round]">
              <path
                d={pathOf(d.points.map((p) => toSheet(placed, p)))}
                className="stroke-water [stroke-width:22] opacity-35"
              />
              <path d={pathOf(d.points.map((p) => toSheet(placed, p)))} className="stroke-leaf [stroke-width:14]" />
            </g>
          )),
      )}
    </>
  );
}
/** The seams as line work: what was measured, seen, is missing or wrong, each by its own line. */
export function SeamLines({ model, panels, lines }: OnSheet & Pick<Props, 'model' | 'lines'>) {
  const lengths = useMemo(() => new Map(model.seams.map((s) => [s.id, s.lengthMm])), [model]);
  const lineOf = useMemo(() => new Map(lines.map((l) => [l.seam, l])), [lines]);
  return (
    <>
      {panels.map((placed) => (
        <g key={placed.panel.id} className="fill-none [stroke-linecap:round] [stroke-linejoin:round]">
          {placed.panel.seams.map((d, k) => {
            const line = lineOf.get(d.seam);
            if (!line) return null;
            const strokes = lineWork(
              line,
              lengths.get(d.seam)!,
              d.points.map((p) => toSheet(placed, p)),
              SIZE,
            );
            return (
              <g key={`${d.seam} ${d.echo} ${k}`} data-seam={d.seam}>
                {strokes.map((s) => (
                  <path key={`${s.state}${s.path}`} d={s.path} className={STROKES[s.state]} data-line={s.state} />
                ))}
              </g>
            );
          })}
        </g>
      ))}
    </>
  );
}
/** Corners, openings and whatever else has no length, each with its mark. */
export function Points({ panels, marks, chosen, together }: OnSheet & Chosen & Pick<Props, 'marks'>) {
  return (
    <>
      {panels.flatMap((placed) =>
        placed.panel.points.map((point) => {
          const at = toSheet(placed, point.at);
          const radius = Math.max(6, (point.diameterMm / 2) * placed.scaleX);
          return (
            <g key={`${placed.panel.id} ${point.element}`}>
              {(point.element === chosen || together.has(point.element)) && (
                <circle
                  cx={at[0]}
                  cy={at[1]}
                  r={radius + 7}
                  className="fill-none stroke-water opacity-50 [stroke-width:7]"
                />
              )}
              <Mark at={at} radius={radius} state={marks.get(point.element) ?? 'not-required'} />
            </g>
          );
        }),
      )}
    </>
  );
}
