import type { WeekShower, WeekStep } from '@careful-seam/contract/api/plan';
import { hourWords, momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useStageLabels } from '../../tablet/useStageLabels';

/** Gap between two days, px. */
const GAP = 6;

/** The days as they are drawn over a width, px. */
interface WeekAxis {
  days: readonly { day: string; fromMs: number; toMs: number }[];
  wide: number;
}
/** Width of one of them, px. */
const dayWide = ({ days, wide }: WeekAxis): number => (wide - GAP * (days.length - 1)) / Math.max(1, days.length);

/** Hatching that all rows use; drawn once. */
export function WeekPatterns() {
  return (
    <svg width="0" height="0" aria-hidden="true" className="absolute">
      <defs>
        <pattern id="week-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" className="stroke-cure [stroke-width:2.4]" />
        </pattern>
      </defs>
    </svg>
  );
}

/** Where a moment stands in the drawing, px; between two days at the beginning of the second. */
function xOf(axis: WeekAxis, ms: number): number {
  const each = dayWide(axis);
  for (const [k, { fromMs, toMs }] of axis.days.entries()) {
    if (ms < fromMs) return k * (each + GAP);
    if (ms <= toMs) return k * (each + GAP) + ((ms - fromMs) / (toMs - fromMs)) * each;
  }
  return axis.wide;
}

/** One step: a bar for work, hatching for a wait, a doubled line for water, a mark for a look. */
function Step({ step, axis }: { step: WeekStep; axis: WeekAxis }) {
  const [x, end] = [xOf(axis, step.fromMs), xOf(axis, step.toMs)];
  const width = Math.max(end - x, 0);
  if (width === 0 && step.kind !== 'look') return null;
  switch (step.kind) {
    case 'work':
      return (
        <rect x={x} y={step.critical ? 11 : 13} width={width} height={step.critical ? 10 : 6} className="fill-soft" />
      );
    case 'wait':
      return <rect x={x} y={8} width={width} height={16} fill="url(#week-hatch)" className="stroke-cure" />;
    case 'water':
      return <path d={`M${x} 13H${end}M${x} 19H${end}`} className="stroke-water [stroke-width:2]" />;
    case 'look':
      if (x >= axis.wide) return null;
      return <circle cx={x} cy={16} r={6} className="fill-leaf stroke-ink [stroke-width:2.5]" />;
  }
}

/** A shower's week: what the plan has for it, what happened, when it is ready. */
export function WeekRow({ shower, axis, nowMs }: { shower: WeekShower; axis: WeekAxis; nowMs: number }) {
  const { t } = useTranslation();
  const labelOf = useStageLabels();
  const each = dayWide(axis);
  const firstMs = axis.days[0]?.fromMs ?? 0;
  const happened = shower.released.filter((r) => r.atMs >= firstMs);
  const words = [
    t('week.look', {
      label: labelOf(shower.lookStage, shower.lookLabel),
      at: hourWords(shower.lookMs, shower.timeZone),
      minutes: shower.lookMinutes,
    }),
    t('way.readyOn', { at: momentWords(shower.readyMs, shower.timeZone) }),
    ...happened.map((r) =>
      t('week.released', { label: labelOf(r.stage, r.label), by: r.by, at: hourWords(r.atMs, shower.timeZone) }),
    ),
  ];
  return (
    <li className="grid min-h-12 grid-cols-[13rem_1fr] items-center gap-2 border-hair border-b max-md:grid-cols-1">
      <Link to={`/showers/${shower.shower}`} className="min-w-0 py-1 text-ink leading-tight no-underline">
        <span className="font-bold">{shower.name}</span> <span className="text-soft text-sm">{shower.job}</span>
        <span className="block text-soft text-sm">{words[1]}</span>
      </Link>
      <svg viewBox={`0 0 ${axis.wide} 32`} className="block h-8 w-full" role="img" aria-label={words.join(' ')}>
        {axis.days.map((d, k) => (
          <path key={d.day} d={`M${k * (each + GAP)} 16h${each}`} className="stroke-hair" />
        ))}
        {happened.map((r) => (
          <path
            key={`${r.stage} ${r.atMs}`}
            d={`M${xOf(axis, r.atMs) - 5} 16l4 5l8 -11`}
            className="fill-none stroke-ink [stroke-width:2]"
          />
        ))}
        {shower.steps.map((step) => (
          <Step key={`${step.kind} ${step.stage}`} step={step} axis={axis} />
        ))}
        <path d={`M${xOf(axis, nowMs)} 0V6M${xOf(axis, nowMs)} 26V32`} className="stroke-ink [stroke-width:2]" />
      </svg>
    </li>
  );
}
