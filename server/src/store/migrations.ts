import type { MigrationInterface, QueryRunner } from 'typeorm';
import { BlindLooks1764740000000, CrewMerge1764860000000, StageCrews1764980000000 } from './crewTables';
import { Facts1764620000000, FactsBeside1764920000000, OldDefects1764800000000 } from './factTables';
import { News1765100000000, Plan1765040000000 } from './planTables';
import { DeviceReadings1765240000000, FoundPaths1765200000000 } from './traceTables';

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

/**
 * The office: jobs, visits, links, settings, mail, the audit, daily anchors, the firm's key and the epoch of the server.
 * What stands stays: the audit and the anchors are only ever added to, as the entries are.
 */
class Office1763950000000 implements MigrationInterface {
  name = 'Office1763950000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE firm_user ADD COLUMN email text;
      ALTER TABLE session ALTER COLUMN user_id DROP NOT NULL, ADD COLUMN link_id uuid;
      ALTER TABLE shower ADD COLUMN inspector_id uuid, ADD COLUMN visit_on date;
      CREATE INDEX shower_by_visit ON shower (visit_on) WHERE visit_on IS NOT NULL;
      CREATE INDEX shower_search ON shower USING gin (to_tsvector('simple', name || ' ' || job));
      CREATE INDEX shower_by_job ON shower (job);
      CREATE INDEX entry_by_ledger_hash ON entry (ledger_hash);
      CREATE TABLE job (name text NOT NULL CONSTRAINT job_pk PRIMARY KEY, address text NOT NULL, time_zone text NOT NULL);
      INSERT INTO job (name, address, time_zone)
        SELECT DISTINCT ON (s.job) s.job, '', coalesce(e.body->>'timeZone', 'UTC')
        FROM shower s LEFT JOIN entry e ON e.shower_id = s.id AND e.kind = 'shower-created' ORDER BY s.job, e.ledger_seq;
      CREATE TABLE access_link (
        id uuid NOT NULL CONSTRAINT access_link_pk PRIMARY KEY, kind text NOT NULL, code_hash text NOT NULL CONSTRAINT access_link_code UNIQUE,
        label text NOT NULL, crew_id text, shower_id uuid, user_id uuid, created_by uuid NOT NULL, created_at timestamptz NOT NULL,
        expires_at timestamptz NOT NULL, revoked_at timestamptz, last_used_at timestamptz, uses integer NOT NULL DEFAULT 0);
      CREATE TABLE firm_setting (id integer NOT NULL CONSTRAINT firm_setting_pk PRIMARY KEY, data jsonb NOT NULL);
      CREATE TABLE mail (
        id uuid NOT NULL CONSTRAINT mail_pk PRIMARY KEY, recipient text NOT NULL, subject text NOT NULL, words text NOT NULL,
        made_at timestamptz NOT NULL, sent_at timestamptz, problem text, tries integer NOT NULL DEFAULT 0);
      CREATE INDEX mail_by_time ON mail (made_at);
      CREATE TABLE audit (
        id uuid NOT NULL CONSTRAINT audit_pk PRIMARY KEY, at timestamptz NOT NULL, who_id text NOT NULL, who text NOT NULL,
        did text NOT NULL, about text NOT NULL, detail jsonb NOT NULL);
      CREATE INDEX audit_by_time ON audit (at);
      CREATE TABLE anchor (
        seq integer NOT NULL CONSTRAINT anchor_pk PRIMARY KEY, day date NOT NULL CONSTRAINT anchor_day UNIQUE, text text NOT NULL, hash text NOT NULL);
      CREATE TABLE firm_key (id text NOT NULL CONSTRAINT firm_key_pk PRIMARY KEY, public_key text NOT NULL, private_key text NOT NULL, made_at timestamptz NOT NULL);
      CREATE TABLE server_epoch (id uuid NOT NULL CONSTRAINT server_epoch_pk PRIMARY KEY, opened_at timestamptz NOT NULL, why text NOT NULL);
      CREATE FUNCTION written_stands() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION '% is append-only', TG_TABLE_NAME; END $$;
      CREATE TRIGGER audit_stands BEFORE UPDATE OR DELETE ON audit FOR EACH ROW EXECUTE FUNCTION written_stands();
      CREATE TRIGGER anchor_stands BEFORE UPDATE OR DELETE ON anchor FOR EACH ROW EXECUTE FUNCTION written_stands();
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE job, access_link, firm_setting, mail, audit, anchor, firm_key, server_epoch;
      DROP FUNCTION written_stands();
      DROP INDEX entry_by_ledger_hash;
      ALTER TABLE shower DROP COLUMN inspector_id, DROP COLUMN visit_on;
      DELETE FROM session WHERE user_id IS NULL;
      ALTER TABLE session ALTER COLUMN user_id SET NOT NULL, DROP COLUMN link_id;
      ALTER TABLE firm_user DROP COLUMN email;`);
  }
}

/** Entries that came in a file, other firms' rule books beside the own, mail that goes once. */
class Origins1764300000000 implements MigrationInterface {
  name = 'Origins1764300000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE entry ADD COLUMN imported boolean NOT NULL DEFAULT false;
      ALTER TABLE shower ADD COLUMN book_origin text NOT NULL DEFAULT '';
      ALTER TABLE rule_book ADD COLUMN origin text NOT NULL DEFAULT '';
      ALTER TABLE rule_book DROP CONSTRAINT rule_book_pk, ADD CONSTRAINT rule_book_pk PRIMARY KEY (origin, id, version);
      ALTER TABLE mail ADD COLUMN about text, ADD CONSTRAINT mail_once UNIQUE (about, recipient);
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DELETE FROM rule_book WHERE origin <> '';
      ALTER TABLE rule_book DROP CONSTRAINT rule_book_pk, ADD CONSTRAINT rule_book_pk PRIMARY KEY (id, version);
      ALTER TABLE rule_book DROP COLUMN origin;
      ALTER TABLE shower DROP COLUMN book_origin;
      ALTER TABLE entry DROP COLUMN imported;
      ALTER TABLE mail DROP CONSTRAINT mail_once, DROP COLUMN about;`);
  }
}

