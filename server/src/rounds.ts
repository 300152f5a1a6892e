import type { Logger } from 'pino';
import { followLedgers } from './facts/projector';
import { forgetTries } from './http/limits';
import type { Services } from './http/route';
import { makeAnchor } from './ledger/anchors';
import { mailMonth } from './mail/monthMail';
import { sendMail } from './mail/outbox';
import { type Night, nightsWork } from './operations/night';
import { noteSizes } from './operations/serverState';
import { renewPlanNotes } from './plan/planNotes';

const EVERY_MS = 60_000;

/** How often it is looked whether ledgers grew, ms: what was told is counted soon after, and looking costs one question that finds nothing. */
const FOLLOW_MS = 2000;

/** Runs some steps again and again, one after the other; one failure stops none of the others, and nothing is begun twice. */
function again(everyMs: number, steps: readonly (() => Promise<unknown>)[], logger: Logger): () => void {
  let running = false;
  const go = async () => {
    if (running) return;
    running = true;
    for (const step of steps)
      await step().catch((error: unknown) => logger.error({ err: error }, 'a round failed; the next one tries again'));
    running = false;
  };
  void go();
  const timer = setInterval(() => void go(), everyMs);
  return () => clearInterval(timer);
}

/**
 * What the server does by itself: the day's anchor, mail that waits; beside it what is counted across showers and
 * waits for the manager; and, since it takes longer than a minute, the night's work when it is due. Gives the way to stop it.
 */
export function startRounds(
  { store, mail, now, publicUrl }: Services,
  logger: Logger,
  night: Night | null,
): () => void {
  const day = again(
    EVERY_MS,
    [
      () => makeAnchor(store, now()),
      () => forgetTries(store, now()),
      () => mailMonth(store, publicUrl, now()),
      async () => mail && sendMail(store, mail, now()),
      () => noteSizes(store, now()),
      () => renewPlanNotes(store, now()),
    ],
    logger,
  );
  const facts = again(FOLLOW_MS, [() => followLedgers(store, Date.now() + EVERY_MS / 2)], logger);
  const atNight = again(EVERY_MS, night ? [() => nightsWork(night)] : [], logger);
  return () => {
    day();
    facts();
    atNight();
  };
}
