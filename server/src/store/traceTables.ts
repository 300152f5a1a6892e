import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What let water through, by the calls that ended: counted from the entries, it can be made anew. */
export class FoundPaths1765200000000 implements MigrationInterface {
  name = 'FoundPaths1765200000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE found_counted (
        shower_id uuid NOT NULL, version integer NOT NULL, call uuid NOT NULL, kind text NOT NULL, element text NOT NULL,
        CONSTRAINT found_counted_pk PRIMARY KEY (shower_id, call, version));
      CREATE VIEW found_fact AS
        SELECT shower_id, call, kind, element FROM found_counted WHERE version = (SELECT version FROM facts_in_force);
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW found_fact; DROP TABLE found_counted');
  }
}

/** What instruments measured that send by themselves, by the code that each was given. */
export class DeviceReadings1765240000000 implements MigrationInterface {
  name = 'DeviceReadings1765240000000';
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE device_reading (
        link_id uuid NOT NULL, of text NOT NULL, at_ms bigint NOT NULL, value double precision NOT NULL,
        CONSTRAINT device_reading_pk PRIMARY KEY (link_id, of, at_ms));
    `);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE device_reading');
  }
}
