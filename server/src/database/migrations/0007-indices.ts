import type { MigrationInterface, QueryRunner } from 'typeorm';

const INDICES = {
  programme_by_vehicle: '"programme" ("vehicleId")',
  programme_cell_by_programme: '"programme_cell" ("programmeId")',
  programme_cell_by_cell: '"programme_cell" ("cellId")',
  setup_by_programme: '"setup" ("programmeId")',
  day_by_programme: '"day" ("programmeId")',
  pull_by_day: '"pull" ("dayId")',
  change_by_programme: '"change" ("programmeId", "undone")',
  product_by_kind: '"product" ("kind")',
};

/** What is looked for by its programme is found without reading everybody's. */
export class Indices1796209380000 implements MigrationInterface {
  readonly name = 'Indices1796209380000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, columns] of Object.entries(INDICES)) await runner.query(`CREATE INDEX "${name}" ON ${columns}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(INDICES)) await runner.query(`DROP INDEX "${name}"`);
  }
}
