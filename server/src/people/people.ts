import type { ChangePerson, NewPerson, PersonRow } from '@careful-seam/contract/api/office';
import { type DataSource, Not } from 'typeorm';
import { v4 } from 'uuid';
import type { z } from 'zod';
import { Refusal } from '../refusals/refusal';
import { CrewEntity, UserEntity, type UserRow } from '../store/entities/people';
import { closeSessionsOf, hashPassword } from './sessions';

/** A person without what is hidden. */
export const rowOf = ({ passwordHash: _hidden, ...row }: UserRow): PersonRow => row;

/** Crew leads belong to a crew of the firm; the others to none. */
async function checkCrew(store: DataSource, role: UserRow['role'], crewId: string | null): Promise<void> {
  if (role !== 'crew-lead' && crewId !== null) throw new Refusal('crew-not-for-role', 'crewId');
  if (role !== 'crew-lead') return;
  const crew = crewId === null ? null : await store.getRepository(CrewEntity).findOneBy({ id: crewId });
  if (!crew) throw new Refusal('lead-needs-crew', 'crewId');
}

/** Makes a person without a usable password: they set their own through a link. */
export async function makePerson(store: DataSource, input: z.infer<typeof NewPerson>): Promise<UserRow> {
  await checkCrew(store, input.role, input.crewId);
  const users = store.getRepository(UserEntity);
  if (await users.findOneBy({ signIn: input.signIn }))
    throw new Refusal('sign-in-taken', 'signIn', { name: input.signIn });
  const row: UserRow = { id: v4(), ...input, passwordHash: await hashPassword(v4()), disabled: false, language: null };
  await users.insert(row);
  return row;
}

/** Changes a person. Disabling ends their sessions at once; the last manager stays. */
export async function changePerson(
  store: DataSource,
  id: string,
  change: z.infer<typeof ChangePerson>,
): Promise<UserRow> {
  const users = store.getRepository(UserEntity);
  const row = await users.findOneBy({ id });
  if (!row) throw new Refusal('no-such-person', 'person');
  const next = { ...row, ...change };
  await checkCrew(store, next.role, next.crewId);
  const managing = (u: UserRow) => u.role === 'manager' && !u.disabled;
  if (
    managing(row) &&
    !managing(next) &&
    (await users.countBy({ role: 'manager', disabled: false, id: Not(id) })) === 0
  )
    throw new Refusal('last-manager', 'role');
  await users.update({ id }, change);
  if (next.disabled) await closeSessionsOf(store, id);
  return next;
}

/** Sets a new password and ends every session that the old one opened. */
export async function setPassword(store: DataSource, userId: string, password: string): Promise<void> {
  await store.getRepository(UserEntity).update({ id: userId }, { passwordHash: await hashPassword(password) });
  await closeSessionsOf(store, userId);
}
