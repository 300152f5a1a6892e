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