/** The code that lets the first manager in, and whether the firm that is stored here is the invented one. */
class FirstDay1764360000000 implements MigrationInterface {
  name = 'FirstDay1764360000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE set_up_code (
        code_hash text NOT NULL CONSTRAINT set_up_code_pk PRIMARY KEY, made_at timestamptz NOT NULL, used_at timestamptz);
      CREATE TABLE demo_firm (loaded_at timestamptz NOT NULL);
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE set_up_code, demo_firm');
  }
}

/** Tries of a minute, counted for all servers together; what is lost with a crash is a minute's count. */
class Tries1764400000000 implements MigrationInterface {
  name = 'Tries1764400000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE UNLOGGED TABLE tries (key text NOT NULL, minute timestamptz NOT NULL, hits integer NOT NULL, CONSTRAINT tries_pk PRIMARY KEY (key, minute))',
    );
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE tries');
  }
}

/** Mail that is tried again over days, and whose secret is kept no longer than it waits. */
class MailTries1764440000000 implements MigrationInterface {
  name = 'MailTries1764440000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE mail ADD COLUMN secret text, ADD COLUMN next_at timestamptz;
      UPDATE mail SET next_at = now() WHERE sent_at IS NULL AND tries > 0 AND tries < 5;
      CREATE INDEX mail_waiting ON mail (next_at) WHERE sent_at IS NULL;
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX mail_waiting; ALTER TABLE mail DROP COLUMN secret, DROP COLUMN next_at');
  }
}

/** 64 hex digits as bytes; what a damaged row holds instead is kept as it is, so that a check still names it. */
const asBytes = (column: string): string =>
  `CASE WHEN ${column} ~ '^([0-9a-f]{2})*$' THEN decode(${column}, 'hex') ELSE convert_to(${column}, 'UTF8') END`;

/**
 * Room for ten years. The head of a ledger, which moves with every entry, stands in a narrow table of its own with the number of
 * the transaction that moved it, so that a tablet asks for what moved since it asked last. Every unique key of an entry carries
 * its shower, so that the table can be parted by it. Hashes are bytes; the body is not stored a second time beside its text.
 */
