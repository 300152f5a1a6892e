import type { ShowerState } from '@careful-seam/core/log/state';
import type { Outcome } from '@careful-seam/core/outcome/outcome';
import { showLength } from '@careful-seam/core/units/length';
import type { TFunction } from 'i18next';
import { problemWords } from '../../../ui/words';
import { readMany } from './lengths';
import type { Sum } from './sums';

/** In what lengths are typed and shown. */
export type Unit = 'in' | 'mm';

/** A field of a sum: one length, several, or a plain figure. */
export interface SumField {
  /** Its name in what is typed. */
  key: string;
  /** One length, several, a plain figure, one of a few, or the cells of a grid. */
  kind: 'length' | 'lengths' | 'figure' | 'choice' | 'grid';
  /** What may be chosen; the figure is the choice's place. */
  options?: readonly string[];
  /** What stands in it at first: what the drawing knows already. */
  start: (state: ShowerState, unit: Unit) => string;
}

/** How one sum is worked out: what is typed, and what it comes to. */
export interface SumWork {
  /** Its words in the texts where they are another sum's too; its own key without it. */
  words?: string;
  /** What is typed, in its order. */
  fields: SumField[];
  /** What it comes to, lengths in mm. */
  work: (t: TFunction, unit: Unit, values: Record<string, number[]>, state: ShowerState) => Sum;
}

/** A sum under the key that a rule book knows it by. */
export type StageSum = SumWork & { key: string };

/** A length without its unit. */
const bare = (mm: number, unit: Unit): string => showLength(mm, unit).replace(/ (in|mm)$/, '');
/** A length that begins with a usual value, in. */
export const length = (key: string, inches: number): SumField => ({
  key,
  kind: 'length',
  start: (_, unit) => bare(inches * 25.4, unit),
});
/** A field that begins empty. */
export const empty = (key: string, kind: SumField['kind'] = 'length'): SumField => ({ key, kind, start: () => '' });
/** A plain figure with what it begins with. */
export const figure = (key: string, value: string): SumField => ({ key, kind: 'figure', start: () => value });
/** One of a few; the first is usual. */
export const choice = (key: string, options: readonly string[]): SumField => ({
  key,
  kind: 'choice',
  options,
  start: () => '0',
});
/** The drawing of a shower. */
export const planOf = (state: ShowerState) => state.geometry!.model.geometry;
/** How wide its floor is along an axis, mm. */
export const spanOf = (state: ShowerState, axis: 'xMm' | 'yMm'): number => {
  const list = planOf(state).footprint.map((p) => p[axis]);
  return Math.max(...list) - Math.min(...list);
};
/** A length that the drawing knows, mm. */
export const drawn = (key: string, of: (state: ShowerState) => number): SumField => ({
  key,
  kind: 'length',
  start: (state, unit) => bare(of(state), unit),
});

/** A sum's answer as sentences, or what refused it. */
export function sumOf<T>(found: Outcome<T>, say: (value: T) => string[]): Sum {
  return found.ok ? { lines: say(found.value) } : { problem: problemWords(found.problem) };
}

/** What is typed into a sum as figures; lengths may be below zero where they say which side is lower. */
export function readSum(
  sum: StageSum,
  typed: Record<string, string>,
  unit: Unit,
): { values: Record<string, number[]> } | { field: string; problem: string } {
  const values: Record<string, number[]> = {};
  for (const { key, kind } of sum.fields) {
    const text = (typed[key] ?? '').trim();
    if (kind === 'grid') {
      values[key] = text === '' ? [] : text.split(';').map(Number);
      continue;
    }
    if (text === '') return { field: key, problem: '' };
    if (kind === 'figure' || kind === 'choice') {
      const value = Number(text.replace(',', '.'));
      if (!Number.isFinite(value) || value < 0) return { field: key, problem: text };
      values[key] = [value];
      continue;
    }
    const parts = text.split(/[;\n]/).filter((p) => p.trim() !== '');
    const read = parts.map((p) => {
      const sign = /^[-−]/.test(p.trim()) ? -1 : 1;
      const one = readMany(p.trim().replace(/^[-−]/, ''), unit);
      return 'problem' in one ? one : sign * one[0]!;
    });
    const wrong = read.find((r) => typeof r !== 'number');
    if (wrong !== undefined) return { field: key, problem: (wrong as { problem: string }).problem };
    values[key] = read as number[];
  }
  return { values };
}
