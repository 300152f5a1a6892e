import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Two inspectors answer the same places, each without the other: kept beside the record until both have, since it would tell. */
export class BlindLooks1764740000000 implements MigrationInterface {
  name = 'BlindLooks1764740000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE blind_look (
        id uuid NOT NULL CONSTRAINT blind_look_pk PRIMARY KEY,
        shower_id uuid NOT NULL, stage text NOT NULL, check_id text NOT NULL, places jsonb NOT NULL,
        first_id uuid NOT NULL, second_id uuid NOT NULL, asked_by text NOT NULL, asked_at timestamptz(3) NOT NULL);
      CREATE INDEX blind_look_newest ON blind_look (asked_at DESC);
      CREATE TABLE blind_answer (
        look_id uuid NOT NULL CONSTRAINT blind_answer_look REFERENCES blind_look (id) ON DELETE CASCADE,
        inspector_id uuid NOT NULL, answers jsonb NOT NULL, answered_at timestamptz(3) NOT NULL,
        CONSTRAINT blind_answer_pk PRIMARY KEY (look_id, inspector_id));
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE blind_answer, blind_look');
  }
}

/** Crews that a stage of a shower was handed to: they see it as the shower's own crew does. */
export class StageCrews1764980000000 implements MigrationInterface {
  name = 'StageCrews1764980000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE shower ADD COLUMN also_crews text[] NOT NULL DEFAULT '{}';
      CREATE INDEX shower_by_also_crew ON shower USING gin (also_crews) WHERE also_crews <> '{}';
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX shower_by_also_crew; ALTER TABLE shower DROP COLUMN also_crews');
  }
}

/** A crew that has become part of another: its past counts as that one's. */
export class CrewMerge1764860000000 implements MigrationInterface {
  name = 'CrewMerge1764860000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE crew ADD COLUMN into_crew text');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE crew DROP COLUMN into_crew');
  }
}
