import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { INSPECTOR, tablet } from '../tests/sampleTablet';
import { canonicalText } from './chain';
import { readText } from './readText';

const t = tablet(5);
t.write('note', { words: 'sound' });
const note = t.entries[0]! as unknown as Record<string, unknown>;
const read = (more: Record<string, unknown>) => readText(canonicalText({ ...note, ...more }));
const field = (more: Record<string, unknown>) => {
  const found = read(more);
  return found.ok ? null : found.problem.field;
};

describe('an entry from its sealed text', () => {
  it('is read as it was written', () => {
    expect(readText(canonicalText(note))).toEqual({ ok: true, value: note });
  });
  it('is refused where reading would change it: blanks at an end, fields that nobody knows, ids in capitals', () => {
    expect(field({ body: { words: 'sound ' } })).toBe('body.words');
    expect(field({ body: { words: ' sound' } })).toBe('body.words');
    expect(field({ body: { words: 'sound', more: 1 } })).toBe('body.more');
    expect(field({ extra: true })).toBe('extra');
    expect(field({ author: { ...INSPECTOR, secret: 'x' } })).toBe('author.secret');
    expect(field({ id: String(note.id).toUpperCase().replace(/^./, 'A') })).toBe('id');
    expect(field({ deviceId: String(note.deviceId).toUpperCase().replace(/^./, 'A') })).toBe('deviceId');
  });
  it('is refused with letters that no database keeps, in words or in names of fields', () => {
    expect(read({ body: { words: 'a\u0000b' } })).toMatchObject({ ok: false, problem: { field: 'entries' } });
    const half = JSON.stringify({ ...note, body: { words: 'x' } }).replace('"x"', '"\\ud83d"');
    expect(readText(half)).toMatchObject({ ok: false });
    expect(readText(half.replace('\\ud83d', '\\udc00'))).toMatchObject({ ok: false });
    // A whole letter of two halves is one.
    expect(read({ body: { words: 'sound \u{1F6BF} drain' } }).ok).toBe(true);
  });
  it('is refused without end, without form, and in numbers that are none', () => {
    const deep = (n: number) => `${'['.repeat(n)}${']'.repeat(n)}`;
    for (const text of ['', '{', 'null', '[]', '3', deep(23), deep(25), deep(200_000), `{"a":${deep(100_000)}}`])
      expect(readText(text).ok).toBe(false);
    const text = canonicalText(note);
    expect(readText(` ${text}`).ok).toBe(false);
    expect(readText(text.replace('"deviceSeq":1', '"deviceSeq":1.0')).ok).toBe(false);
    expect(readText(text.replace('"deviceSeq":1', '"deviceSeq":1e999')).ok).toBe(false);
    expect(readText(text.replace('"offsetMinutes":0', '"offsetMinutes":-0')).ok).toBe(false);
    expect(readText(text.replace('"words":"sound"', `"words":"${'x'.repeat(4_000_001)}"`)).ok).toBe(false);
  });
  it('brackets in words are no depth', () => {
    expect(read({ body: { words: '[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[ \\" {{{{ '.trim() } }).ok).toBe(true);
  });
  it('never throws, whatever comes', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json({ maxDepth: 8 }), fc.string({ unit: 'binary' })), (text) => {
        expect(readText(text).ok).toBe(false);
      }),
    );
    fc.assert(
      fc.property(fc.jsonValue(), fc.constantFrom(...Object.keys(note)), (value, key) => {
        const found = readText(JSON.stringify({ ...note, [key]: value }));
        if (found.ok) expect(canonicalText(found.value)).toBe(JSON.stringify(JSON.parse(canonicalText(found.value))));
      }),
    );
  });
});
