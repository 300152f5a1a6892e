import { Crew } from '@careful-seam/contract/api/messages';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { z } from 'zod';

export const SHOWERS_FORMAT_VERSION = 1;
const Sha256 = z.string().regex(/^[0-9a-f]{64}$/);

/**
 * Showers as a file: every entry's canonical text with its hash, in ledger order, the rule books they were judged by and
 * the pictures they name. Ids and chains stay as they are: taken in twice it changes nothing the second time.
 */
export const ShowersFile = z.object({
  format: z.literal('careful-seam-showers'),
  formatVersion: z.literal(SHOWERS_FORMAT_VERSION),
  madeAt: z.iso.datetime(),
  /** The job's name when the file holds a whole job. */
  job: z.string().nullable(),
  crews: z.array(Crew.pick({ id: true, name: true })),
  ruleBooks: z.array(RuleBook),
  showers: z
    .array(
      z.object({
        id: z.uuid(),
        name: z.string(),
        job: z.string(),
        crewId: z.string(),
        entries: z.array(z.object({ text: z.string().max(400_000), hash: Sha256 })).min(1),
      }),
    )
    .min(1),
  pictures: z.array(z.object({ hash: Sha256, mime: z.string(), base64: z.string() })),
  /** The firm's signature (RFC 8032) over the canonical JSON of all the rest: whose file it is, and that its chains are whole. */
  firmSignature: z
    .object({ algorithm: z.literal('Ed25519'), publicKey: z.string().max(2000), signature: z.string().max(400) })
    .optional(),
});
export type ShowersFile = z.infer<typeof ShowersFile>;

/** What taking a file in has done. */
export const ImportAnswer = z.object({
  showers: z.array(z.object({ id: z.uuid(), name: z.string(), added: z.number().int(), known: z.number().int() })),
  pictures: z.number().int(),
  ruleBooks: z.number().int(),
  /** The file is this firm's own, whole and unchanged: its signatures and releases stand as proved. */
  proved: z.boolean().default(false),
});
export type ImportAnswer = z.infer<typeof ImportAnswer>;
