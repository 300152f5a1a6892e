import { type Outcome, refuse } from '../outcome/outcome';
import { canonicalText } from './chain';
import { type Entry, readEntry } from './entry';

/** An entry is as long as a year's logger file, and not longer: letters of its text. */
export const ENTRY_LETTERS_AT_MOST = 4_000_000;
/** Things within things within things: no body is deeper. */
const DEEPEST = 24;

/** How deep a text of JSON is nested, told without reading it as JSON, so that no depth can exhaust a reader. */
function depthOf(text: string): number {
  let [depth, deepest, inText] = [0, 0, false];
  for (let i = 0; i < text.length; i += 1) {
    const c = text.charCodeAt(i);
    if (inText) {
      if (c === 0x5c) i += 1;
      else if (c === 0x22) inText = false;
    } else if (c === 0x22) inText = true;
    else if (c === 0x5b || c === 0x7b) {
      depth += 1;
      deepest = Math.max(deepest, depth);
    } else if (c === 0x5d || c === 0x7d) depth -= 1;
  }
  return deepest;
}

/** Half of a letter that takes two. */
const HALF = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

/** True for words that no database keeps: with a letter of nothing in them, or with half of one. */
const isUnkept = (words: string): boolean => words.includes('\0') || HALF.test(words);

/** All texts in a value, keys too. */
function textsIn(value: unknown): string[] {
  if (typeof value === 'string') return [value];
  if (Array.isArray(value)) return value.flatMap(textsIn);
  if (value === null || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([key, inner]) => [key, ...textsIn(inner)]);
}

/** Names the first field that reading changes: what is stored must be what was sealed. */
function changedField(sealed: unknown, read: unknown, path: string): string | null {
  if (typeof sealed !== 'object' || sealed === null || typeof read !== 'object' || read === null)
    return Object.is(sealed, read) ? null : path;
  for (const key of new Set([...Object.keys(sealed), ...Object.keys(read)])) {
    const [a, b] = [(sealed as Record<string, unknown>)[key], (read as Record<string, unknown>)[key]];
    const found = changedField(a, b, path === '' ? key : `${path}.${key}`);
    if (found !== null) return found;
  }
  return null;
}

/**
 * Reads one entry from the text that was sealed and hashed. Refused with its field: what is no JSON, not in its canonical form,
 * nested without end, or says something that reading would change (blanks at an end, a field that nobody knows), so that what is
 * stored is always what was sealed.
 */
export function readText(text: string): Outcome<Entry> {
  if (text.length > ENTRY_LETTERS_AT_MOST) return refuse('entry-too-long', 'entries');
  if (depthOf(text) > DEEPEST) return refuse('entry-too-deep', 'entries');
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return refuse('entry-not-json', 'entries');
  }
  if (textsIn(raw).some(isUnkept)) return refuse('entry-letter-not-kept', 'entries');
  const read = readEntry(raw);
  if (!read.ok) return read;
  const changed = changedField(raw, read.value, '');
  if (changed !== null) return refuse('entry-not-as-sealed', changed, { name: changed });
  if (canonicalText(raw) !== text) return refuse('entry-not-canonical', 'entries');
  return read;
}
