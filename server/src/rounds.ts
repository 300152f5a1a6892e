import type { Logger } from 'pino';
import { makeAnchor } from './ledger/anchors';
import { sendMail } from './mail/outbox';
import { forgetTries } from './web/limits';
import type { Services } from './web/route';

const EVERY_MS = 60_000;

/** What the server does by itself once a minute: the day's anchor, and mail that waits. Gives the way to stop it. */
export function startRounds({ store, mail, now }: Services, logger: Logger): () => void {
  const go = async () => {
    try {
      await makeAnchor(store, now());
      await forgetTries(store, now());
      if (mail) await sendMail(store, mail, now());
    } catch (error) {
      logger.error({ err: error }, 'a round failed; the next one tries again');
    }
  };
  void go();
  const timer = setInterval(() => void go(), EVERY_MS);
  return () => clearInterval(timer);
}
