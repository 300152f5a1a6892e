import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is counted across showers, worked out from their entries: it can be thrown away and made anew. */
export class Facts1764620000000 implements MigrationInterface {
  name = 'Facts1764620000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE projection (
        shower_id uuid NOT NULL CONSTRAINT projection_pk PRIMARY KEY, head_seq integer NOT NULL, version integer NOT NULL);
      CREATE TABLE projection_place (place bigint NOT NULL, version integer NOT NULL);
      CREATE TABLE defect_fact (
        shower_id uuid NOT NULL, id uuid NOT NULL, made_by text NOT NULL, crew text, trade text, made_by_told boolean NOT NULL, fixer text,
        inspector text NOT NULL, stage_made text NOT NULL, stage_found text NOT NULL, element_group text NOT NULL, element text NOT NULL,
        kind text NOT NULL, check_id text NOT NULL, severity text NOT NULL, cause text NOT NULL, sure text NOT NULL, escape text NOT NULL,
        step text NOT NULL, method text NOT NULL, found_at timestamptz(3) NOT NULL, found_on date NOT NULL, assigned_at timestamptz(3),
        closed_at timestamptz(3), hours double precision, materials double precision, repeats integer NOT NULL, words text NOT NULL,
        CONSTRAINT defect_fact_pk PRIMARY KEY (shower_id, id));
      CREATE INDEX defect_fact_found ON defect_fact (found_at DESC, id);
      CREATE INDEX defect_fact_crew ON defect_fact (crew, found_on);
      CREATE TABLE inspected_fact (
        shower_id uuid NOT NULL, stage text NOT NULL, element_group text NOT NULL, day date NOT NULL, crew text NOT NULL, method text NOT NULL,
        mm double precision NOT NULL, points integer NOT NULL);
      CREATE INDEX inspected_fact_shower ON inspected_fact (shower_id);
      CREATE INDEX inspected_fact_day ON inspected_fact (day, crew);
      CREATE TABLE pass_fact (
        shower_id uuid NOT NULL, stage text NOT NULL, check_id text NOT NULL, element_group text NOT NULL, day date NOT NULL,
        mm double precision NOT NULL, points integer NOT NULL);
      CREATE INDEX pass_fact_shower ON pass_fact (shower_id);
      CREATE INDEX pass_fact_day ON pass_fact (day);
      CREATE TABLE minutes_fact (shower_id uuid NOT NULL, stage text NOT NULL, day date NOT NULL, minutes double precision NOT NULL);
      CREATE INDEX minutes_fact_shower ON minutes_fact (shower_id);
      CREATE TABLE firm_mark (id uuid NOT NULL CONSTRAINT firm_mark_pk PRIMARY KEY, day date NOT NULL, words text NOT NULL);
      CREATE TABLE look_plan (
        id uuid NOT NULL CONSTRAINT look_plan_pk PRIMARY KEY, accepted_by text NOT NULL, accepted_at timestamptz(3) NOT NULL,
        cells jsonb NOT NULL);
      DROP TABLE queue_place;
      DELETE FROM shower_queue;
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE projection, projection_place, defect_fact, inspected_fact, pass_fact, minutes_fact, firm_mark, look_plan;
      CREATE TABLE queue_place (place bigint NOT NULL);`);
  }
}

/** All defects that are known: those that are counted, and those of old tables. */
const KNOWN_DEFECT = `
      CREATE VIEW known_defect AS
        SELECT shower_id, id, made_by, crew, trade, fixer, inspector, stage_made, stage_found, element_group, element, kind, check_id, severity,
          cause, escape, step, method, found_at, found_on, closed_at, hours, materials, repeats, words, NULL::text AS old_shower,
          NULL::text AS old_job
        FROM defect_fact
        UNION ALL
        SELECT NULL::uuid, id, CASE WHEN crew = '' THEN 'unknown' ELSE 'crew' END, nullif(crew, ''), NULL, NULL, '', stage_made, stage_found,
          element_group, '', kind, '', severity, cause, escape, 'closed', '', found_at, found_on, closed_at, hours, materials, 0, words, shower, job
        FROM old_defect;`;

/**
 * Defects that were written down before this program, and all that are told: those and the counted ones. What is counted against has no
 * part in them: nobody knows how much was looked at then.
 */
export class OldDefects1764800000000 implements MigrationInterface {
  name = 'OldDefects1764800000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE old_table (
        id uuid NOT NULL CONSTRAINT old_table_pk PRIMARY KEY, name text NOT NULL, taken_by text NOT NULL, taken_at timestamptz(3) NOT NULL,
        heads jsonb NOT NULL, mapping jsonb NOT NULL);
      CREATE TABLE old_defect (
        id uuid NOT NULL CONSTRAINT old_defect_pk PRIMARY KEY,
        table_id uuid NOT NULL CONSTRAINT old_defect_table REFERENCES old_table (id) ON DELETE CASCADE,
        fingerprint text NOT NULL CONSTRAINT old_defect_once UNIQUE, shower text NOT NULL, job text NOT NULL, crew text NOT NULL, kind text NOT NULL,
        severity text NOT NULL, stage_made text NOT NULL, stage_found text NOT NULL, element_group text NOT NULL, cause text NOT NULL,
        escape text NOT NULL, found_at timestamptz(3) NOT NULL, found_on date NOT NULL, closed_at timestamptz(3), hours double precision,
        materials double precision, words text NOT NULL);
      CREATE INDEX old_defect_found ON old_defect (found_at DESC, id);
      CREATE INDEX old_defect_of_table ON old_defect (table_id);
      ${KNOWN_DEFECT}
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW known_defect; DROP TABLE old_defect, old_table');
  }
}

/** Columns of what is counted, by the name under which it is read. */
const COUNTED = {
  defect: `shower_id, id, made_by, crew, trade, made_by_told, fixer, inspector, stage_made, stage_found, element_group, element, kind, check_id,
    severity, cause, sure, escape, step, method, found_at, found_on, assigned_at, closed_at, hours, materials, repeats, words`,
  inspected: 'shower_id, stage, element_group, day, crew, method, mm, points',
  pass: 'shower_id, stage, check_id, element_group, day, mm, points',
  minutes: 'shower_id, stage, day, minutes',
} as const;

/**
 * What is counted stands beside what an earlier version of the program counted, until all showers are: answers never mix two versions.
 * Tables hold rows of any version (`defect_counted`); what is asked (`defect_fact`) is those of the version in force.
 */
export class FactsBeside1764920000000 implements MigrationInterface {
  name = 'FactsBeside1764920000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP VIEW known_defect;
      TRUNCATE projection, projection_place, defect_fact, inspected_fact, pass_fact, minutes_fact;
      CREATE TABLE facts_in_force (version integer NOT NULL);
      INSERT INTO facts_in_force VALUES (1);
      ALTER TABLE projection DROP CONSTRAINT projection_pk, ADD CONSTRAINT projection_pk PRIMARY KEY (shower_id, version);
      ALTER TABLE defect_fact DROP CONSTRAINT defect_fact_pk;`);
    for (const [what, columns] of Object.entries(COUNTED))
      await runner.query(`
        ALTER TABLE ${what}_fact RENAME TO ${what}_counted;
        ALTER TABLE ${what}_counted ADD COLUMN version integer NOT NULL;
        CREATE VIEW ${what}_fact AS SELECT ${columns} FROM ${what}_counted WHERE version = (SELECT version FROM facts_in_force);`);
    await runner.query(`
      ALTER TABLE defect_counted ADD CONSTRAINT defect_fact_pk PRIMARY KEY (shower_id, id, version);
      ${KNOWN_DEFECT}`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW known_defect');
    for (const what of Object.keys(COUNTED))
      await runner.query(`
        DROP VIEW ${what}_fact;
        TRUNCATE ${what}_counted;
        ALTER TABLE ${what}_counted RENAME TO ${what}_fact;`);
    await runner.query(`
      TRUNCATE projection, projection_place;
      DROP TABLE facts_in_force;
      ALTER TABLE projection DROP CONSTRAINT projection_pk, ADD CONSTRAINT projection_pk PRIMARY KEY (shower_id);
      ALTER TABLE defect_fact DROP CONSTRAINT defect_fact_pk, ADD CONSTRAINT defect_fact_pk PRIMARY KEY (shower_id, id);`);
    for (const what of Object.keys(COUNTED)) await runner.query(`ALTER TABLE ${what}_fact DROP COLUMN version`);
    await runner.query(KNOWN_DEFECT);
  }
}