class TenYears1764480000000 implements MigrationInterface {
  name = 'TenYears1764480000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE shower_head (
        shower_id uuid NOT NULL CONSTRAINT shower_head_pk PRIMARY KEY, head_seq integer NOT NULL DEFAULT 0, head_hash bytea,
        updated_at timestamptz(3) NOT NULL, is_signed boolean NOT NULL DEFAULT false, moved bigint NOT NULL) WITH (fillfactor = 80);
      CREATE FUNCTION head_moves() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN NEW.moved := pg_current_xact_id()::text::bigint; RETURN NEW; END $$;
      CREATE TRIGGER head_moves BEFORE INSERT OR UPDATE ON shower_head FOR EACH ROW EXECUTE FUNCTION head_moves();
      INSERT INTO shower_head (shower_id, head_seq, head_hash, updated_at, is_signed)
        SELECT s.id, s.head_seq, ${asBytes('s.head_hash')}, s.updated_at, coalesce(e.kind = 'record-signed', false)
        FROM shower s LEFT JOIN entry e ON e.shower_id = s.id AND e.ledger_seq = s.head_seq;
      CREATE INDEX shower_head_moved ON shower_head (moved);
      CREATE INDEX shower_head_newest ON shower_head (is_signed, updated_at);
      DROP INDEX shower_by_crew, shower_by_update;
      ALTER TABLE shower DROP COLUMN head_seq, DROP COLUMN head_hash, DROP COLUMN updated_at;
      CREATE INDEX shower_by_crew ON shower (crew_id);
      CREATE INDEX shower_by_inspector ON shower (inspector_id) WHERE inspector_id IS NOT NULL;
      CREATE FUNCTION shower_moves() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN UPDATE shower_head SET shower_id = shower_id WHERE shower_id = NEW.id; RETURN NULL; END $$;
      CREATE TRIGGER shower_moves AFTER UPDATE ON shower FOR EACH ROW EXECUTE FUNCTION shower_moves();
      CREATE TABLE shower_queue (
        shower_id uuid NOT NULL CONSTRAINT shower_queue_pk PRIMARY KEY, head_seq integer NOT NULL,
        decisions integer NOT NULL, holds integer NOT NULL, since timestamptz(3) NOT NULL,
        waits boolean NOT NULL GENERATED ALWAYS AS (decisions + holds > 0) STORED);
      CREATE TABLE queue_place (place bigint NOT NULL);
      CREATE INDEX shower_queue_waiting ON shower_queue (since, shower_id) WHERE waits;
      ALTER TABLE entry DROP CONSTRAINT entry_pk, ADD CONSTRAINT entry_pk PRIMARY KEY (shower_id, id), DROP COLUMN body;
      ALTER TABLE entry
        ALTER COLUMN hash TYPE bytea USING ${asBytes('hash')},
        ALTER COLUMN prev_ledger_hash TYPE bytea USING ${asBytes('prev_ledger_hash')},
        ALTER COLUMN ledger_hash TYPE bytea USING ${asBytes('ledger_hash')};
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE entry
        ALTER COLUMN hash TYPE text USING encode(hash, 'hex'),
        ALTER COLUMN prev_ledger_hash TYPE text USING encode(prev_ledger_hash, 'hex'),
        ALTER COLUMN ledger_hash TYPE text USING encode(ledger_hash, 'hex');
      ALTER TABLE entry ADD COLUMN body jsonb;
      ALTER TABLE entry DISABLE TRIGGER USER;
      UPDATE entry SET body = text::jsonb->'body';
      ALTER TABLE entry ENABLE TRIGGER USER;
      ALTER TABLE entry ALTER COLUMN body SET NOT NULL, DROP CONSTRAINT entry_pk, ADD CONSTRAINT entry_pk PRIMARY KEY (id);
      DROP TRIGGER shower_moves ON shower;
      DROP INDEX shower_by_crew, shower_by_inspector;
      ALTER TABLE shower ADD COLUMN head_seq integer NOT NULL DEFAULT 0, ADD COLUMN head_hash text, ADD COLUMN updated_at timestamptz;
      UPDATE shower s SET head_seq = h.head_seq, head_hash = encode(h.head_hash, 'hex'), updated_at = h.updated_at
        FROM shower_head h WHERE h.shower_id = s.id;
      ALTER TABLE shower ALTER COLUMN updated_at SET NOT NULL;
      CREATE INDEX shower_by_crew ON shower (crew_id, updated_at);
      CREATE INDEX shower_by_update ON shower (updated_at);
      DROP TABLE shower_head, shower_queue, queue_place;
      DROP FUNCTION head_moves();
      DROP FUNCTION shower_moves();`);
  }
}

/** What the server did by itself, and how much was stored on each day. */
class Operations1764490000000 implements MigrationInterface {
  name = 'Operations1764490000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE chore (
        id uuid NOT NULL CONSTRAINT chore_pk PRIMARY KEY, seq bigint GENERATED ALWAYS AS IDENTITY, what text NOT NULL,
        began_at timestamptz NOT NULL, ended_at timestamptz, ok boolean, words text NOT NULL);
      CREATE INDEX chore_newest ON chore (what, seq);
      CREATE TABLE server_day (
        day date NOT NULL CONSTRAINT server_day_pk PRIMARY KEY, entries bigint NOT NULL, database_bytes bigint NOT NULL, picture_bytes bigint NOT NULL);
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE chore, server_day');
  }
}

/** Mail speaks the language of who reads it. */
class Languages1764560000000 implements MigrationInterface {
  name = 'Languages1764560000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE firm_user ADD COLUMN language text');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE firm_user DROP COLUMN language');
  }
}

/** A letter keeps the language it is written in, so that a page that shows it can say so. */
class LetterLanguage1764680000000 implements MigrationInterface {
  name = 'LetterLanguage1764680000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE mail ADD COLUMN language text');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE mail DROP COLUMN language');
  }
}

export const MIGRATIONS = [
  FirstTables1763900000000,
  Office1763950000000,
  Origins1764300000000,
  FirstDay1764360000000,
  Tries1764400000000,
  MailTries1764440000000,
  TenYears1764480000000,
  Operations1764490000000,
  Languages1764560000000,
  Facts1764620000000,
  LetterLanguage1764680000000,
  BlindLooks1764740000000,
  OldDefects1764800000000,
  CrewMerge1764860000000,
  FactsBeside1764920000000,
  StageCrews1764980000000,
  Plan1765040000000,
  News1765100000000,
  FoundPaths1765200000000,
  DeviceReadings1765240000000,
];
