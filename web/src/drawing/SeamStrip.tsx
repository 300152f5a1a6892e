import type { Evidence } from '@careful-seam/core/log/state';
import { lineWork } from '@careful-seam/core/proof/shown/lineWork';
import type { SeamLine } from '@careful-seam/core/proof/shown/seamLine';
import { bareLength } from '@careful-seam/core/units/length';
import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import { useTranslation } from 'react-i18next';

/** One seam laid out straight, with its readings. */
interface Props {
  /** How the seam stands, stretch by stretch. */
  line: SeamLine;
  /** Length of the whole seam, mm. */
  lengthMm: number;
  /** Its readings, drawn as ticks at their places. */
  readings: readonly Evidence[];
  /** True for a reading that fails. */
  short: (e: Evidence) => boolean;
  /** Where the next reading is most useful, mm; null where none is needed. */
  nextAtMm: number | null;
  /** In what lengths are typed and shown. */
  unit: ShownUnit;
}

/** Width of the strip, px. */
const WIDTH = 372;
/** Air at both ends, px. */
const INSET = 8;
/** Height of the line in the strip, px. */
const Y = 34;
/** How each state of a stretch is drawn. */
const STATE_CLASS: Record<string, string> = {
  unseen: 'stroke-ink [stroke-width:3] [stroke-dasharray:0.1_6.5]',
  seen: 'stroke-ink [stroke-width:1.6]',
  measured: 'stroke-ink [stroke-width:3.4]',
  defect: 'stroke-hold [stroke-width:2.4]',
  covered: 'stroke-ink [stroke-width:2.4] [stroke-dasharray:11_6]',
  'not-required': 'stroke-hair',
  tick: 'stroke-ink [stroke-width:1.8]',
  water: 'stroke-water [stroke-width:1.6]',
};

/** One seam stretched out straight: its line work, what was read where, and the place that would help next. */
export function SeamStrip({ line, lengthMm, readings, short, nextAtMm, unit }: Props) {
  const { t } = useTranslation();
  const x = (mm: number) => INSET + (mm / lengthMm) * (WIDTH - 2 * INSET);
  const strokes = lineWork(
    line,
    lengthMm,
    [
      [INSET, Y],
      [WIDTH - INSET, Y],
    ],
    { tooth: 10, tick: 7, gap: 5 },
  );
  const marks = [0, 0.25, 0.5, 0.75, 1].map((share) => share * lengthMm);
  let lastLabel = -100;
  const labels = [...readings]
    .sort((a, b) => a.atMm - b.atMm)
    .filter((r) => {
      const free = x(r.atMm) - lastLabel > 40;
      if (free) lastLabel = x(r.atMm);
      return free;
    });
  return (
    <svg viewBox={`0 0 ${WIDTH} 66`} className="w-full shrink-0" role="img" aria-label={t('card.strip')}>
      <g className="fill-none [stroke-linecap:round]">
        {strokes.map((s) => (
          <path key={`${s.state}${s.path}`} d={s.path} className={STATE_CLASS[s.state]} />
        ))}
      </g>
      {labels.map((r) => (
        <text
          key={r.entry}
          x={Math.min(Math.max(x(r.atMm), 16), WIDTH - 18)}
          y={18}
          textAnchor="middle"
          className={`text-[13px] font-semibold ${short(r) ? 'fill-hold' : 'fill-ink'}`}
        >
          {bareLength(r.valueMm!, unit)}
        </text>
      ))}
      {nextAtMm !== null && <path d={`M${x(nextAtMm)} ${Y + 5}l-5 9h10z`} className="fill-water" />}
      {marks.map((mm) => (
        <text
          key={mm}
          x={Math.min(Math.max(x(mm), 14), WIDTH - 16)}
          y={60}
          textAnchor="middle"
          className="fill-soft text-[11px]"
        >
          {bareLength(mm, unit).replace(/ \d+\/\d+$/, '')}
        </text>
      ))}
    </svg>
  );
}
