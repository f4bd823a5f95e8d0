import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which part an edit changed stands by itself, and no longer before its words. */
export class ChangedParts1796295780000 implements MigrationInterface {
  readonly name = 'ChangedParts1796295780000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "change" ADD COLUMN "part" text');
    await runner.query(
      `UPDATE "change" SET "part" = substr("subject", 1, instr("subject", ': ') - 1), "subject" = substr("subject", instr("subject", ': ') + 2)
      WHERE "kind" = 'edit'`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`UPDATE "change" SET "subject" = "part" || ': ' || "subject" WHERE "kind" = 'edit'`);
    await runner.query('ALTER TABLE "change" DROP COLUMN "part"');
  }
}
