import type { TakeOffLine } from '@careful-seam/core/materials/takeOff';
import { showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { amountWords } from './amounts';

/** Width of a roll as it is drawn, px. */
const WIDE = 420;
/** Height of its row, px. */
const ROW = 36;

/**
 * How the pieces are cut from their rolls: each roll a strip, each piece its length on it, the rest left open; below it
 * what each piece is for, in the order of cutting. `nameOf` names where a piece goes.
 */
export function CutPlan({ line, nameOf }: { line: TakeOffLine; nameOf: (piece: number) => string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const cut = line.cut;
  if (!cut) return null;
  // A roll is much longer than a wall: what is left over at its end is not drawn to its full length.
  const longest = Math.max(...cut.rolls.map((r) => r.reduce((a, b) => a + b, 0)));
  const scale = WIDE / Math.max(longest * 1.06, 1);
  return (
    <figure className="flex flex-col gap-1" data-testid="cut-plan">
      <figcaption className="text-sm">
        {t('materials.cut', {
          label: line.label,
          count: cut.rolls.length,
          pieces: line.pieces.length,
          waste: amountWords(cut.wasteMm, 'mm', unit),
        })}{' '}
        {t(cut.proved ? 'materials.proved' : 'materials.notProved', { least: cut.atLeastRolls })}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDE} ${cut.rolls.length * ROW}`}
        className="w-full"
        role="img"
        aria-label={cut.rolls.map((r) => r.map((mm) => showLength(mm, unit)).join(', ')).join('; ')}
      >
        {cut.rolls.map((roll, i) => {
          let x = 0;
          return (
            <g key={i}>
              {roll.map((mm, k) => {
                const from = x;
                x += mm * scale;
                return (
                  <g key={k}>
                    <rect
                      x={from}
                      y={i * ROW + 4}
                      width={mm * scale}
                      height={ROW - 10}
                      className="fill-leaf stroke-ink [stroke-width:1.2]"
                    />
                    {mm * scale > 9 * showLength(mm, unit).replace(/ (in|mm)$/, '').length && (
                      <text
                        x={from + (mm * scale) / 2}
                        y={i * ROW + 21}
                        textAnchor="middle"
                        className="fill-ink text-[13px]"
                      >
                        {showLength(mm, unit).replace(/ (in|mm)$/, '')}
                      </text>
                    )}
                  </g>
                );
              })}
              <path
                d={`M${x} ${i * ROW + ROW / 2 - 1}H${WIDE}`}
                className="stroke-hair [stroke-dasharray:1_6] [stroke-linecap:round] [stroke-width:2]"
              />
            </g>
          );
        })}
      </svg>
      {cut.rolls.map((roll, i) => (
        <section key={i} aria-label={t('materials.roll', { n: i + 1 })}>
          <h3 className="text-soft text-sm">{t('materials.roll', { n: i + 1 })}</h3>
          <ol className="grid grid-cols-[max-content_1fr] gap-x-3 text-sm" data-testid="cut-pieces">
            {roll.map((mm, k) => (
              <li key={k} className="col-span-2 grid grid-cols-subgrid">
                <span className="text-right font-semibold tabular-nums">{showLength(mm, unit)}</span>
                <span>{nameOf(cut.pieceOf[i]![k]!)}</span>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </figure>
  );
}
