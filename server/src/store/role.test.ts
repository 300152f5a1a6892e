import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestServer, testServer } from '../tests/testServer';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

describe('the role that the application works as', () => {
  it('is no superuser: it runs no program and reads no file of the machine', async () => {
    const [role] = await server.store.query(
      'SELECT rolsuper, rolcreaterole, rolreplication, rolcreatedb FROM pg_roles WHERE rolname = current_user',
    );
    expect(role).toEqual({ rolsuper: false, rolcreaterole: false, rolreplication: false, rolcreatedb: true });
    await server.store.query('CREATE TABLE scratch (line text)');
    await expect(server.store.query("COPY scratch FROM PROGRAM 'id'")).rejects.toThrow(/permission|must be superuser/i);
    await expect(server.store.query("COPY scratch FROM '/etc/hostname'")).rejects.toThrow(
      /permission|must be superuser/i,
    );
    await expect(server.store.query("SELECT pg_read_file('/etc/hostname')")).rejects.toThrow(/permission/i);
    await server.store.query('DROP TABLE scratch');
  });
});
