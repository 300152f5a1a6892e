import type { SymptomPlace } from '@careful-seam/core/log/callBodies';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { symptomPoint } from '@careful-seam/core/trace/symptoms';
import { edgeLetters } from '@careful-seam/words/texts/names';
import { type PointerEvent, useRef } from 'react';
import { useTranslation } from 'react-i18next';

/** Round the shower so much of the ceiling below is drawn, mm. */
const ROUND_MM = 600;

/** What is drawn, and what a tap is told. */
interface Props {
  model: ShowerModel;
  /** Where water was seen. */
  places: readonly SymptomPlace[];
  /** How much each place of the shower is suspected: points in plan with their share, mm. */
  suspected?: readonly { xMm: number; yMm: number; share: number }[];
  /** Told where somebody tapped, in plan, mm. */
  onTap?: (xMm: number, yMm: number) => void;
}

/** The plan as it is drawn: as one stands before the shower, its front below. */
interface Drawn {
  width: number;
  height: number;
  /** A hundredth of its longer side, mm. */
  unit: number;
  /** A place of the plan on the drawing. */
  at: (xMm: number, yMm: number) => [number, number];
  /** A place of the drawing on the plan. */
  back: (x: number, y: number) => [number, number];
}

function drawnOf({ geometry: { footprint } }: ShowerModel): Drawn {
  const [xs, ys] = [footprint.map((p) => p.xMm), footprint.map((p) => p.yMm)];
  const [minX, minY] = [Math.min(...xs) - ROUND_MM, Math.min(...ys) - ROUND_MM];
  const [width, height] = [Math.max(...xs) + ROUND_MM - minX, Math.max(...ys) + ROUND_MM - minY];
  return {
    width,
    height,
    unit: Math.max(width, height) / 100,
    at: (xMm, yMm) => [xMm - minX, height - (yMm - minY)],
    back: (x, y) => [Math.round(x + minX), Math.round(height - y + minY)],
  };
}

/** Walls, curbs and openings with their letters, and the drain. */
function Sides({ model, drawn: { at, unit } }: { model: ShowerModel; drawn: Drawn }) {
  const { footprint, edges, drain } = model.geometry;
  const letters = edgeLetters(model);
  const [drainX, drainY] = at(drain.xMm, drain.yMm);
  return (
    <>
      <polygon
        points={footprint.map((p) => at(p.xMm, p.yMm).join(',')).join(' ')}
        className="fill-paper stroke-ink"
        strokeWidth={unit * 0.6}
      />
      {edges.map((edge, k) => {
        const [a, b] = [footprint[k]!, footprint[(k + 1) % footprint.length]!];
        const [from, to] = [at(a.xMm, a.yMm), at(b.xMm, b.yMm)];
        const id = edgeId(model.geometry, k);
        const long = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
        // Outside lies to the right of an edge that runs counter-clockwise.
        const out = [-(to[1] - from[1]) / long, (to[0] - from[0]) / long];
        const middle = [(from[0] + to[0]) / 2 + out[0]! * unit * 5, (from[1] + to[1]) / 2 + out[1]! * unit * 5];
        return (
          <g key={id}>
            <path
              d={`M${from.join(' ')}L${to.join(' ')}`}
              className={edge.kind === 'open' ? 'stroke-hair' : 'stroke-ink'}
              strokeWidth={unit * (edge.kind === 'curb' ? 1 : 2)}
            />
            <text
              x={middle[0]}
              y={middle[1]}
              fontSize={unit * 5}
              textAnchor="middle"
              dominantBaseline="central"
              className="fill-soft"
            >
              {letters.get(id)}
            </text>
          </g>
        );
      })}
      <circle cx={drainX} cy={drainY} r={unit * 2} className="fill-none stroke-soft" strokeWidth={unit * 0.5} />
    </>
  );
}

/** A drop that lies beyond what is drawn stands at its edge, towards where it is: nobody sees one that is cut off. */
function inSight([x, y]: [number, number], { width, height, unit }: Drawn): [number, number] {
  const within = (value: number, most: number) => Math.max(unit * 6, Math.min(most - unit * 7, value));
  return [within(x, width), within(y, height)];
}

/** A drop where water was seen, with its number. */
function Drop({ at: [x, y], unit, number }: { at: [number, number]; unit: number; number: number }) {
  return (
    <g className="fill-none stroke-water" strokeWidth={unit * 0.8}>
      <path
        d={`M${x} ${y - unit * 5}c${unit * 3} ${unit * 4} ${unit * 4} ${unit * 5} ${unit * 4} ${unit * 7}a${unit * 4} ${unit * 4} 0 0 1 ${-unit * 8} 0c0 ${-unit * 2} ${unit} ${-unit * 3} ${unit * 4} ${-unit * 7}z`}
        className="fill-water/30"
      />
      <text
        x={x}
        y={y + unit * 2.5}
        fontSize={unit * 4.5}
        textAnchor="middle"
        dominantBaseline="central"
        className="fill-ink stroke-none font-bold"
      >
        {number}
      </text>
    </g>
  );
}

/** The shower from above on the room below, to scale: where water was seen, and what it is suspected to come from. */
export function StainPlan({ model, places, suspected = [], onTap }: Props) {
  const { t } = useTranslation();
  const svg = useRef<SVGSVGElement>(null);
  const drawn = drawnOf(model);
  const { width, height, unit, at } = drawn;
  const tap = (event: PointerEvent) => {
    const toSheet = svg.current?.getScreenCTM()?.inverse();
    if (!onTap || !toSheet) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(toSheet);
    onTap(...drawn.back(p.x, p.y));
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      className={`h-full w-full ${onTap ? 'cursor-crosshair' : ''}`}
      role="img"
      aria-label={t('call.planLabel')}
      data-testid="stain-plan"
      onPointerUp={tap}
    >
      <rect width={width} height={height} className="fill-leaf stroke-hair" strokeWidth={unit * 0.4} />
      <Sides model={model} drawn={drawn} />
      {suspected.map((s) => (
        <circle
          key={`${s.xMm} ${s.yMm}`}
          cx={at(s.xMm, s.yMm)[0]}
          cy={at(s.xMm, s.yMm)[1]}
          r={unit * (1 + 5 * Math.sqrt(s.share))}
          className="fill-ink opacity-20"
        />
      ))}
      {places.map((place, k) => {
        const point = symptomPoint(model, place);
        return point && <Drop key={k} at={inSight(at(point[0], point[1]), drawn)} unit={unit} number={k + 1} />;
      })}
    </svg>
  );
}
