import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bundleSchema, type Bundle } from '@gezeit/contract';
import { analyse, GezeitError, LineStream, readLog, type LogTable } from '@gezeit/core';
import { Random } from '@gezeit/core/simulate';
import { mutated } from './mutated.js';

const BUNDLES = fileURLToPath(new URL('../../demo/bundles', import.meta.url));
/** No input may hold a reader longer, ms. */
const MOST_MS = 5000;
const STREAM_LINES = [
  't,rpm,power_kw,iat_c',
  '0.1,3000,80.5,31',
  '{"t":0.1,"rpm":3000,"boost_kpa":90}',
  '{"rpm":"x","lambda":0.88}',
  '#',
  '0.2;3100;81',
];

export interface FuzzReport {
  seed: number;
  cases: number;
  /** How many were refused in words, by code. */
  refused: Record<string, number>;
  faults: string[];
}

/** Hands mutated files and lines to every reader for a while, and `least` of them at least. Refused in words or read: nothing else may come of it. */
export function fuzzReaders(seconds: number, seed: number, mostMs = MOST_MS, least = 0): FuzzReport {
  const random = new Random(seed);
  const report: FuzzReport = { seed, cases: 0, refused: {}, faults: [] };
  const logs = readdirSync(BUNDLES, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(csv|txt)$/.test(entry.name))
    .map((entry) => ({ name: entry.name, bytes: readFileSync(join(entry.parentPath, entry.name)) }));
  const one = <T>(list: readonly T[]) => list[Math.floor(random.uniform() * list.length)]!;
  const { bundle, tables } = smallDay();
  /** Each makes its input and gives back the reading of it, which alone is timed. */
  const readers: Record<string, () => () => void> = {
    log: () => {
      const { name, bytes } = one(logs);
      const input = mutated(bytes, random);
      return () => void readLog(input, { file: name });
    },
    stream: () => {
      const stream = new LineStream();
      const lines = Array.from({ length: 30 }, () => one(STREAM_LINES)).join('\n');
      const input = Buffer.from(mutated(Buffer.from(lines), random)).toString('utf8');
      return () => void stream.take(input);
    },
    description: () => {
      const text = Buffer.from(mutated(Buffer.from(JSON.stringify(bundle)), random)).toString('utf8');
      return () => {
        let raw: unknown;
        try {
          raw = JSON.parse(text);
        } catch {
          return;
        }
        bundleSchema.safeParse(raw);
      };
    },
    // A log that is read in spite of what was done to it goes all the way to a verdict.
    day: () => {
      const file = one([...tables.keys()]);
      const input = mutated(logs.find(({ name }) => file.endsWith(name))!.bytes, random);
      return () => void analyse(bundle, new Map([...tables, [file, readLog(input, { file, device: 'dyno' })]]));
    },
  };
  const names = Object.keys(readers);
  for (const until = Date.now() + seconds * 1000; Date.now() < until || report.cases < least; report.cases += 1) {
    const name = one(names);
    const read = readers[name]!();
    const began = performance.now();
    try {
      read();
    } catch (error) {
      if (error instanceof GezeitError) {
        report.refused[error.code] = (report.refused[error.code] ?? 0) + 1;
        if (/\n/.test(error.line) || error.nextStep === '')
          report.faults.push(`case ${report.cases}, ${name}: not one line with what to do: ${error.line}`);
      } else report.faults.push(`case ${report.cases}, ${name}: ${(error as Error).stack?.slice(0, 300)}`);
    }
    const tookMs = performance.now() - began;
    if (tookMs > mostMs) report.faults.push(`case ${report.cases}, ${name}: took ${Math.round(tookMs)} ms`);
  }
  return report;
}

/** Four pulls of the airbox demo with one log each. */
function smallDay(): { bundle: Bundle; tables: Map<string, LogTable> } {
  const folder = join(BUNDLES, 'sealed-airbox');
  const whole = bundleSchema.parse(JSON.parse(readFileSync(join(folder, 'gezeit.json'), 'utf8')));
  const pulls = whole.pulls
    .filter(({ id }) => ['p02', 'p03', 'p05', 'p06'].includes(id))
    .map((pull) => ({ ...pull, logs: pull.logs.filter(({ device }) => device === 'dyno') }));
  const files = pulls.flatMap(({ logs }) => logs.map(({ file }) => file));
  const tables = new Map(files.map((file) => [file, readLog(readFileSync(join(folder, file)), { file, device: 'dyno' })]));
  return { bundle: { ...whole, pulls }, tables };
}
