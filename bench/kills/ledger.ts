import { createHash } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import type Sqlite from 'better-sqlite3';

/** Something that the server has acknowledged, and how the database shows that it is there. */
interface Acknowledged {
  what: string;
  isThere: (database: Sqlite.Database) => boolean;
}

/** What was acknowledged: everything in it must be there after any end of the server. */
export class Ledger {
  readonly #list: Acknowledged[] = [];

  get size(): number {
    return this.#list.length;
  }

  imported(id: string, pulls: number, logs: number): void {
    this.#add(`import ${id}`, (database) => {
      const count = (table: string) => countOf(database, table, id);
      return rowOf(database, 'SELECT id FROM programme WHERE id = ?', id) !== undefined && count('pull') >= pulls && count('log') >= logs;
    });
  }

  created(id: string): void {
    this.#add(`programme ${id}`, (database) => rowOf(database, 'SELECT id FROM programme WHERE id = ?', id) !== undefined);
  }

  edited(id: string, what: string): void {
    this.#add(`edit ${what}`, (database) =>
      rowsOf<{ subject: string }>(database, 'SELECT subject FROM change WHERE programmeId = ?', id).some(({ subject }) =>
        subject.includes(what),
      ),
    );
  }

  attached(id: string, file: string, bytes: Buffer): void {
    this.#add(`attachment ${file}`, (database) => {
      const row = rowOf<{ compressed: Buffer }>(database, 'SELECT compressed FROM attachment WHERE programmeId = ? AND file = ?', id, file);
      return row !== undefined && gunzipSync(row.compressed).equals(bytes);
    });
  }

  happened(id: string, event: string): void {
    this.#add(
      `event ${event}`,
      (database) => rowOf(database, 'SELECT id FROM day_event WHERE programmeId = ? AND id = ?', id, event) !== undefined,
    );
  }

  kept(id: string, evidence: string): void {
    this.#add(
      `evidence ${evidence}`,
      (database) => rowOf(database, 'SELECT id FROM evidence WHERE programmeId = ? AND key = ?', id, evidence) !== undefined,
    );
  }

  fixed(id: string, why: string): void {
    this.#add(`fixed finding ${why}`, (database) => {
      const row = rowOf<{ body: string }>(database, 'SELECT body FROM fixed_finding WHERE programmeId = ? AND why = ?', id, why);
      return row !== undefined && (JSON.parse(row.body) as { why: string }).why === why;
    });
  }

  madeCar(id: string): void {
    this.#add(`car ${id}`, (database) => rowOf(database, 'SELECT id FROM vehicle WHERE id = ?', id) !== undefined);
  }

  /** What was acknowledged and is not there. */
  lost(database: Sqlite.Database): string[] {
    return this.#list.filter(({ isThere }) => !isThere(database)).map(({ what }) => what);
  }

  /** Where an earlier state was put in place: only what stood then is owed. */
  copy(): Ledger {
    const other = new Ledger();
    other.#list.push(...this.#list);
    return other;
  }

  #add(what: string, isThere: Acknowledged['isThere']): void {
    this.#list.push({ what, isThere });
  }
}

/** What does not hold together in a database: its pages, its references, programmes and logs that are only half there. */
export function brokenIn(database: Sqlite.Database): string[] {
  const broken: string[] = [];
  const told = database.pragma('integrity_check', { simple: true });
  if (told !== 'ok') broken.push(`integrity: ${String(told)}`);
  const references = database.pragma('foreign_key_check') as unknown[];
  if (references.length > 0) broken.push(`${references.length} foreign keys`);
  for (const { id, body } of rowsOf<{ id: string; body: string }>(database, 'SELECT id, body FROM programme')) {
    JSON.parse(body);
    if (countOf(database, 'setup', id) === 0) broken.push(`programme ${id} has no setup`);
    for (const { key, body: pull } of rowsOf<{ key: string; body: string }>(
      database,
      'SELECT key, body FROM pull WHERE programmeId = ?',
      id,
    ))
      for (const { file } of (JSON.parse(pull) as { logs: { file: string }[] }).logs)
        if (!rowOf(database, 'SELECT id FROM log WHERE programmeId = ? AND file = ?', id, file))
          broken.push(`${key} of ${id} lacks ${file}`);
  }
  for (const log of rowsOf<{ id: string; file: string; sha256: string; rowCount: number; compressed: Buffer }>(
    database,
    'SELECT * FROM log',
  )) {
    if (createHash('sha256').update(gunzipSync(log.compressed)).digest('hex') !== log.sha256) broken.push(`${log.file} is not as it came`);
    const traces = rowsOf<{ bytes: number }>(database, 'SELECT length(samples) AS bytes FROM trace WHERE logId = ?', log.id);
    const BYTES_OF_A_SAMPLE = 8;
    if (traces.length === 0 || traces.some(({ bytes }) => bytes !== BYTES_OF_A_SAMPLE * log.rowCount))
      broken.push(`${log.file} has half a trace`);
  }
  return broken;
}

const rowsOf = <T>(database: Sqlite.Database, query: string, ...values: unknown[]) => database.prepare(query).all(...values) as T[];
const rowOf = <T>(database: Sqlite.Database, query: string, ...values: unknown[]) =>
  database.prepare(query).get(...values) as T | undefined;
const countOf = (database: Sqlite.Database, table: string, id: string) =>
  rowOf<{ n: number }>(database, `SELECT count(*) AS n FROM "${table}" WHERE programmeId = ?`, id)!.n;
