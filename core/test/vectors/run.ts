// Prints how the core stands against a file of check values: a line per failing vector, what is not built, and the count.
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { runVectors, type Vector } from './runner.js';

const named = process.argv[2];
const file = named
  ? resolve(process.env['INIT_CWD'] ?? process.cwd(), named)
  : fileURLToPath(new URL('../data/formula-vectors.json', import.meta.url));
const vectors = (JSON.parse(readFileSync(file, 'utf8')) as { vectors: Vector[] }).vectors;
const { passed, failures, notBuiltCount, notBuiltSections } = runVectors(vectors);
for (const failure of failures) console.log(failure);
console.log(`${notBuiltCount} not built: ${notBuiltSections.join(', ') || 'none'}`);
console.log(`${passed} passed, ${failures.length} failed`);
process.exitCode = failures.length > 0 || passed === 0 ? 1 : 0;
