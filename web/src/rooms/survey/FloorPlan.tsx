import type { FlowLine } from '@careful-seam/core/floor/ponding/flow';
import { contourAt, contourHeights } from '@careful-seam/core/floor/survey/contours';
import type { SurveyJudged } from '@careful-seam/core/floor/survey/judgeSurvey';
import type { Shot, SurveyedFloor } from '@careful-seam/core/floor/survey/shots';
import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { type PointerEvent, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';

/** The floor with its shots, and what may be tapped on it. */
interface Props {
  /** The floor that is shot: its outline in plan and its drain, mm. */
  floor: SurveyedFloor;
  /** The shots that stand, in the order in which they were taken. */
  shots: readonly Shot[];
  /** What the shots come to; null while there are too few. */
  judged: SurveyJudged | null;
  /** Where the straightedge rocks most. */
  gap: { from: PlanPoint; to: PlanPoint } | null;
  /** Where water would run from. */
  flow: readonly FlowLine[];
  /** Water is shown moving. */
  moving: boolean;
  /** Where the rod goes next, and where one more shot would help most. */
  next: PlanPoint | null;
  /** Where one more shot would settle the most; null where none would. */
  doubt: PlanPoint | null;
  /** The shot that is looked at; null for none. */
  chosen: number | null;
  /** Shots that are tried higher or lower. */
  raised: ReadonlySet<number>;
  /** What stands beside a shot: its height, or the bed's thickness there; and whether that is too thin. */
  label: (mm: number) => string;
  /** Whether the bed is too thin where a shot lies so far over the rim, mm. */
  tooThin: (mm: number) => boolean;
  /** Told of a tapped shot. */
  onShot: (shot: number) => void;
  /** Told of a tapped place, mm. */
  onPlace: (place: PlanPoint) => void;
}

/** Width of the plan, px. */
const WIDE = 820;
/** Its height, px. */
const HIGH = 560;
/** Air round it, px. */
const PAD = 34;
/** A tap as near as this is at a shot, px. */
const NEAR_PX = 26;
/** Between two lines of equal height, mm: 1/8 in. */
const CONTOUR_MM = 25.4 / 8;

/** The ways of water. */
interface WaysProps {
  /** Where water would run from. */
  flow: readonly FlowLine[];
  /** Points in mm as an SVG path. */
  path: (points: readonly PlanPoint[]) => string;
  /** Water is shown moving. */
  moving: boolean;
  /** No pond is deeper than it may be. */
  pondsPass: boolean;
}

/** The ways that water takes, with drops that run along them. */
function Ways({ flow, path, moving, pondsPass }: WaysProps) {
  return (
    <>
      {flow.map((line, i) => (
        <g key={`${line.points[0]!.xMm} ${line.points[0]!.yMm}`}>
          <path d={path(line.points)} className={`fill-none [stroke-width:1.4] ${wayStroke(line.end, pondsPass)}`} />
          {moving && (
            <circle r={3} className="fill-water">
              <animateMotion
                path={path(line.points)}
                dur={`${(2 + (line.points.length % 5) * 0.4).toFixed(1)}s`}
                begin={`-${((i * 0.37) % 3).toFixed(2)}s`}
                repeatCount="indefinite"
              />
            </circle>
          )}
        </g>
      ))}
    </>
  );
}

/** The mark of one shot. */
interface MarkProps {
  /** Where it stands on the plan, px. */
  at: readonly [number, number];
  /** Width of the plan: at its end the label stands before the mark. */
  wide: number;
  /** It is looked at. */
  isChosen: boolean;
  /** What it asks for, in words. */
  label: string;
  /** How it is painted. */
  className: string;
}

/** A shot with its height. */
function ShotMark({ at: [x, y], wide, isChosen, label, className }: MarkProps) {
  return (
    <g>
      {isChosen && <circle cx={x} cy={y} r={13} className="fill-none stroke-water opacity-60 [stroke-width:6]" />}
      <path d={`M${x - 4} ${y}h8M${x} ${y - 4}v8`} className="stroke-ink [stroke-width:1.6]" />
      <text
        x={x > wide - 3 * PAD ? x - 5 : x + 5}
        y={y < 2 * PAD ? y + 14 : y - 5}
        textAnchor={x > wide - 3 * PAD ? 'end' : 'start'}
        className={`text-[11px] ${className}`}
      >
        {label}
      </text>
    </g>
  );
}

/** The floor from above: its shots, lines of one height an eighth apart, water where it stands and the ways that it takes. */
export function FloorPlan(props: Props) {
  const { floor, shots, judged, gap, flow, moving, next, doubt, chosen, raised, label, tooThin, onShot, onPlace } =
    props;
  const { t } = useTranslation();
  const svg = useRef<SVGSVGElement>(null);
  const xs = floor.footprint.map((p) => p.xMm);
  const ys = floor.footprint.map((p) => p.yMm);
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = Math.min((WIDE - 2 * PAD) / (maxX - minX), (HIGH - 2 * PAD) / (maxY - minY));
  const [wide, high] = [(maxX - minX) * scale + 2 * PAD, (maxY - minY) * scale + 2 * PAD];
  const at = (p: PlanPoint): [number, number] => [(p.xMm - minX) * scale + PAD, high - PAD - (p.yMm - minY) * scale];
  const path = (points: readonly PlanPoint[]) =>
    points
      .map(
        (p, i) =>
          `${i === 0 ? 'M' : 'L'}${at(p)
            .map((v) => v.toFixed(1))
            .join(' ')}`,
      )
      .join('');
  const contours = useMemo(() => {
    if (!judged) return [];
    return contourHeights(judged.z, CONTOUR_MM).flatMap((h) => contourAt(judged.surface, judged.z, h));
  }, [judged]);
  const contourPath = contours.map((piece) => path(piece)).join('');
  const tap = (event: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const found = shots
      .map((s, i) => ({ i, away: Math.hypot(at(s)[0] - p.x, at(s)[1] - p.y) }))
      .sort((a, b) => a.away - b.away)[0];
    if (found && found.away <= NEAR_PX) return onShot(found.i);
    onPlace({ xMm: Math.round((p.x - PAD) / scale + minX), yMm: Math.round((high - PAD - p.y) / scale + minY) });
  };
  const [dx, dy] = at(floor.drain);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${wide.toFixed(0)} ${high.toFixed(0)}`}
      className="h-full w-full touch-manipulation select-none"
      role="img"
      aria-label={t('survey.plan', { count: shots.length })}
      onPointerUp={tap}
      data-testid="floor-plan"
    >
      <path d={`${path(floor.footprint)}Z`} className="fill-leaf stroke-ink [stroke-width:2]" />
      <path d={contourPath} className="fill-none stroke-hair [stroke-width:1.2]" />
      {judged?.ponds.map((pond) => (
        <path
          key={`${pond.at.xMm} ${pond.at.yMm}`}
          d={pond.wet.map((w) => `${path(w)}Z`).join('')}
          className="fill-water opacity-45"
          data-testid="pond"
        />
      ))}
      <Ways flow={flow} path={path} moving={moving} pondsPass={judged?.pondVerdict === 'pass'} />
      {floor.rim ? (
        <path d={`${path(floor.rim)}Z`} className="fill-paper stroke-ink [stroke-width:2]" />
      ) : (
        <circle
          cx={dx}
          cy={dy}
          r={Math.max(6, floor.drainRimMm * scale)}
          className="fill-paper stroke-ink [stroke-width:2]"
        />
      )}
      {judged && (
        <path
          d={path([judged.falls.at, floor.drain])}
          className={`fill-none [stroke-width:2.4] [stroke-dasharray:2_5] ${judged.falls.verdict === 'pass' ? 'stroke-ink' : 'stroke-hold'}`}
        />
      )}
      {gap && <path d={path([gap.from, gap.to])} className="stroke-cure [stroke-linecap:round] [stroke-width:6]" />}
      {shots.map((s, i) => (
        <ShotMark
          key={`${s.xMm} ${s.yMm}`}
          at={at(s)}
          wide={wide}
          isChosen={i === chosen}
          label={label(s.zMm)}
          className={tooThin(s.zMm) ? 'fill-hold font-bold' : raised.has(i) ? 'fill-cure font-bold' : 'fill-soft'}
        />
      ))}
      {doubt && (
        <rect {...diamond(at(doubt))} className="fill-none stroke-cure [stroke-width:2.6]" data-testid="doubt" />
      )}
      {next && (
        <circle
          cx={at(next)[0]}
          cy={at(next)[1]}
          r={10}
          className="fill-none stroke-ink [stroke-width:2.6]"
          data-testid="next-place"
        />
      )}
    </svg>
  );
}

/** Water that reaches the drain; that stands where it may; that stands too deep or leaves the shower. */
function wayStroke(end: FlowLine['end'], pondsPass: boolean): string {
  if (end === 'drain') return 'stroke-water';
  return end === 'pond' && pondsPass ? 'stroke-water [stroke-dasharray:6_4]' : 'stroke-hold [stroke-dasharray:6_4]';
}

/** A mark that is no circle, for what is only tried. */
const diamond = ([x, y]: [number, number]) => ({
  x: x - 8,
  y: y - 8,
  width: 16,
  height: 16,
  transform: `rotate(45 ${x} ${y})`,
});
