import { PUSH_AT_MOST, PushAnswer, SessionAnswer } from '@careful-seam/contract/api/messages';
import { type Database, readKept, writeKept } from './database';
import { acknowledge, brokenSignature, showersWaiting, unsentOf, waiting } from './outbox';
import { pullShower } from './pull';
import { rechain } from './rechain';
import type { Round } from './round';
import { type Healing, healingOf } from './syncPlan';

/** Sends what waits, in the order of its chain; pulls when somebody else's entries came in between. */
async function pushShower(round: Round, showerId: string): Promise<void> {
  const { db, server, ports, personId, report } = round;
  for (;;) {
    const next = waiting(await unsentOf(db, showerId), personId).slice(0, PUSH_AT_MOST);
    if (next.length === 0) return;
    const { clockOffMs } = await readKept(db);
    const answer = await server.call(PushAnswer, 'POST', `/api/showers/${showerId}/entries`, {
      clock: new Date(ports.nowMs() + clockOffMs).toISOString(),
      entries: next.map((e) => e.text),
      again: next.filter((e) => e.again).map((e) => e.id),
    });
    await acknowledge(db, showerId, answer, next);
    report.skewMs = answer.skewMs + clockOffMs;
    await noteClock(db, answer, clockOffMs);
    report.changed.add(showerId);
    const last = answer.taken.at(-1);
    if (last && ((await db.get('showers', showerId))?.cursor ?? 0) < last.ledgerSeq) await pullShower(round, showerId);
    if (answer.refused) return;
  }
}

/** A clock that was set right and is off again (somebody set the tablet's own) is followed; what is left is written down. */
async function noteClock(db: Database, { skewMs, refused }: PushAnswer, clockOffMs: number): Promise<void> {
  const isOff = clockOffMs !== 0 && Math.abs(skewMs) > FOLLOW_MS && refused === null;
  await writeKept(db, isOff ? { clockOffMs: clockOffMs + skewMs, skewMs: 0 } : { skewMs });
}

/** A clock that was set right is followed when it is off by more than this, ms. */
const FOLLOW_MS = 60_000;

/**
 * A clock that ran ahead of the server's: it is set right by what the server told, and everything that was not taken yet is
 * sealed anew with it. Nothing typed is lost; what the clock said is kept beside.
 */
async function healClock({ db, personId, ports, report }: Round): Promise<boolean> {
  const { clockOffMs, skewMs } = await readKept(db);
  await writeKept(db, { clockOffMs: clockOffMs + skewMs, skewMs: 0 });
  for (const id of await showersWaiting(db)) {
    report.resealed += await rechain(db, id, personId, ports.newId, null, skewMs);
    report.changed.add(id);
  }
  return true;
}

/** The account is called otherwise now: what was not taken yet is sealed anew under that name. */
async function healName({ db, server, personId, ports }: Round, showerId: string): Promise<boolean> {
  const { person } = await server.call(SessionAnswer, 'GET', '/api/session');
  if (person.id !== personId) return false;
  await writeKept(db, { person });
  await rechain(db, showerId, personId, ports.newId, null, 0, person.name);
  return true;
}

/**
 * A chain that the server can't continue belongs to a tablet that was copied or restored: what it still holds goes on
 * under a new device number.
 */
async function healChain(round: Round, showerId: string): Promise<boolean> {
  await pullShower(round, showerId);
  await rechain(round.db, showerId, round.personId, round.ports.newId);
  return true;
}

/** How each is done; false where it could not be. */
const HEAL: Readonly<Record<Healing, (round: Round, showerId: string) => Promise<boolean>>> = {
  clock: healClock,
  name: healName,
  chain: healChain,
};

/** A signature that was broken off is set aside, so that what was written after it goes out. */
async function healSignature({ db, personId, ports, report }: Round, showerId: string): Promise<void> {
  const left = brokenSignature(await unsentOf(db, showerId), personId, ports.nowMs());
  if (!left) return;
  await rechain(db, showerId, personId, ports.newId, left.id);
  report.changed.add(showerId);
}

/** Sends what waits of a shower, and heals by itself what a tablet can: each way once, so that a server that refuses on is not asked on. */
export async function pushAndHeal(round: Round, showerId: string): Promise<void> {
  await healSignature(round, showerId);
  await pushShower(round, showerId);
  const tried = new Set<Healing>();
  for (;;) {
    const healing = healingOf(await unsentOf(round.db, showerId), round.personId);
    if (healing === null || tried.has(healing)) return;
    tried.add(healing);
    if (!(await HEAL[healing](round, showerId))) return;
    round.report.changed.add(showerId);
    await pushShower(round, showerId);
  }
}
