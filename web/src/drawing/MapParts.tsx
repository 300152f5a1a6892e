import { lineWork } from '@careful-seam/core/proof/shown/lineWork';
import { type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';
import { showLength } from '@careful-seam/core/units/length';
import { useId, useMemo } from 'react';
import { usePreferences } from '../ui/preferences';
import { type Box, lengthLabels, type Measured } from './lengthLabels';
import { pathOf } from './pathOf';
import { Mark, type MarkState, type Props, SIZE, STROKES } from './ShowerMap';

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
/** Widths of the halo of what is suspected, px: of the least and of the most. */
const SUSPECTED = { least: 6, more: 26 };
/** What is suspected of a leak: the likelier, the wider its halo, against the likeliest of all. */
export function Suspected({ panels, suspected }: OnSheet & { suspected: ReadonlyMap<string, number> }) {
  const most = Math.max(...suspected.values(), 0);
  const width = (id: string): number | null => {
    const share = suspected.get(id);
    return share === undefined || most === 0 ? null : SUSPECTED.least + SUSPECTED.more * Math.sqrt(share / most);
  };
  return (
    <g data-testid="suspected">
      {panels.flatMap((placed) => [
        ...placed.panel.seams.flatMap((d, k) => {
          const wide = width(d.seam);
          if (wide === null) return [];
          return [
            <path
              key={`${placed.panel.id} ${d.seam} ${k}`}
              d={pathOf(d.points.map((p) => toSheet(placed, p)))}
              className="fill-none stroke-ink opacity-15 [stroke-linecap:round]"
              strokeWidth={wide}
            />,
          ];
        }),
        ...placed.panel.points.flatMap((point) => {
          const wide = width(point.element);
          if (wide === null) return [];
          const [cx, cy] = toSheet(placed, point.at);
          const key = `${placed.panel.id} ${point.element}`;
          return [<circle key={key} cx={cx} cy={cy} r={wide * 0.75} className="fill-ink opacity-20" />];
        }),
      ])}
    </g>
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

/** How the face of a wall, the floor or a shelf stands at a stage: dotted where it is not seen yet, hatched where something is wrong. */
const TINTS: Partial<Record<MarkState, string>> = { unseen: 'dots', pass: 'whole', fail: 'hatch' };

/** The faces of walls, floor and parts, tinted by how they stand. */
export function Faces({ panels, marks, chosen, together }: OnSheet & Chosen & Pick<Props, 'marks'>) {
  const id = useId();
  return (
    <>
      <defs>
        <pattern id={`${id}dots`} width="14" height="14" patternUnits="userSpaceOnUse">
          <circle cx="4" cy="4" r="1.1" className="fill-hair" />
          <circle cx="11" cy="11" r="1.1" className="fill-hair" />
        </pattern>
        <pattern id={`${id}hatch`} width="12" height="12" patternUnits="userSpaceOnUse">
          <path d="M0 12L12 0" className="stroke-hold opacity-50 [stroke-width:1.2]" />
        </pattern>
        <pattern id={`${id}whole`} width="10" height="10" patternUnits="userSpaceOnUse">
          <rect width="10" height="10" className="fill-ink opacity-[0.07]" />
        </pattern>
      </defs>
      {panels.map((placed) => (
        <g key={placed.panel.id}>
          {placed.panel.faces.map((f) => {
            const d = [f.outline, ...f.holes].map((loop) => `${pathOf(loop.map((p) => toSheet(placed, p)))}Z`).join('');
            const state = marks.get(f.face) ?? 'not-required';
            const tint = TINTS[state];
            const isChosen = f.face === chosen || together.has(f.face);
            return (
              <g key={f.face} data-face={f.face} data-state={state}>
                <path
                  d={d}
                  fillRule="evenodd"
                  className={isChosen ? 'fill-rule stroke-hair' : 'fill-leaf stroke-hair'}
                  strokeWidth={0.8}
                />
                {tint && !isChosen && <path d={d} fillRule="evenodd" fill={`url(#${id}${tint})`} />}
              </g>
            );
          })}
        </g>
      ))}
    </>
  );
}

/** What a wall, the floor or a part covers of the sheet, px. */
function boxOf(placed: PlacedPanel): Box {
  const { minX, minY, maxX, maxY } = placed.panel.box;
  const [a, b] = [toSheet(placed, [minX, minY]), toSheet(placed, [maxX, maxY])];
  return {
    minX: Math.min(a[0], b[0]),
    minY: Math.min(a[1], b[1]),
    maxX: Math.max(a[0], b[0]),
    maxY: Math.max(a[1], b[1]),
  };
}

/** Lengths beside the seams, as many as fit without standing on something. */
export function Lengths({ model, panels }: OnSheet & Pick<Props, 'model'>) {
  const { unit } = usePreferences();
  const labels = useMemo(() => {
    const lengths = new Map(model.seams.map((s) => [s.id, s.lengthMm]));
    const lines: Measured[] = panels.flatMap((placed) =>
      placed.panel.seams.flatMap(({ seam, points }) => {
        const mm = lengths.get(seam);
        if (mm === undefined) return [];
        return [{ seam, points: points.map((p) => toSheet(placed, p)), text: showLength(mm, unit), on: boxOf(placed) }];
      }),
    );
    const titles = panels.map(({ x, y }) => ({ minX: x, minY: y - 26, maxX: x + 170, maxY: y - 8 }));
    const marks = panels.flatMap((placed) =>
      placed.panel.points.map((point) => {
        const [x, y] = toSheet(placed, point.at);
        const r = Math.max(6, (point.diameterMm / 2) * placed.scaleX) + 2;
        return { minX: x - r, minY: y - r, maxX: x + r, maxY: y + r };
      }),
    );
    return lengthLabels(lines, [...titles, ...marks]);
  }, [model, panels, unit]);
  return (
    <g className="pointer-events-none fill-soft text-[11px]" data-testid="map-lengths">
      {labels.map(({ seam, text, at, isUpright }) => (
        <text
          key={seam}
          x={at[0]}
          y={at[1]}
          textAnchor="middle"
          dominantBaseline="central"
          transform={isUpright ? `rotate(-90 ${at[0]} ${at[1]})` : undefined}
        >
          {text}
        </text>
      ))}
    </g>
  );
}
