import { sha256Hex } from '@careful-seam/core/log/chain';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { COOKIE } from './route';

/** How many in a minute: a building's one address holds many tablets, an account one person. */
export interface Limits {
  /** Tries to sign in as one account. */
  account: number;
  /** Tries to sign in, of codes and of signatures, from one address. */
  address: number;
  /** Everything else, of one session; and of an address together ten times as many. */
  usual: number;
}
/** Limits of a server in service. */
export const USUAL_LIMITS: Limits = { account: 10, address: 300, usual: 1200 };

/** Said of one too many. */
const tooMany = () => new Refusal('too-many', 'request');
/** A minute, ms. */
const MINUTE_MS = 60_000;

/** Counts one try, for all servers of the database together; refuses the one after the last. */
export async function takeTry(store: DataSource, key: string, atMost: number, now: Date): Promise<void> {
  const minute = new Date(Math.floor(now.getTime() / MINUTE_MS) * MINUTE_MS);
  const [{ hits }]: [{ hits: number }] = await store.query(
    'INSERT INTO tries (key, minute, hits) VALUES ($1, $2, 1) ON CONFLICT (key, minute) DO UPDATE SET hits = tries.hits + 1 RETURNING hits',
    [sha256Hex(key), minute],
  );
  if (hits > atMost) throw tooMany();
}

/** Minutes that are over count no more. */
export async function forgetTries(store: DataSource, now: Date): Promise<void> {
  await store.query('DELETE FROM tries WHERE minute < $1', [new Date(now.getTime() - 10 * MINUTE_MS)]);
}

/** Where a request comes from; of IPv6 the network. */
const addressOf = (req: Request): string => ipKeyGenerator(req.ip ?? 'unknown');

/** Doors to which somebody may try keys: by address here, by account where the name is known. */
export function atTheDoor(store: DataSource, { address }: Limits, now: () => Date): RequestHandler {
  return (req: Request, _res: Response, next: NextFunction) =>
    void takeTry(store, `door ${addressOf(req)}`, address, now()).then(() => next(), next);
}

/** Everything else: by session, so that one tablet that runs wild locks nobody else out, and by address beside. */
export function inside({ usual }: Limits): RequestHandler[] {
  const by = (limit: number, keyGenerator: (req: Request) => string) =>
    rateLimit({
      windowMs: MINUTE_MS,
      limit,
      keyGenerator,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: (_req, _res, next) => next(tooMany()),
    });
  const session = (req: Request) => {
    const token: unknown = req.cookies[COOKIE];
    return typeof token === 'string' ? `session ${sha256Hex(token)}` : `address ${addressOf(req)}`;
  };
  return [by(usual * 10, addressOf), by(usual, session)];
}
