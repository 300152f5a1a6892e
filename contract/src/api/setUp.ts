import { ROLES } from '@careful-seam/core/log/roles';
import { z } from 'zod';
import { FirmSettings } from './firm';
import { PASSWORD_AT_LEAST } from './office';

const name = z.string().trim().min(1).max(120);
const signIn = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9._-]{2,40}$/, 'sign-in-letters');

/** Whether anybody is there yet: an empty installation asks to be set up. */
export const SetUpState = z.object({
  needed: z.boolean(),
  /** Methods to choose the firm's main ones from, named in each language; empty where nothing is to be set up. */
  methods: z.array(z.object({ key: z.string(), en: z.string(), es: z.string() })),
});
export type SetUpState = z.infer<typeof SetUpState>;

/** One of the people that are there from the first day; a crew lead's crew by its name. */
export const FirstPerson = z.object({ name, signIn, role: z.enum(ROLES), crew: z.string().trim().max(120).nullable() });
export type FirstPerson = z.infer<typeof FirstPerson>;

/** Longest base64 of a logo: some 150 kB of picture. */
export const LOGO_AT_MOST = 200_000;

/** A firm's first day: all of it or nothing is written. `code` is the one that the server's log shows. */
export const SetUp = z.object({
  code: z.string().trim().min(1).max(100),
  firm: FirmSettings.pick({
    name: true,
    address: true,
    licence: true,
    timeZone: true,
    paper: true,
    mainMethods: true,
    unit: true,
    language: true,
  }),
  /** A small picture for the firm's papers, JPEG, PNG or WebP without metadata, in base64. */
  logo: z.base64().max(LOGO_AT_MOST).nullable().default(null),
  manager: z.object({
    name,
    signIn,
    password: z.string().min(PASSWORD_AT_LEAST, `use at least ${PASSWORD_AT_LEAST} characters`).max(200),
  }),
  crews: z.array(name).max(200),
  people: z.array(FirstPerson).max(500),
});
export type SetUp = z.infer<typeof SetUp>;
export type SetUpTyped = z.input<typeof SetUp>;

/** Everybody but the manager sets their own password by a link, told once. */
export const SetUpAnswer = z.object({
  signIn: z.string(),
  links: z.array(z.object({ name: z.string(), signIn: z.string(), path: z.string() })),
});
export type SetUpAnswer = z.infer<typeof SetUpAnswer>;
