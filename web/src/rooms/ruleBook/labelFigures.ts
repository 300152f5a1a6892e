import { LABEL_FIGURES, type LabelFigure, type LineKind, type ProductLine } from '@careful-seam/core/rules/productLine';
import { parseLength, showLength } from '@careful-seam/core/units/length';

/** Figures of a label that are hours or degrees. */
const TIMES = ['waterHours', 'tileHours', 'workingC'] as const;
/** Which figures the label of a kind of product states. */
const OF_KIND: Partial<Record<LineKind, readonly LabelFigure[]>> = {
  membrane: ['wetUm', 'dryUm', 'coats', 'recoatHours', 'solidsPercent', 'permeancePerm', ...TIMES],
  mortar: ['notchMm', ...TIMES],
  sealant: TIMES,
  primer: ['recoatHours', 'workingC'],
  fabric: ['workingC'],
};

/** What a label of this kind may state. */
export const figuresOf = (kind: LineKind): readonly LabelFigure[] => OF_KIND[kind] ?? [];

/** Figures that a label states as a least and a most; of the others it states one. */
const BOTH: readonly LabelFigure[] = ['wetUm', 'dryUm', 'workingC'];
/** A figure has a least, a most, or both. */
export const sidesOf = (figure: LabelFigure): readonly ('least' | 'most')[] =>
  BOTH.includes(figure) ? ['least', 'most'] : figure === 'permeancePerm' ? ['most'] : ['least'];

/** Nobody paints thicker than this at once, µm: above it mils were taken for millimetres. */
const THICKEST_UM = 5000;

/** A figure as typed on the label: films in mil or mm, temperatures in °C or °F. `null` for an empty field. */
export function readLabel(figure: LabelFigure, text: string): number | null | { problem: 'unreadable' | 'too-thick' } {
  const tidy = text.trim().toLowerCase();
  if (tidy === '') return null;
  const unit = LABEL_FIGURES[figure];
  if (unit === 'um' || unit === 'mm') {
    const read = parseLength(tidy, unit === 'um' ? 'mil' : 'in');
    if (!read.ok) return { problem: 'unreadable' };
    if (unit === 'mm') return read.value.mm;
    return read.value.mm * 1000 > THICKEST_UM ? { problem: 'too-thick' } : read.value.mm * 1000;
  }
  const fahrenheit = unit === 'celsius' && /°?\s*f$/.test(tidy);
  const value = Number(tidy.replace(/\s*(°?\s*[cf]|h|hours|%|perm)$/, '').replace(',', '.'));
  if (!Number.isFinite(value) || value < 0) return { problem: 'unreadable' };
  return fahrenheit ? Math.round((value - 32) * (50 / 9)) / 10 : value;
}

/** What is written behind a figure. */
const UNIT_WORDS: Partial<Record<string, string>> = { hours: ' h', celsius: ' °C', perm: ' perm', percent: ' %' };

/** A figure with its unit, as it stands in its field. */
export function showLabel(figure: LabelFigure, value: number | undefined): string {
  if (value === undefined) return '';
  const unit = LABEL_FIGURES[figure];
  if (unit === 'um') return showLength(value / 1000, 'mil');
  return unit === 'mm' ? showLength(value, 'in') : `${value}${UNIT_WORDS[unit] ?? ''}`;
}

/** A label's figures in the fields of the form: figure and side → text. */
export type TypedFigures = Record<string, string>;
/** The field of one side of a figure. */
export const fieldOf = (figure: LabelFigure, side: 'least' | 'most'): string => `${figure}-${side}`;

/** All figures of a line as text. */
export function typedFigures(line: ProductLine | null): TypedFigures {
  return Object.fromEntries(
    Object.entries(line?.figures ?? {}).flatMap(([figure, range]) =>
      sidesOf(figure as LabelFigure).map((side) => [
        fieldOf(figure as LabelFigure, side),
        showLabel(figure as LabelFigure, range?.[side]),
      ]),
    ),
  );
}

/** The figures as typed, or the first field that can't be so. */
export function readFigures(
  kind: LineKind,
  typed: TypedFigures,
): { figures: ProductLine['figures'] } | { field: string; problem: 'unreadable' | 'too-thick' | 'crossed' } {
  const figures: ProductLine['figures'] = {};
  for (const figure of figuresOf(kind)) {
    const range: { least?: number; most?: number } = {};
    for (const side of sidesOf(figure)) {
      const read = readLabel(figure, typed[fieldOf(figure, side)] ?? '');
      if (typeof read === 'number') range[side] = read;
      else if (read !== null) return { field: fieldOf(figure, side), problem: read.problem };
    }
    if ((range.least ?? 0) > (range.most ?? Infinity)) return { field: fieldOf(figure, 'most'), problem: 'crossed' };
    if (range.least !== undefined || range.most !== undefined) figures[figure] = range;
  }
  return { figures };
}
