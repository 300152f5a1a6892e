import { randomInt } from 'node:crypto';
import type { SetUp, SetUpAnswer } from '@careful-seam/contract/api/setUp';
import { sha256Hex } from '@careful-seam/core/log/chain';
import type { DataSource, EntityManager } from 'typeorm';
import { v4 } from 'uuid';
import { readSettings, writeSettings } from '../firm/settings';
import { makeLink } from '../people/links';
import { hashPassword } from '../people/sessions';
import { keepPhoto } from '../photos/photoStore';
import { Refusal } from '../refusals/refusal';
import { CrewEntity, UserEntity, type UserRow } from '../store/entities/people';
import { sha256 } from '../store/sha256';

/** A code is good for a day: whoever starts the server reads its log. */
const CODE_HOURS = 24;
/** Letters and digits that are not taken for one another. */
const LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
const [GROUPS, IN_A_GROUP] = [4, 5];

/** True while nobody can sign in: the installation is empty. */
export async function needsSetUp(store: DataSource | EntityManager): Promise<boolean> {
  return (await store.getRepository(UserEntity).count({ take: 1 })) === 0;
}

/** As it is typed: case, dashes and blanks don't matter. */
const bare = (code: string): string => code.toUpperCase().replaceAll(/[^A-Z0-9]/g, '');

/** Makes a new code for the set-up page, told once; null when somebody is there already. Only its hash is kept. */
export async function makeSetUpCode(store: DataSource, now: Date): Promise<string | null> {
  if (!(await needsSetUp(store))) return null;
  const group = () => Array.from({ length: IN_A_GROUP }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  const code = Array.from({ length: GROUPS }, group).join('-');
  await store.query('INSERT INTO set_up_code (code_hash, made_at) VALUES ($1, $2)', [sha256Hex(bare(code)), now]);
  return code;
}

/** Uses up a code; refuses one that is wrong, used or too old, in one breath, so that it works once. */
async function useCode(tx: EntityManager, code: string, now: Date): Promise<void> {
  const since = new Date(now.getTime() - CODE_HOURS * 3_600_000);
  const [, used] = await tx.query(
    'UPDATE set_up_code SET used_at = $2 WHERE code_hash = $1 AND used_at IS NULL AND made_at > $3',
    [sha256Hex(bare(code)), now, since],
  );
  if (used === 1) return;
  throw new Refusal('set-up-code-wrong', 'code');
}

function findTwice(signIns: readonly string[]): void {
  const twice = signIns.find((s, i) => signIns.indexOf(s) !== i);
  if (twice !== undefined) throw new Refusal('sign-in-twice', 'people', { name: twice });
}

/** Rows of the people that are there from the first day. Crew leads belong to one of the crews named. */
function rowsOf(input: SetUp, crews: ReadonlyMap<string, string>, passwords: { own: string; none: string }): UserRow[] {
  const { manager } = input;
  const rest = { email: null, disabled: false, language: null };
  const people = input.people.map((p): UserRow => {
    const crewId = p.role === 'crew-lead' ? (crews.get((p.crew ?? '').toLowerCase()) ?? null) : null;
    if (p.role === 'crew-lead' && crewId === null) throw new Refusal('lead-without-crew', 'people', { name: p.name });
    const { name, signIn, role } = p;
    return { id: v4(), name, signIn, role, crewId, passwordHash: passwords.none, ...rest };
  });
  const { name, signIn } = manager;
  return [{ id: v4(), name, signIn, role: 'manager', crewId: null, passwordHash: passwords.own, ...rest }, ...people];
}

async function keepLogo(tx: EntityManager, folder: string, base64: string, now: Date): Promise<string> {
  const bytes = Buffer.from(base64, 'base64');
  return (await keepPhoto(tx, folder, sha256(bytes), bytes, now)).hash;
}

/**
 * A firm's first day: settings, crews, the first manager with their password, everybody else with a link to set their own.
 * All of it is written or nothing; only an empty installation takes it, and of two at the same time one.
 */
export async function setUp(
  store: DataSource,
  input: SetUp,
  { now, origin, picturePlace }: { now: Date; origin: string; picturePlace: string },
): Promise<SetUpAnswer> {
  findTwice([input.manager.signIn, ...input.people.map((p) => p.signIn)]);
  const passwords = { own: await hashPassword(input.manager.password), none: await hashPassword(v4()) };
  const people = await store.transaction(async (tx) => {
    await tx.query('LOCK TABLE firm_user IN EXCLUSIVE MODE');
    if (!(await needsSetUp(tx))) throw new Refusal('set-up-done', 'code');
    await useCode(tx, input.code, now);
    const crews = input.crews.map((name) => ({ id: `crew-${v4().slice(0, 8)}`, name }));
    const rows = rowsOf(input, new Map(crews.map((c) => [c.name.toLowerCase(), c.id])), passwords);
    await tx.getRepository(CrewEntity).insert(crews);
    await tx.getRepository(UserEntity).insert(rows);
    // Only who has the code brings a picture in.
    const logo = input.logo === null ? null : await keepLogo(tx, picturePlace, input.logo, now);
    await writeSettings(tx, { ...(await readSettings(tx)), ...input.firm, logo });
    return rows;
  });
  const [manager, ...others] = people;
  const links: SetUpAnswer['links'] = [];
  for (const { id, name, signIn } of others) {
    const { path } = await makeLink(store, { kind: 'password', userId: id }, { by: manager!.id, now, origin });
    links.push({ name, signIn, path });
  }
  return { signIn: manager!.signIn, links };
}
