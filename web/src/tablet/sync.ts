import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { type Database, readKept } from './database';
import { noteAnswer } from './epoch';
import { showersWaiting } from './outbox';
import { pullBatch, pullBooks, pullNewestBook } from './pull';
import { pushAndHeal } from './push';
import { emptyReport, type Outside, type Round, Sick, type SyncReport } from './round';
import { planRound, type Step } from './syncPlan';

/** A place from which the server knows nothing is asked anew from the beginning; a second time it is something else. */
const ASKS_AT_MOST = 3;

/** Asks what moved since the last round, and writes it down; true where the server was restored meanwhile. */
async function hearWhatMoved({ db, server, report, ports }: Round): Promise<boolean> {
  let wasRestored = false;
  for (let asked = 1; ; asked += 1) {
    const { since, firmMark } = await readKept(db);
    // From the beginning: whatever else lies here is asked for too, so that nothing that is kept grows old unseen.
    const known = since === null ? await db.getAllKeys('showers') : [];
    const answer = await server.call(SyncAnswer, 'POST', '/api/sync', { since, firm: firmMark, known });
    const { restored, fresh } = await noteAnswer(db, answer, ports.nowMs());
    wasRestored ||= restored;
    report.restored ||= restored;
    for (const id of fresh) report.changed.add(id);
    if (answer.since !== null || asked === ASKS_AT_MOST) return wasRestored;
  }
}

/** What the plan of a round is made from. */
async function known(db: Database, restored: boolean) {
  const { epoch, newestBook, book } = await readKept(db);
  const [waiting, behind] = [await showersWaiting(db), await db.getAllFromIndex('showers', 'byLag')];
  return { waiting, behind, restored, epoch, newestBook, book };
}

/**
 * One round: what moved is heard, the round is planned from what is known then, and each step is done by itself; then the older
 * rule books of what came. What must be fetched stands in the tablet's store (a shower that lags is marked), so that a round that
 * broke is made up for by the next. Pictures go their own way, since they must not hold back what was typed. One sick shower does
 * not block the others; its failure is thrown at the end. What a round found out stands in `report`, also when it breaks.
 */
export async function syncOnce(
  db: Database,
  personId: string,
  outside: Outside,
  report: SyncReport = emptyReport(),
): Promise<SyncReport> {
  const sick = new Sick();
  const round: Round = { ...outside, db, personId, report };
  try {
    const steps = planRound(await known(db, await hearWhatMoved(round)), personId);
    const told = { done: 0, of: steps.reduce((n, step) => n + (step.do === 'pull' ? step.showers.length : 0), 0) };
    const doOne = (step: Step): Promise<void> => {
      switch (step.do) {
        case 'push':
          return sick.spare(() => pushAndHeal(round, step.shower));
        case 'book':
          return sick.spare(() => pullNewestBook(round, step.version, step.mark));
        case 'pull':
          return pullBatch(round, step.showers, told, sick);
      }
    };
    for (const step of steps) await doOne(step);
    await pullBooks(round, sick);
  } finally {
    report.behind = await db.countFromIndex('showers', 'byLag').catch(() => 0);
  }
  if (sick.first !== null) throw sick.first;
  return report;
}
