import { z } from 'zod';

export const DUMP = 'database.dump';
export const MANIFEST = 'manifest.json';
export const PHOTOS = 'photos';

/** First file of a backup: what it holds, so that a restore can be checked against it. */
export const Manifest = z.object({
  format: z.literal('careful-seam-backup'),
  formatVersion: z.literal(1),
  madeAt: z.iso.datetime(),
  dumpSha256: z.string().regex(/^[0-9a-f]{64}$/),
  showers: z.number().int(),
  entries: z.number().int(),
  photos: z.number().int(),
});
export type Manifest = z.infer<typeof Manifest>;
