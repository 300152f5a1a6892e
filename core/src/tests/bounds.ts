import { expect, it } from 'vitest';
import type { z } from 'zod';

/** What a schema takes: [what it is of, schema, a sound value, the field that is changed, figures it takes, figures it refuses]. */
export type Bounds = [string, z.ZodType, object, string, readonly unknown[], readonly unknown[]];

/** Holds each field of schemas to the figures that it takes and refuses, the sound value being taken. */
export function holdBounds(bounds: readonly Bounds[]): void {
  it.each(bounds.map((b) => [b[0], b[3], b] as const))('%s: %s', (_, field, [, schema, sound, , takes, refuses]) => {
    const said = (value: unknown) => schema.safeParse({ ...sound, [field]: value }).success;
    expect(schema.safeParse(sound).success).toBe(true);
    expect(takes.filter((value) => !said(value))).toEqual([]);
    expect(refuses.filter(said)).toEqual([]);
  });
}
