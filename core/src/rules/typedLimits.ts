import { parseLength } from '../units/length';

/** A limit as the shipped ladder writes it: a length as a tape shows it ("1/16 in", "-1/16 in"), or a plain number. */
export type TypedLimit = Record<string, string | number>;

/**
 * A written length in millimetres, exact where a double can be: a reading typed as the same fraction is the same number,
 * so that a reading at the limit keeps it. Throws when the text is not a length with its unit.
 */
export function typedMm(text: string): number {
  const sign = /^[-−]/.test(text) ? -1 : 1;
  const read = parseLength(text.replace(/^[-−]/, ''));
  if (!read.ok || !/[a-z"']$/.test(text)) throw new Error(`"${text}" is not a length with its unit`);
  return read.value.mm === 0 ? 0 : sign * read.value.mm;
}

const inMm = (limit: TypedLimit) =>
  Object.fromEntries(Object.entries(limit).map(([key, v]) => [key, typeof v === 'string' ? typedMm(v) : v]));

/** A check with every length of its limits in millimetres; plain numbers (degrees, percent) stay as they are. */
export function withLimitsInMm<C extends { limit?: unknown; steps?: unknown }>(check: C): C {
  const { limit, steps } = check as { limit?: TypedLimit | null; steps?: { limits: TypedLimit[] } };
  return {
    ...check,
    ...(limit ? { limit: inMm(limit) } : {}),
    ...(steps ? { steps: { ...steps, limits: steps.limits.map(inMm) } } : {}),
  };
}
