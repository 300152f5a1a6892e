import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import type { Express } from 'express';
import supertest from 'supertest';
import { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { urlOf } from '../backup/makeBackup';
import { createApp } from '../http/createApp';
import type { Limits } from '../http/limits';
import { makeLogger } from '../http/logger';
import { makePapers, type Papers } from '../papers/papers';
import { hashPassword } from '../people/sessions';
import { type ShowerWithHead, showerRows } from '../showers/showerRows';
import { openStore } from '../store/dataSource';
import { dropDatabase } from '../store/dropDatabase';
import { RuleBookEntity } from '../store/entities/firm';
import { CrewEntity, UserEntity } from '../store/entities/people';
import { testTablet as tabletOf } from './testTablet';

export const PASSWORD = 'correct horse';
export const PEOPLE = {
  ines: { id: v4(), name: 'Ines', signIn: 'ines', role: 'inspector' as const, crewId: null },
  tomas: { id: v4(), name: 'Tomas', signIn: 'tomas', role: 'inspector' as const, crewId: null },
  maren: { id: v4(), name: 'Maren', signIn: 'maren', role: 'manager' as const, crewId: null },
  pavel: { id: v4(), name: 'Pavel', signIn: 'pavel', role: 'crew-lead' as const, crewId: 'heron' },
  lucia: { id: v4(), name: 'Lucia', signIn: 'lucia', role: 'crew-lead' as const, crewId: 'otter' },
};
export type Who = keyof typeof PEOPLE;

export interface TestServer {
  app: Express;
  store: DataSource;
  picturePlace: string;
  papers: Papers;
  /** A signed-in caller, with the header that our own pages set. */
  as: (who: Who) => Promise<ReturnType<typeof supertest.agent>>;
  close: () => Promise<void>;
}

/**
 * A server on a database of its own, in the PostgreSQL that the test run started; `pictures`: where they lie, else a new folder; `now`:
 * its clock, else the machine's.
 */
export async function testServer(limits?: Limits, pictures?: string, now = () => new Date()): Promise<TestServer> {
  const base = process.env.TEST_DATABASE_URL;
  if (!base) throw new Error('TEST_DATABASE_URL is not set: run the tests with "npm test".');
  const name = `t_${v4().replaceAll('-', '')}`;
  const admin = await new DataSource({ type: 'postgres', url: base }).initialize();
  await admin.query(`CREATE DATABASE ${name}`);
  const store = await openStore(base.replace(/\/[^/]*$/, `/${name}`), 6);
  const picturePlace = pictures ?? mkdtempSync(join(tmpdir(), 'seam-photos-'));
  const book = sampleBook();
  await store.getRepository(RuleBookEntity).insert({ id: book.id, version: book.version, data: book as object });
  await store.getRepository(CrewEntity).insert([
    { id: 'heron', name: 'Heron' },
    { id: 'otter', name: 'Otter' },
  ]);
  const passwordHash = await hashPassword(PASSWORD);
  await store
    .getRepository(UserEntity)
    .insert(Object.values(PEOPLE).map((p) => ({ ...p, passwordHash, disabled: false, email: null })));
  const papers = makePapers(urlOf(store), picturePlace);
  const app = createApp({
    store,
    picturePlace,
    papers,
    now,
    mail: null,
    publicUrl: 'https://seam.test',
    logger: makeLogger('silent'),
    webFolder: null,
    limits: limits ?? { account: 10_000, address: 10_000, usual: 100_000 },
  });
  return {
    app,
    store,
    picturePlace,
    papers,
    as: async (who) => {
      const agent = supertest.agent(app).set('x-careful-seam', '1');
      await agent.post('/api/session').send({ signIn: who, password: PASSWORD }).expect(200);
      return agent;
    },
    close: async () => {
      papers.stop();
      await store.destroy();
      await dropDatabase(admin, name);
      await admin.destroy();
    },
  };
}

/** One shower's row with its head. */
export async function rowOf(store: DataSource, column: 'id' | 'name', value: string): Promise<ShowerWithHead> {
  const [row] = await showerRows(store, `WHERE s.${column} = $1`, [value]);
  if (!row) throw new Error(`no shower whose ${column} is ${value}`);
  return row;
}

/** Takes entries out of a ledger as a restore from an older backup would: they can't be deleted otherwise. */
export async function lose(store: DataSource, where: string, values: unknown[]): Promise<void> {
  await store.query('ALTER TABLE entry DISABLE TRIGGER USER');
  await store.query(`DELETE FROM entry WHERE ${where}`, values);
  await store.query('ALTER TABLE entry ENABLE TRIGGER USER');
}

/** A tablet in a test: seals entries in a chain of its own. */
export const testTablet = (who: Who, showerId: string, lastOrderAt: string | null = null) =>
  tabletOf(PEOPLE[who], showerId, lastOrderAt);

export const created = { name: 'Test shower', job: 'Test job', crewId: 'heron', timeZone: 'UTC' };
export const push = (entries: string[]) => ({ clock: new Date().toISOString(), entries });
