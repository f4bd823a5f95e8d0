import type { MigrationInterface, QueryRunner } from 'typeorm';

const FIXED = `CREATE TABLE "fixed_finding" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "key" text NOT NULL, "removed" boolean NOT NULL, "at" text NOT NULL, "by" text NOT NULL, "why" text NOT NULL, "inputs" text NOT NULL, "digest" text NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_f0dd72011112b32b9971f6a54e3" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`;

/** An answer can be fixed: its numbers, words and inputs stay as they were. */
export class FixedFindings1796122980000 implements MigrationInterface {
  readonly name = 'FixedFindings1796122980000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(FIXED);
    await runner.query(`CREATE UNIQUE INDEX "IDX_3d4d92c3cfbb7eacb78fd02b62" ON "fixed_finding" ("programmeId", "key")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "fixed_finding"');
  }
}
