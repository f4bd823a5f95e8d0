import type { MigrationInterface, QueryRunner } from 'typeorm';

const PRODUCT = `CREATE TABLE "product" ("programmeId" varchar NOT NULL, "kind" varchar NOT NULL, "digest" varchar NOT NULL, "body" blob NOT NULL, "createdAt" text NOT NULL, CONSTRAINT "FK_b8b7ab21bea4af97c5b1880d289" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, PRIMARY KEY ("programmeId", "kind", "digest"))`;
const FINDINGS = [
  `CREATE TABLE "findings" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "inputsDigest" text NOT NULL, "body" text NOT NULL, "createdAt" text NOT NULL, CONSTRAINT "FK_471bc3aad4cabc97144e70db2b8" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_75b341e9f946737512fd4cfff9" ON "findings" ("programmeId", "inputsDigest")`,
];

/** What was computed is kept by product: measured pulls, findings and curves apart. Earlier findings are computed anew. */
export class Products1795861980000 implements MigrationInterface {
  readonly name = 'Products1795861980000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "findings"');
    await runner.query(PRODUCT);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "product"');
    for (const statement of FINDINGS) await runner.query(statement);
  }
}
