import type { MigrationInterface, QueryRunner } from 'typeorm';

const UP = [
  `CREATE TABLE "day_event" ("position" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "id" varchar NOT NULL, "programmeId" varchar NOT NULL, "run" varchar NOT NULL, "at" text NOT NULL, "by" text NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_b15f484a30d60281412919646f9" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE TABLE "day_device" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "key" text NOT NULL, "body" text NOT NULL, "memory" text NOT NULL, CONSTRAINT "FK_0d996453395c992a8f0ca73f430" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_9a2f1159e5436699c36c5a290c" ON "day_event" ("programmeId", "id") `,
  `CREATE UNIQUE INDEX "IDX_0549d393da0635fc15abd82427" ON "day_device" ("programmeId", "key") `,
];

/** What happened on days in the cell, and the devices that were listened to. */
export class Days1795775580000 implements MigrationInterface {
  readonly name = 'Days1795775580000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['day_device', 'day_event']) await runner.query(`DROP TABLE "${table}"`);
  }
}
