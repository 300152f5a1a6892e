import { PullAnswer, Push, PushAnswer, SignRecord } from '@careful-seam/contract/api/messages';
import { ROLES } from '@careful-seam/core/log/roles';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { withMessage } from '@careful-seam/words/errors/errors';
import type { Request } from 'express';
import { appendEntries } from '../ledger/appendEntries';
import { handInEntries } from '../ledger/handIn';
import { signShower } from '../ledger/signShower';
import { noticeAssigned } from '../mail/holdNotice';
import { visibleShower } from '../showers/loadShower';
import { entriesAfter } from '../sync/entryBatch';
import { EntriesAsk } from './asks';
import { type Call, languageOf, type Route, read, readQuery, skewOf, uuidParam } from './route';

/** For everybody who is signed in. */
const EVERY = ROLES;

/** Who may sign, and ask for sums. */
const SIGNING = ['inspector', 'manager'] as const;

/** Entries of one answer. */
const PULL_AT_MOST = 2000;

/** What a tablet lacks of a shower. */
async function pullEntries({ req, person, services }: Call): Promise<unknown> {
  const shower = await visibleShower(services.store, person, uuidParam(req));
  const { after } = readQuery(EntriesAsk, req.query);
  const entries = await entriesAfter(services.store, shower.id, after, PULL_AT_MOST);
  return { entries, more: entries.length === PULL_AT_MOST };
}

/** An answer to entries, with the sentence of what was refused. */
function inLanguage<A extends { refused: (Problem & { id: string }) | null }>(req: Request, answer: A) {
  const { refused } = answer;
  return { ...answer, refused: refused && { id: refused.id, ...withMessage(refused, languageOf(req)) } };
}

/** Takes entries in the order of their chain, up to the first that is refused. */
async function pushEntries({ req, person, services }: Call): Promise<unknown> {
  const push = read(Push, req.body);
  const now = services.now();
  const skewMs = skewOf(push.clock, now);
  const answer = await appendEntries(services.store, uuidParam(req), push.entries, { person, now, skewMs });
  const told = new Set(push.again);
  const given = answer.taken.filter(
    (taken, i) => push.entries[i]!.includes('"kind":"defect-assigned"') && !told.has(taken.id),
  );
  await noticeAssigned(
    services.store,
    uuidParam(req),
    given.map((taken) => taken.id),
    now,
  );
  return inLanguage(req, answer);
}

/** What a disabled person wrote, handed in by a manager. */
async function handIn({ req, res, services }: Call): Promise<unknown> {
  const push = read(Push, req.body);
  const now = services.now();
  const skewMs = skewOf(push.clock, now);
  const { author, ...answer } = await handInEntries(services.store, uuidParam(req), push.entries, { now, skewMs });
  res.locals.about = `${answer.taken.length} entries of ${author.name}`;
  return inLanguage(req, answer);
}

/** A signature, with its password. */
async function sign({ req, person, services }: Call): Promise<unknown> {
  const { password, clock, entry } = read(SignRecord, req.body);
  const now = services.now();
  return signShower(services.store, {
    person,
    showerId: uuidParam(req),
    password,
    entry,
    now,
    skewMs: skewOf(clock, now),
  });
}

/** What these routes share. */
const usual = { roles: EVERY, limit: 'usual' as const };

/** Entries of a shower: pulled, appended, handed in, signed. */
export const ENTRY_ROUTES: readonly Route[] = [
  {
    ...usual,
    method: 'get',
    path: '/api/showers/:id/entries',
    summary: 'Entries after a place in the ledger',
    asks: EntriesAsk,
    gives: PullAnswer,
    answer: pullEntries,
  },
  {
    ...usual,
    method: 'post',
    path: '/api/showers/:id/entries',
    summary: 'Appends entries',
    body: 'json',
    takes: Push,
    gives: PushAnswer,
    answer: pushEntries,
  },
  {
    ...usual,
    method: 'post',
    roles: ['manager'],
    path: '/api/showers/:id/hand-in',
    summary: 'Hands in entries of one person who can not send them any more',
    body: 'json',
    takes: Push,
    gives: PushAnswer,
    did: 'handed-in',
    answer: handIn,
  },
  {
    method: 'post',
    path: '/api/showers/:id/sign',
    summary: 'Signs the record',
    roles: SIGNING,
    limit: 'sign-in',
    body: 'json',
    takes: SignRecord,
    gives: PushAnswer,
    did: 'record-signed',
    answer: sign,
  },
];
