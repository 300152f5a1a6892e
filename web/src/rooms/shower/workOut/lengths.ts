import { parseLength } from '@careful-seam/core/units/length';
import { problemWords } from '../../../ui/words';

/** Lengths as typed, by name: every one in mm, or the name and sentence of the first that can't be read. */
export function readLengths<K extends string>(
  typed: Readonly<Record<K, string>>,
  unit: 'in' | 'mm',
): { mm: Record<K, number> } | { field: K; problem: string } {
  const mm = {} as Record<K, number>;
  for (const [field, text] of Object.entries(typed) as [K, string][]) {
    const read = parseLength(text, unit, field);
    if (!read.ok) return { field, problem: problemWords(read.problem) };
    mm[field] = read.value.mm;
  }
  return { mm };
}

/** Several lengths in one field, parted by semicolons or line breaks. */
export function readMany(text: string, unit: 'in' | 'mm'): number[] | { problem: string } {
  const parts = text.split(/[;\n]/).filter((p) => p.trim() !== '');
  const out: number[] = [];
  for (const part of parts) {
    const read = parseLength(part, unit);
    if (!read.ok) return { problem: problemWords(read.problem) };
    out.push(read.value.mm);
  }
  return out;
}
