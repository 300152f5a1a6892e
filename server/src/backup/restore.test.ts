import { mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { canonicalText, sha256Hex } from '@careful-seam/core/log/chain';
import { create, extract } from 'tar';
import { v4 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore } from '../store/dataSource';
import { MIGRATIONS } from '../store/migrations';
import { created, PASSWORD, PEOPLE, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { verifyLedger } from '../verify/verifyLedger';
import { fileSha256, makeBackup, urlOf } from './makeBackup';
import { cleanUpRestores, restoreBackup } from './restoreBackup';
import { LEFT_OUT, TABLES } from './tables';

let server: TestServer;
beforeEach(async () => {
  server = await testServer();
});
afterEach(() => server.close());

const place = () => ({ url: urlOf(server.store), picturePlace: server.picturePlace, now: new Date() });
const folder = () => mkdtempSync(join(tmpdir(), 'seam-test-restore-'));
async function backedUp(): Promise<string> {
  const file = join(folder(), 'b.tar');
  await makeBackup(server.store, server.picturePlace, file, new Date());
  return file;
}
/** The same backup with something changed in it, its manifest and sums set right as somebody would who means it. */
async function forged(file: string, change: (dir: string, manifest: Record<string, unknown>) => void): Promise<string> {
  const dir = folder();
  await extract({ file, cwd: dir });
  const manifest = JSON.parse(readFileSync(join(dir, 'manifest.json'), 'utf8'));
  change(dir, manifest);
  if (manifest.tables)
    for (const t of manifest.tables as { name: string; sha256: string }[])
      t.sha256 = await fileSha256(join(dir, 'tables', `${t.name}.copy`)).catch(() => t.sha256);
  writeFileSync(join(dir, 'manifest.json'), JSON.stringify(manifest));
  const other = join(folder(), 'forged.tar');
  await create({ file: other, cwd: dir }, ['manifest.json', 'manifest.sig', 'tables']);
  return other;
}
async function shower() {
  const ines = await server.as('ines');
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  const texts = [tablet.seal('shower-created', created), tablet.seal('note', { words: 'one' })];
  await ines.post(path).send(push(texts)).expect(200);
  return { ines, tablet, path };
}
const code = (error: { code?: string }) => error.code;

describe('a backup', () => {
  it('holds every table, but for what is of the moment alone', async () => {
    const rows: { name: string }[] = await server.store.query(
      "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public' AND table_type = 'BASE TABLE'",
    );
    expect(rows.map((r) => r.name).sort()).toEqual([...TABLES, ...LEFT_OUT].sort());
  });
  it('is for its owner alone, and holds rows, no program', async () => {
    await shower();
    const file = await backedUp();
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(readFileSync(file).includes('PGDMP')).toBe(false);
    expect(readFileSync(file).includes('CREATE TABLE')).toBe(false);
  });
});

describe('a restore', () => {
  it('never revives a session, somebody who was disabled, or a link that was ended', async () => {
    await shower();
    const maren = await server.as('maren');
    const { body: link } = await maren
      .post('/api/links')
      .send({ kind: 'crew', crewId: 'heron', label: 'Phone', hours: 24, email: null })
      .expect(200);
    const [pavel, tomas] = [await server.as('pavel'), await server.as('tomas')];
    const file = await backedUp();
    await pavel.delete('/api/session').expect(200);
    await maren.delete(`/api/links/${link.id}`).expect(200);
    const { id, name, role, crewId } = PEOPLE.lucia;
    await maren.put(`/api/people/${id}`).send({ name, role, crewId, email: null, disabled: true }).expect(200);
    const { findings } = await restoreBackup(file, place());
    expect(findings).toEqual([]);
    // Who went stays out, who is signed in now stays in.
    await pavel.get('/api/session').expect(401);
    await tomas.get('/api/session').expect(200);
    expect((await server.store.query('SELECT 1 FROM session')).length).toBeGreaterThan(1);
    const lucia = await maren.post('/api/session').send({ signIn: 'lucia', password: PASSWORD });
    expect(lucia.status).toBe(401);
    const entered = await maren.post('/api/session/link').send({ code: link.path.split('/').at(-1) });
    expect(entered.status).toBe(410);
  });
  it('tells what is not as it was written, and goes on: one bad entry hides nothing', async () => {
    const { tablet } = await shower();
    const other = await shower();
    const file = await forged(await backedUp(), (dir) => {
      const rows = join(dir, 'tables', 'entry.copy');
      writeFileSync(rows, readFileSync(rows, 'utf8').replace('"words":"one"', '"words":"two"'));
    });
    const found = await restoreBackup(file, place());
    expect(found.findings.map((f) => f.what)).toEqual(
      expect.arrayContaining(["its signature is not of this firm's key", 'its text does not have its hash']),
    );
    expect(found).toMatchObject({ showers: 2, entries: 4 });
    const ines = await server.as('ines');
    for (const id of [tablet.showerId, other.tablet.showerId])
      expect((await ines.get(`/api/showers/${id}/entries`).expect(200)).body.entries).toHaveLength(2);
  });
  it('takes in what an earlier program stored with a blank at its end: it is told, and the backup stands', async () => {
    const { tablet } = await shower();
    const store = server.store;
    await store.query('ALTER TABLE entry DISABLE TRIGGER USER');
    const [row] = await store.query('SELECT * FROM entry WHERE shower_id = $1 AND ledger_seq = 2', [tablet.showerId]);
    const text = row.text.replace('"words":"one"', '"words":"one "');
    await store.query(`UPDATE entry SET text = $2, hash = decode($3, 'hex') WHERE id = $1`, [
      row.id,
      text,
      sha256Hex(text),
    ]);
    await store.query('ALTER TABLE entry ENABLE TRIGGER USER');
    const found = await restoreBackup(await backedUp(), place());
    expect(found.findings.map((f) => f.what)).toContain('its ledger hash does not match');
    expect(found.entries).toBe(2);
    expect(canonicalText(JSON.parse(text))).toBe(text);
  });
  it('runs nothing that a file says: tables and columns that are not known, and dumps, are refused', async () => {
    await shower();
    const file = await backedUp();
    const before = await verifyLedger(server.store, server.picturePlace);
    const refused = async (change: (dir: string, manifest: Record<string, unknown>) => void) =>
      restoreBackup(await forged(file, change), place()).catch(code);
    const first = (m: Record<string, unknown>) => (m.tables as { name: string; columns: string[] }[])[0]!;
    expect(await refused((_dir, m) => Object.assign(first(m), { name: 'pg_authid' }))).toBe('backup-unreadable');
    expect(await refused((_dir, m) => first(m).columns.push(`x") FROM PROGRAM 'touch /tmp/seam-was-here' --`))).toBe(
      'backup-unreadable',
    );
    expect(await refused((_dir, m) => first(m).columns.push('no_such_column'))).toBe('backup-rows-unfit');
    expect(await refused((_dir, m) => Object.assign(m, { schema: 'FarLater9999999999999' }))).toBe('backup-too-new');
    expect(
      await refused((dir, m) => {
        delete m.tables;
        delete m.schema;
        writeFileSync(join(dir, 'database.dump'), 'PGDMP');
        Object.assign(m, { formatVersion: 1, dumpSha256: sha256Hex('PGDMP') });
      }),
    ).toBe('backup-database-changed');
    expect(await verifyLedger(server.store, server.picturePlace)).toEqual(before);
    const left: unknown[] = await server.store.query(
      "SELECT 1 FROM pg_database WHERE datname LIKE current_database() || '_restoring_%'",
    );
    expect(left).toEqual([]);
  });
  it('packed ones are not unpacked: a few bytes could fill the disk', async () => {
    const file = await backedUp();
    const packed = join(folder(), 'b.tar.gz');
    writeFileSync(packed, gzipSync(readFileSync(file)));
    expect(await restoreBackup(packed, place()).catch(code)).toBe('backup-unreadable');
    const many = join(folder(), 'zeros.gz');
    writeFileSync(many, gzipSync(Buffer.alloc(10_000_000)));
    expect(await restoreBackup(many, place()).catch(code)).toBe('backup-unreadable');
  });
  it('brings an earlier version’s rows up to date', async () => {
    await shower();
    // The very rows as the earlier program had them: every step that came since is taken back.
    const steps = MIGRATIONS.length - 1 - MIGRATIONS.findIndex((m) => m.name === 'Origins1764300000000');
    for (let k = 0; k < steps; k += 1) await server.store.undoLastMigration();
    const old: { column_name: string }[] = await server.store.query(
      "SELECT column_name FROM information_schema.columns WHERE table_name IN ('shower', 'entry', 'shower_head')",
    );
    expect(old.map((c) => c.column_name)).toEqual(expect.arrayContaining(['head_seq', 'body']));
    expect(await restoreBackup(await backedUp(), place())).toMatchObject({ showers: 1, entries: 2, findings: [] });
    const rows: unknown[] = await server.store.query('SELECT 1 FROM set_up_code');
    expect(rows).toEqual([]);
  });
  it('that was killed leaves a database half filled, which the next start takes away, and not one of today', async () => {
    const url = urlOf(server.store);
    const name = new URL(url).pathname.slice(1);
    const old = `${name}_restoring_${Date.now() - 25 * 3_600_000}`;
    const fresh = `${name}_restoring_${Date.now()}`;
    for (const database of [old, fresh]) await server.store.query(`CREATE DATABASE "${database}"`);
    await cleanUpRestores(url, Date.now());
    const left: { datname: string }[] = await server.store.query(
      "SELECT datname FROM pg_database WHERE datname LIKE $1 || '_restoring_%'",
      [name],
    );
    expect(left.map((r) => r.datname)).toEqual([fresh]);
    await server.store.query(`DROP DATABASE "${fresh}"`);
    await (await openStore(url, 1)).destroy();
  });
});
