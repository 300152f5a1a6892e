import type { DataSource } from 'typeorm';

/** A name of the database server as it stands in a statement. */
const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/**
 * Takes a database away that only this program uses. Not by force: that is refused, to a role that is no superuser, in the moment in
 * which the server's own cleaner is at work in it; without force the server ends its cleaner by itself and waits for the others.
 */
export async function dropDatabase(admin: DataSource, name: string): Promise<void> {
  for (let tries = 0; ; tries += 1) {
    await admin.query(
      'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1 AND usename = current_user AND pid <> pg_backend_pid()',
      [name],
    );
    const done = await admin.query(`DROP DATABASE IF EXISTS ${quoted(name)}`).then(
      () => true,
      (error: unknown) => {
        // Somebody connected in between, or is still going.
        if (tries >= 10) throw error;
        return false;
      },
    );
    if (done) return;
  }
}
