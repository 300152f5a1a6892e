import { FAULTS } from '@careful-seam/core/outcome/issueValues';
import { PROBLEMS, type ProblemCode } from '@careful-seam/core/outcome/problems';
import { describe, expect, it } from 'vitest';
import page from '../../../docs/errors.md?raw';
import { ERRORS, type ErrorCode, sentenceOf, statusOf, withMessage } from './errors';
import { pageOf } from './page';
import { REASONS, VALUE_WORDS } from './reasons';
import type { Sentences } from './sentences';

const table = Object.entries(ERRORS) as [ErrorCode, Sentences][];
const holes = (text: string) => [...new Set([...text.matchAll(/\{\{(\w+)(?:\|\w+)?\}\}/g)].map((m) => m[1]!))].sort();

describe('the table of errors', () => {
  it('fills the same values in both languages, and is said otherwise in each', () => {
    const differ = table.filter(([, { en, es }]) => String(holes(en)) !== String(holes(es)) || en === es);
    expect(differ.map(([code]) => code)).toEqual([]);
  });
  it('has every code of core, with the values that core gives', () => {
    const off = (Object.keys(PROBLEMS) as ProblemCode[]).filter(
      (code) => String(holes(ERRORS[code]?.en ?? 'none')) !== String([...PROBLEMS[code]].sort()),
    );
    expect(off).toEqual([]);
  });
  it('ends every sentence, and answers with a status of an error', () => {
    const odd = table.filter(([, { status = 422, en, es }]) => {
      const ends = [en, es].every((text) => /[.:?]$|\}\}$/.test(text));
      return !ends || status < 400 || status > 599;
    });
    expect(odd.map(([code]) => code)).toEqual([]);
  });
  it('holds nothing that is refused nowhere', () => {
    const sources = import.meta.glob<string>(
      ['../../../{core,contract,files,server,web}/src/**/*.{ts,tsx}', '../calc/*.ts', '!**/*.test.ts', '!**/tests/**'],
      { query: '?raw', import: 'default', eager: true },
    );
    const code = Object.entries(sources)
      .filter(([path]) => !path.endsWith('outcome/problems.ts'))
      .map(([, text]) => text)
      .join('\n');
    expect(code.length).toBeGreaterThan(1_000_000);
    // A film that can't be is told of the line whose label says it: the code is made of the film's own.
    const made = new Set(['line-film-too-thin', 'line-film-too-thick']);
    expect(table.map(([name]) => name).filter((name) => !made.has(name) && !code.includes(`'${name}'`))).toEqual([]);
  });
  it('is the page of the documentation', () => {
    expect(page).toBe(pageOf(ERRORS));
  });
});

describe('a sentence', () => {
  it('is filled with its values, and words among them are said in the language', () => {
    const values = { written: 'manager', role: 'inspector' };
    expect(sentenceOf({ code: 'role-changed', values }, 'en')).toBe(
      'This entry was written as manager, and you are inspector now. Write it again.',
    );
    expect(sentenceOf({ code: 'role-changed', values }, 'es')).toBe(
      'Esta entrada se escribió como gerente, y usted es inspector ahora. Escríbala de nuevo.',
    );
  });
  it('tells why a field is not valid', () => {
    const values = { name: 'sides.1', reason: 'too-small', bound: 3 };
    expect(sentenceOf({ code: 'input-invalid', values }, 'en')).toBe(
      'The field "sides.1" is not valid: it must be at least 3.',
    );
    expect(sentenceOf({ code: 'input-invalid', values }, 'es')).toBe(
      'El campo «sides.1» no vale: debe ser al menos 3.',
    );
  });
  it('of a code that nobody knows, or that lacks its values, is the one that came along', () => {
    expect(sentenceOf({ code: 'of-tomorrow', message: 'Later.' }, 'es')).toBe('Later.');
    expect(sentenceOf({ code: 'shot-outside', message: 'As it was kept.' }, 'es')).toBe('As it was kept.');
    expect(sentenceOf({ code: 'of-tomorrow' }, 'en')).toBe('of-tomorrow');
    expect(statusOf('of-tomorrow')).toBe(422);
  });
  it('goes along with what is sent', () => {
    const problem = { code: 'no-such-shower', field: 'id', values: {} };
    expect(withMessage(problem, 'es')).toEqual({ ...problem, message: 'No hay tal ducha.' });
  });
});

it('every fault that a schema names has its words, and every value that has words of its own has both', () => {
  expect(FAULTS.filter((fault) => !REASONS[fault])).toEqual([]);
  const words = [...Object.values(REASONS), ...Object.values(VALUE_WORDS).flatMap((kind) => Object.values(kind))];
  expect(words.filter(({ en, es }) => !en || !es)).toEqual([]);
});
