import { parseLength } from '@careful-seam/core/units/length';
import { problemWords } from '../../ui/words';
import type { LengthName } from './typed';

/** Where a fault belongs: one of the lengths, a row like `niches.0`, a side of the tape, or the form as a whole. */
export type Field = LengthName | 'form' | 'diagonal' | `${'niches' | 'benches' | 'pipes' | 'taped'}.${number}`;
/** What is wrong, by its field. */
export type Problems = Partial<Record<Field, string>>;

/** What the form says of its faults, in the person's language. */
export interface DrawingWords {
  /** What each length is called. */
  names: Record<LengthName, string>;
  /** Said of a length that is too small. */
  small: (least: number) => string;
  /** Said of a length that is too large. */
  large: (most: number) => string;
  /** Said of an angle that is none. */
  angle: string;
  /** Said of a tape that does not close. */
  notClosed: string;
}

/** Reads lengths one after the other and keeps what is wrong with each. */
export class LengthReader {
  problems: Problems = {};
  constructor(
    private unit: 'in' | 'mm',
    private words: DrawingWords,
  ) {}
  /** mm; 0 for an empty field that may be empty. */
  length(text: string, field: Field, more: { name?: string; optional?: boolean; least?: number; most?: number } = {}) {
    if (text.trim() === '' && more.optional) return 0;
    const read = parseLength(text, this.unit, more.name);
    if (!read.ok) this.tell(field, problemWords(read.problem));
    else if (read.value.mm < (more.least ?? 0)) this.tell(field, this.words.small(more.least!));
    else if (read.value.mm > (more.most ?? 100_000)) this.tell(field, this.words.large(more.most!));
    else return read.value.mm;
    return 0;
  }
  tell(field: Field, message: string): void {
    this.problems[field] ??= message;
  }
  get sound(): boolean {
    return Object.keys(this.problems).length === 0;
  }
}
