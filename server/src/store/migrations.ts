import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The first tables. Entries are only ever added: the trigger refuses updates and deletes from any client. */
class FirstTables1763900000000 implements MigrationInterface {
  name = 'FirstTables1763900000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE firm_user (
        id uuid NOT NULL CONSTRAINT firm_user_pk PRIMARY KEY, name text NOT NULL, sign_in text NOT NULL CONSTRAINT firm_user_sign_in UNIQUE,
        password_hash text NOT NULL, role text NOT NULL, crew_id text, disabled boolean NOT NULL DEFAULT false);
      CREATE TABLE crew (id text NOT NULL CONSTRAINT crew_pk PRIMARY KEY, name text NOT NULL);
      CREATE TABLE session (token_hash text NOT NULL CONSTRAINT session_pk PRIMARY KEY, user_id uuid NOT NULL, expires_at timestamptz NOT NULL);
      CREATE TABLE shower (
        id uuid NOT NULL CONSTRAINT shower_pk PRIMARY KEY, name text NOT NULL, job text NOT NULL, crew_id text NOT NULL,
        head_seq integer NOT NULL DEFAULT 0, head_hash text, updated_at timestamptz NOT NULL);
      CREATE INDEX shower_by_crew ON shower (crew_id, updated_at);
      CREATE INDEX shower_by_update ON shower (updated_at);
      CREATE TABLE entry (
        id uuid NOT NULL CONSTRAINT entry_pk PRIMARY KEY, shower_id uuid NOT NULL, ledger_seq integer NOT NULL, kind text NOT NULL,
        author_id text NOT NULL, device_id uuid NOT NULL, device_seq integer NOT NULL, hash text NOT NULL, text text NOT NULL,
        body jsonb NOT NULL, order_at text NOT NULL, received_at timestamptz(3) NOT NULL, prev_ledger_hash text,
        ledger_hash text NOT NULL, skew_ms bigint NOT NULL,
        CONSTRAINT entry_ledger_place UNIQUE (shower_id, ledger_seq),
        CONSTRAINT entry_device_place UNIQUE (shower_id, device_id, device_seq));
      CREATE TABLE photo (
        hash text NOT NULL CONSTRAINT photo_pk PRIMARY KEY, mime text NOT NULL, bytes integer NOT NULL,
        width_px integer NOT NULL, height_px integer NOT NULL, received_at timestamptz NOT NULL);
      CREATE TABLE rule_book (id text NOT NULL, version integer NOT NULL, data jsonb NOT NULL, CONSTRAINT rule_book_pk PRIMARY KEY (id, version));
      CREATE FUNCTION entries_stand() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'entries are append-only'; END $$;
      CREATE TRIGGER entries_stand BEFORE UPDATE OR DELETE ON entry FOR EACH ROW EXECUTE FUNCTION entries_stand();
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'DROP TABLE entry, shower, session, crew, firm_user, photo, rule_book; DROP FUNCTION entries_stand()',
    );
  }
}

export const MIGRATIONS = [FirstTables1763900000000];
