import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { BODIES } from '../log/bodies';
import { CALCULATIONS } from './registry';

type Schema = Record<string, unknown>;

/** Numbers without ends, lists and words without a greatest length, in a schema of what comes in. */
function unbounded(schema: unknown, path: string, above: ReadonlySet<unknown> = new Set()): string[] {
  if (schema === null || typeof schema !== 'object' || above.has(schema)) return [];
  const s = schema as Schema;
  const seen = new Set(above).add(schema);
  const found: string[] = [];
  if (s.type === 'number' || s.type === 'integer') {
    const least = Number(s.minimum ?? s.exclusiveMinimum ?? -Infinity);
    const most = Number(s.maximum ?? s.exclusiveMaximum ?? Infinity);
    if (!(least > -Number.MAX_SAFE_INTEGER && most < Number.MAX_SAFE_INTEGER))
      found.push(`${path} from ${least} to ${most}`);
  }
  if (s.type === 'array' && s.maxItems === undefined && !s.prefixItems) found.push(`${path} is a list without end`);
  if (s.type === 'string' && ['maxLength', 'enum', 'const', 'format', 'pattern'].every((k) => s[k] === undefined))
    found.push(`${path} is a word without end`);
  for (const [key, inner] of Object.entries((s.properties as Schema | undefined) ?? {}))
    found.push(...unbounded(inner, `${path}.${key}`, seen));
  found.push(...unbounded(s.items, `${path}[]`, seen));
  found.push(...unbounded(s.additionalProperties, `${path}.*`, seen));
  for (const key of ['anyOf', 'oneOf', 'allOf', 'prefixItems'])
    for (const inner of (s[key] as unknown[] | undefined) ?? []) found.push(...unbounded(inner, path, seen));
  return found;
}
const schemaOf = (type: z.ZodType) => z.toJSONSchema(type, { io: 'input', unrepresentable: 'any', reused: 'inline' });

describe('what comes in from outside has an end', () => {
  it.each(Object.entries(BODIES))('entry %s', (kind, body) => {
    expect(unbounded(schemaOf(body), kind)).toEqual([]);
  });
  it.each(CALCULATIONS.map((c) => [c.name, c] as const))('sum %s', (name, { input }) => {
    expect(unbounded(schemaOf(input), name)).toEqual([]);
  });
  it('is told where it has none', () => {
    expect(unbounded(schemaOf(z.object({ a: z.number(), b: z.array(z.string()) })), 'x')).toEqual([
      'x.a from -Infinity to Infinity',
      'x.b is a list without end',
      'x.b[] is a word without end',
    ]);
  });
});
