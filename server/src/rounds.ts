import type { Logger } from 'pino';
import { forgetTries } from './http/limits';
import type { Services } from './http/route';
import { makeAnchor } from './ledger/anchors';
import { sendMail } from './mail/outbox';
import { type Night, nightsWork } from './operations/night';
import { noteSizes } from './operations/serverState';
import { bringQueueUpToDate } from './sync/queue';

const EVERY_MS = 60_000;

/** Runs some steps once a minute, one after the other; one failure stops none of the others, and nothing is begun twice. */
function everyMinute(steps: readonly (() => Promise<unknown>)[], logger: Logger): () => void {
  let running = false;
  const go = async () => {
    if (running) return;
    running = true;
    for (const step of steps)
      await step().catch((error: unknown) => logger.error({ err: error }, 'a round failed; the next one tries again'));
    running = false;
  };
  void go();
  const timer = setInterval(() => void go(), EVERY_MS);
  return () => clearInterval(timer);
}

/**
 * What the server does by itself: the day's anchor, mail that waits, what waits for the manager; and beside these, since it takes
 * longer than a minute, the night's work when it is due. Gives the way to stop it.
 */
export function startRounds({ store, mail, now }: Services, logger: Logger, night: Night | null): () => void {
  const day = everyMinute(
    [
      () => makeAnchor(store, now()),
      () => forgetTries(store, now()),
      async () => mail && sendMail(store, mail, now()),
      () => bringQueueUpToDate(store, Date.now() + EVERY_MS / 2),
      () => noteSizes(store, now()),
    ],
    logger,
  );
  const atNight = everyMinute(night ? [() => nightsWork(night)] : [], logger);
  return () => {
    day();
    atNight();
  };
}
