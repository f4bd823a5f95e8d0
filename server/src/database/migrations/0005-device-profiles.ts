import type { MigrationInterface, QueryRunner } from 'typeorm';

const PROFILE = `CREATE TABLE "device_profile" ("id" varchar PRIMARY KEY NOT NULL, "name" text NOT NULL, "body" text NOT NULL, "savedAt" text NOT NULL, "savedBy" text NOT NULL)`;

/** What was decided about a device's columns is kept by a name, for every programme. */
export class DeviceProfiles1796036580000 implements MigrationInterface {
  readonly name = 'DeviceProfiles1796036580000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(PROFILE);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "device_profile"');
  }
}
