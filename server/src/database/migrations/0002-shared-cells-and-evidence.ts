import { randomUUID } from 'node:crypto';
import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = [
  `CREATE TABLE "programme_cell" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "cellId" varchar NOT NULL, "position" integer NOT NULL, "key" text, CONSTRAINT "FK_c713ab584bf84ab1ddca6aa13dc" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, CONSTRAINT "FK_ec1ea4209a1a51cc5b836fd484a" FOREIGN KEY ("cellId") REFERENCES "cell" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  `CREATE TABLE "evidence" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "key" text NOT NULL, "removed" boolean NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_f8ab772ed2390e1af01dd687c53" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_01eb6c92c900ef8f5abb9c6c0d" ON "evidence" ("programmeId", "key")`,
  `CREATE TABLE "attachment" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "file" text NOT NULL, "mediaType" text NOT NULL, "sha256" text NOT NULL, "byteCount" integer NOT NULL, "removed" boolean NOT NULL, "compressed" blob NOT NULL, CONSTRAINT "FK_71cdc29f8cc89434d8322fd8205" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
  `CREATE UNIQUE INDEX "IDX_5e128e2295af9e057141d8775e" ON "attachment" ("programmeId", "file")`,
  `ALTER TABLE "programme" ADD COLUMN "archived" boolean NOT NULL DEFAULT (0)`,
];

interface OwnedCell {
  id: string;
  programmeId: string;
  position: number;
  name: string;
  body: string;
}

/** Cells become shared by programmes (equal ones are joined), and programmes keep evidence, attachments and can be archived. */
export class SharedCellsAndEvidence1795689180000 implements MigrationInterface {
  readonly name = 'SharedCellsAndEvidence1795689180000';

  async up(runner: QueryRunner): Promise<void> {
    const owned = (await runner.query('SELECT * FROM "cell" ORDER BY "programmeId", "position"')) as OwnedCell[];
    await runner.query('DROP TABLE "cell"');
    await runner.query('CREATE TABLE "cell" ("id" varchar PRIMARY KEY NOT NULL, "name" text NOT NULL, "body" text NOT NULL)');
    for (const statement of TABLES) await runner.query(statement);
    const shared = new Map<string, string>();
    for (const cell of owned) {
      const { id: key, ...rest } = JSON.parse(cell.body) as { id?: string };
      const body = JSON.stringify(rest);
      let cellId = shared.get(body);
      if (cellId === undefined) {
        cellId = cell.id;
        shared.set(body, cellId);
        await runner.query('INSERT INTO "cell" ("id", "name", "body") VALUES (?, ?, ?)', [cellId, cell.name, body]);
      }
      await runner.query('INSERT INTO "programme_cell" ("id", "programmeId", "cellId", "position", "key") VALUES (?, ?, ?, ?, ?)', [
        randomUUID(),
        cell.programmeId,
        cellId,
        cell.position,
        key ?? null,
      ]);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    const links = (await runner.query(
      'SELECT p."id", p."programmeId", p."position", p."key", c."name", c."body" FROM "programme_cell" p JOIN "cell" c ON c."id" = p."cellId"',
    )) as (OwnedCell & { key: string | null })[];
    for (const table of ['attachment', 'evidence', 'programme_cell', 'cell']) await runner.query(`DROP TABLE "${table}"`);
    await runner.query('ALTER TABLE "programme" DROP COLUMN "archived"');
    await runner.query(
      `CREATE TABLE "cell" ("id" varchar PRIMARY KEY NOT NULL, "programmeId" varchar NOT NULL, "position" integer NOT NULL, "name" text NOT NULL, "body" text NOT NULL, CONSTRAINT "FK_ae1f1f353397941172a543d4902" FOREIGN KEY ("programmeId") REFERENCES "programme" ("id") ON DELETE CASCADE ON UPDATE NO ACTION)`,
    );
    for (const { id, programmeId, position, name, key, body } of links) {
      const own = key === null ? body : JSON.stringify({ id: key, ...(JSON.parse(body) as object) });
      await runner.query('INSERT INTO "cell" ("id", "programmeId", "position", "name", "body") VALUES (?, ?, ?, ?, ?)', [
        id,
        programmeId,
        position,
        name,
        own,
      ]);
    }
  }
}
