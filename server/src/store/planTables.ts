import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The plan: what somebody set for it, and what each open shower has ahead, which can be worked out again. */
export class Plan1765040000000 implements MigrationInterface {
  name = 'Plan1765040000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE plan_note (
        kind text NOT NULL, id text NOT NULL, data jsonb NOT NULL, changed_at timestamptz(3) NOT NULL, CONSTRAINT plan_note_pk PRIMARY KEY (kind, id));
      CREATE TABLE shower_ahead (
        shower_id uuid NOT NULL CONSTRAINT shower_ahead_pk PRIMARY KEY, head_seq integer NOT NULL, version integer NOT NULL,
        made_at timestamptz(3) NOT NULL, data jsonb);
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE plan_note, shower_ahead');
  }
}

/** Tables whose changes are news to somebody's tablet. */
const TOLD = ['shower', 'shower_head', 'plan_note', 'firm_setting', 'rule_book', 'crew', 'look_plan'] as const;

/** Whoever listens is told that something moved, on whichever server it was written; what moved is asked for as ever. */
export class News1765100000000 implements MigrationInterface {
  name = 'News1765100000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE access_link ADD COLUMN job text;
      CREATE FUNCTION tell_news() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM pg_notify('news', ''); RETURN NULL; END $$;
      ${TOLD.map((table) => `CREATE TRIGGER ${table}_news AFTER INSERT OR UPDATE OR DELETE ON ${table} FOR EACH STATEMENT EXECUTE FUNCTION tell_news();`).join('\n      ')}
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ${TOLD.map((table) => `DROP TRIGGER ${table}_news ON ${table};`).join('\n      ')}
      DROP FUNCTION tell_news;
      ALTER TABLE access_link DROP COLUMN job;`);
  }
}
