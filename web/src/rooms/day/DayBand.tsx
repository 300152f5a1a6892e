import type { ShowerDay, WindowKind } from '@careful-seam/core/plan/dayWindows';
import { clockWords, momentWords, weekdayWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { type DayPart, piecesOnBand, placeOnBand } from './dayAxis';

/** Which window is drawn over which. */
const ORDER: readonly WindowKind[] = ['crew', 'cure', 'water'];

/** How each window is drawn: a bar for the crew, hatching for curing, a doubled line for water, an open frame for ready. */
function WindowShape({ kind, x, width }: { kind: WindowKind; x: number; width: number }) {
  switch (kind) {
    case 'crew':
      return <rect x={x} y={15} width={width} height={6} className="fill-soft" />;
    case 'cure':
      return <rect x={x} y={9} width={width} height={18} fill="url(#cure-hatch)" className="stroke-cure" />;
    case 'ready':
      return <rect x={x} y={9} width={width} height={18} className="fill-leaf stroke-ink [stroke-width:1.6]" />;
    case 'water':
      return (
        <g>
          <rect x={x} y={9} width={width} height={18} className="fill-water opacity-20" />
          <path d={`M${x} 10H${x + width}M${x} 15H${x + width}`} className="stroke-water [stroke-width:2]" />
        </g>
      );
  }
}

/** Hatching used by all bands of the page; drawn once. */
export function BandPatterns() {
  return (
    <svg width="0" height="0" aria-hidden="true" className="absolute">
      <defs>
        <pattern id="cure-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" className="stroke-cure [stroke-width:2.4]" />
        </pattern>
      </defs>
    </svg>
  );
}

/** When a shower can be looked at: from a moment on, to another where something closes it. */
export interface ReadyWindow {
  /** When it opens, ms since 1970. */
  fromMs: number;
  /** When it closes; null: nothing closes it, and it is drawn where it opens alone. */
  toMs: number | null;
}

/** Width of a window that nothing closes, px. */
const OPEN_PX = 26;

/** A look that closes is a frame up to its last moment, drawn strong; one that nothing closes is a bracket where it opens. */
function ReadyShape({ ready, parts, wide }: { ready: ReadyWindow; parts: readonly DayPart[]; wide: number }) {
  if (ready.toMs === null) {
    const from = placeOnBand(parts, ready.fromMs);
    if (from === null) return null;
    const x = from * wide;
    return <path d={`M${x + OPEN_PX} 9H${x}V27H${x + OPEN_PX}`} className="fill-none stroke-ink [stroke-width:1.6]" />;
  }
  const end = placeOnBand(parts, ready.toMs);
  return (
    <>
      {piecesOnBand(parts, ready.fromMs, ready.toMs).map(({ from, to }) => (
        <WindowShape key={from} kind="ready" x={from * wide} width={Math.max(2, (to - from) * wide)} />
      ))}
      {end !== null && <path d={`M${end * wide} 3V33`} className="stroke-ink [stroke-width:3]" />}
    </>
  );
}

/** One shower's windows over the band of hours, in words for those who don't see it. What is past is paler. */
export function DayBand({
  day,
  ready,
  parts,
  nowMs,
  zone,
  wide,
}: {
  day: ShowerDay;
  ready: ReadyWindow | null;
  parts: readonly DayPart[];
  nowMs: number;
  zone: string;
  wide: number;
}) {
  const { t } = useTranslation();
  const x = (share: number) => share * wide;
  const now = placeOnBand(parts, nowMs);
  const windows = day.windows.filter((w) => w.kind !== 'ready');
  const drawn = ORDER.flatMap((kind) =>
    windows
      .filter((w) => w.kind === kind)
      .flatMap((w) =>
        piecesOnBand(parts, w.fromMs, kind === 'crew' && w.toMs === null ? nowMs : w.toMs).map((p) => ({ kind, ...p })),
      ),
  );
  const told = [...windows, ...(ready ? [{ kind: 'ready' as const, ...ready }] : [])];
  const words = told
    .filter((w) => piecesOnBand(parts, w.fromMs, w.toMs).length > 0)
    .map(
      (w) =>
        `${t(`rounds.${w.kind}`)} ${momentWords(w.fromMs, zone)}${w.toMs === null ? '' : ` – ${momentWords(w.toMs, zone)}`}`,
    )
    .join('; ');
  return (
    <svg viewBox={`0 0 ${wide} 36`} className="block h-9 w-full" role="img" aria-label={words || t('rounds.nothing')}>
      <path d={`M0 18H${wide}`} className="stroke-hair" />
      {drawn.map((w) => (
        <WindowShape key={`${w.kind} ${w.from}`} kind={w.kind} x={x(w.from)} width={Math.max(2, x(w.to) - x(w.from))} />
      ))}
      {ready && <ReadyShape ready={ready} parts={parts} wide={wide} />}
      {now !== null && <rect x={0} y={0} width={x(now)} height={36} className="fill-paper opacity-60" />}
      {now !== null && <path d={`M${x(now)} 0V7M${x(now)} 29V36`} className="stroke-ink [stroke-width:2]" />}
    </svg>
  );
}

/** The hours above the bands. */
export function HourAxis({ parts, nowMs, wide }: { parts: readonly DayPart[]; nowMs: number; wide: number }) {
  const step = wide < 500 ? 4 : 2;
  const now = placeOnBand(parts, nowMs);
  return (
    <svg viewBox={`0 0 ${wide} 40`} className="block h-10 w-full" aria-hidden="true">
      {parts.map((p, k) => {
        const hours = k === 0 ? Array.from({ length: 12 / step + 1 }, (_, i) => 6 + i * step) : [];
        return (
          <g key={p.fromMs}>
            {k > 0 && (
              <text x={p.at * wide + 4} y={14} className="fill-ink text-[13px] font-semibold">
                {weekdayWords(p.day.getTime(), p.day.timeZone)}
              </text>
            )}
            {hours.map((h) => (
              <text
                key={h}
                x={(p.at + ((h - 6) / 12) * p.width) * wide}
                y={14}
                textAnchor={h === 6 ? 'start' : h === 18 ? 'end' : 'middle'}
                className="fill-soft text-[13px]"
              >
                {h}:00
              </text>
            ))}
          </g>
        );
      })}
      {now !== null && (
        <g>
          <path d={`M${now * wide} 40l-6 -9h12z`} className="fill-ink" />
          <text
            // Beside the mark, and on its other side where the hour would not fit before the edge.
            x={now * wide + (now * wide > wide - 60 ? -10 : 14)}
            y={35}
            textAnchor={now * wide > wide - 60 ? 'end' : 'start'}
            className="fill-ink text-[12px] font-bold"
          >
            {clockWords(nowMs, parts[0]!.day.timeZone)}
          </text>
        </g>
      )}
    </svg>
  );
}

/** What the shapes mean. */
export function BandLegend() {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-wrap gap-x-5 text-sm text-soft" aria-label={t('map.legend')}>
      {(['crew', 'cure', 'water', 'ready'] as const).map((kind) => (
        <li key={kind} className="flex items-center gap-2">
          <svg viewBox="0 0 44 36" className="h-7 w-9" aria-hidden="true">
            <WindowShape kind={kind} x={1} width={42} />
          </svg>
          {t(`rounds.${kind}`)}
        </li>
      ))}
      <li className="flex items-center gap-2">
        <svg viewBox="0 0 44 36" className="h-7 w-9" aria-hidden="true">
          <path d="M2 18H42" className="way-line" />
          <circle cx={12} cy={18} r={10} className="fill-leaf stroke-ink [stroke-width:2.5]" />
        </svg>
        {t('way.yours')}
      </li>
      <li className="flex items-center gap-2">
        <svg viewBox="0 0 10 36" className="h-7 w-3" aria-hidden="true">
          <path d="M5 3V33" className="stroke-ink [stroke-width:3]" />
        </svg>
        {t('rounds.readBy')}
      </li>
    </ul>
  );
}
