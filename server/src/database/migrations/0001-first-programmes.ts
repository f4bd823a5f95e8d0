import type { MigrationInterface, QueryRunner } from 'typeorm';

const UP = [
  `CREATE TABLE "vehicle" ("id" varchar PRIMARY KEY NOT NULL, "name" text NOT NULL, "body" text NOT NULL)`,
  `CREATE TABLE "programme" ("id" varchar PRIMARY KEY NOT NULL, "lineage" text NOT NULL, "version" integer NOT NULL, "title" text NOT NULL, "vehicleId" varchar NOT NULL, "bundleDigest" text NOT NULL, "superseded" boolean NOT NULL, "body" text NOT NULL, "createdAt" text NOT NULL, "createdBy" text NOT NULL, CONSTRAINT "FK_3a256c22205f96ed39a083d9d01" FOREIGN KEY ("vehicleId") REFERENCES "vehicle" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  `CREATE INDEX "IDX_de1d9ac8a268c244248ec740ba" ON "programme" ("bundleDigest")`,
  `CREATE INDEX "IDX_1034654221056d7c922d3ecd0d" ON "programme" ("lineage")`,
  `CREATE TABLE "cell" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "position" integer NOT NULL, "name" text NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_ae1f1f353397941172a543d4902" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE TABLE "setup" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "position" integer NOT NULL, "key" text NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_238653c0d5c1e133452c053d763" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE TABLE "day" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "name" text NOT NULL, CONSTRAINT "FK_7b7b7d223f977d9f6bf4cb3a934" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE TABLE "pull" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "dayId" varchar NOT NULL, "position" integer NOT NULL, "key" text NOT NULL, "startedAt" text NOT NULL, "excluded" text NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_b8af71048c2415720fa8a63c7bc" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, CONSTRAINT "FK_f61d1ef6d9b5494e197f7dd5333" FOREIGN KEY ("dayId") REFERENCES "day" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_109c0e768822cb121320dea022" ON "pull" ("programmeId", "key")`,
  `CREATE TABLE "log" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "file" text NOT NULL, "device" text NOT NULL, "sha256" text NOT NULL, "byteCount" integer NOT NULL, "rowCount" integer NOT NULL, "compressed" blob NOT NULL, "report" text NOT NULL, CONSTRAINT "FK_535b2123ca79dc5a0548fb054d8" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_e848f71fc548be3e7a0b156359" ON "log" ("programmeId", "file")`,
  `CREATE TABLE "trace" ("id" varchar PRIMARY KEY NOT NULL, "logId" varchar NOT NULL, "position" integer NOT NULL, "name" text NOT NULL, "quantity" text, "unitText" text, "section" text, "corrected" text, "gauge" boolean NOT NULL, "samples" blob NOT NULL, CONSTRAINT "FK_3971181b2baca09a0fc75b59500" FOREIGN KEY ("logId") REFERENCES "log" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_2dd4471b6b373fd56f5da9d9ce" ON "trace" ("logId", "position")`,
  `CREATE TABLE "findings" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "inputsDigest" text NOT NULL, "body" text NOT NULL, "createdAt" text NOT NULL, CONSTRAINT "FK_471bc3aad4cabc97144e70db2b8" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_75b341e9f946737512fd4cfff9" ON "findings" ("programmeId", "inputsDigest")`,
  `CREATE TABLE "change" ("id" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "programmeId" varchar NOT NULL, "at" text NOT NULL, "by" text NOT NULL, "kind" text NOT NULL, "subject" text NOT NULL, "before" text NOT NULL, "after" text NOT NULL, "undone" boolean NOT NULL, CONSTRAINT "FK_0440244eb0165d13c6b490ffd7a" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
];
const TABLES = ['change', 'findings', 'trace', 'log', 'pull', 'day', 'setup', 'cell', 'programme', 'vehicle'];

/** Programmes with their vehicle, cells, setups, days, pulls, logs, traces, findings and changes. */
export class FirstProgrammes1795602780000 implements MigrationInterface {
  readonly name = 'FirstProgrammes1795602780000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) await runner.query(`DROP TABLE "${table}"`);
  }
}
