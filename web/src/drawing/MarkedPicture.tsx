import type { PhotoMark } from '@careful-seam/core/log/places';
import { type PointerEvent, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { usePicture } from './usePicture';

/** A picture with its marks; drawn on where `onMark` is there. */
interface Props {
  /** SHA-256 of its bytes, in hex. */
  hash: string;
  /** Width of the whole picture, px. */
  widthPx: number;
  /** Height of the whole picture, px. */
  heightPx: number;
  /** Arrows, circles, lengths and areas, in shares of the picture. */
  marks: readonly PhotoMark[];
  /** The kind of mark that a drag draws, or null to look only. */
  tool: PhotoMark['kind'] | null;
  /** Told of a new mark; without it the picture is only looked at. */
  onMark?: (mark: PhotoMark) => void;
}

/** A place on the picture. */
interface Spot {
  /** Share of its width from the left, 0 to 1. */
  x: number;
  /** Share of its height from the top, 0 to 1. */
  y: number;
}

/** One mark as it is drawn, with a light edge so that it shows on dark and on light. */
function MarkShape({ mark, width, height }: { mark: PhotoMark; width: number; height: number }) {
  const points = mark.points.map((p) => ({ x: p.x * width, y: p.y * height }));
  const [a, b] = [points[0]!, points.at(-1)!];
  const size = width / 100;
  const angle = Math.atan2(b.y - a.y, b.x - a.x);
  const wing = (by: number) =>
    `M${b.x} ${b.y}L${b.x - Math.cos(angle + by) * size * 4} ${b.y - Math.sin(angle + by) * size * 4}`;
  const bar = (p: Spot) =>
    `M${p.x - Math.sin(angle) * size * 2} ${p.y + Math.cos(angle) * size * 2}L${p.x + Math.sin(angle) * size * 2} ${p.y - Math.cos(angle) * size * 2}`;
  const path = {
    arrow: `M${a.x} ${a.y}L${b.x} ${b.y}${wing(0.5)}${wing(-0.5)}`,
    length: `M${a.x} ${a.y}L${b.x} ${b.y}${bar(a)}${bar(b)}`,
    area: `M${points.map((p) => `${p.x} ${p.y}`).join('L')}Z`,
    circle: '',
  }[mark.kind];
  return (
    <g fill="none" strokeWidth={size} stroke="#fff" style={{ paintOrder: 'stroke' }}>
      {['#fff', '#a3201b'].map((stroke, i) =>
        mark.kind === 'circle' ? (
          <circle
            key={stroke}
            cx={a.x}
            cy={a.y}
            r={Math.hypot(b.x - a.x, b.y - a.y)}
            stroke={stroke}
            strokeWidth={i === 0 ? size * 1.2 : size * 0.6}
          />
        ) : (
          <path
            key={stroke}
            d={path}
            stroke={stroke}
            strokeWidth={i === 0 ? size * 1.2 : size * 0.6}
            strokeLinecap="round"
          />
        ),
      )}
      {mark.text && (
        <text
          x={b.x + size * 2}
          y={b.y - size * 2}
          fontSize={size * 4}
          fill="#a3201b"
          strokeWidth={size * 0.8}
          fontWeight="700"
        >
          {mark.text}
        </text>
      )}
    </g>
  );
}

/** A picture with its marks over it. The marks are vectors; the picture's own bytes never change. */
export function MarkedPicture({ hash, widthPx, heightPx, marks, tool, onMark }: Props) {
  const { t } = useTranslation();
  const url = usePicture(hash);
  const [drag, setDrag] = useState<Spot[]>([]);
  const svg = useRef<SVGSVGElement>(null);
  const spot = (e: PointerEvent): Spot => {
    const box = svg.current!.getBoundingClientRect();
    const share = (v: number) => Math.max(0, Math.min(1, v));
    return { x: share((e.clientX - box.left) / box.width), y: share((e.clientY - box.top) / box.height) };
  };
  const end = () => {
    if (tool && drag.length > 1 && onMark)
      onMark({ kind: tool, points: tool === 'area' ? drag.slice(0, 400) : [drag[0]!, drag.at(-1)!] });
    setDrag([]);
  };
  return (
    <div className="relative w-full bg-leaf" style={{ aspectRatio: `${widthPx}/${heightPx}` }}>
      {url ? (
        <img src={url} alt={t('picture.alt')} className="absolute inset-0 h-full w-full" draggable={false} />
      ) : (
        <p className="p-4 text-soft">{t('picture.pending')}</p>
      )}
      <svg
        ref={svg}
        viewBox={`0 0 ${widthPx} ${heightPx}`}
        className={`absolute inset-0 h-full w-full ${tool ? 'cursor-crosshair touch-none' : ''}`}
        onPointerDown={tool ? (e) => setDrag([spot(e)]) : undefined}
        onPointerMove={tool && drag.length > 0 ? (e) => setDrag([...drag, spot(e)]) : undefined}
        onPointerUp={tool ? end : undefined}
        data-testid="marks"
        role="img"
        aria-label={t('picture.marks', { count: marks.length })}
      >
        {marks.map((mark) => (
          <MarkShape key={JSON.stringify(mark)} mark={mark} width={widthPx} height={heightPx} />
        ))}
        {tool && drag.length > 1 && (
          <MarkShape
            mark={{ kind: tool, points: tool === 'area' ? drag : [drag[0]!, drag.at(-1)!] }}
            width={widthPx}
            height={heightPx}
          />
        )}
      </svg>
    </div>
  );
}
