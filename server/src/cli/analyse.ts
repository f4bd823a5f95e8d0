import { analyseWithLeaning } from '@gezeit/core';
import { readBundle } from '../bundle/read-bundle.js';
import { readTables } from '../bundle/read-tables.js';
import { readEvidence } from '../store/evidence.js';
import { findingsTable } from './findings-table.js';

/** Prints a bundle's findings: a short table, or the exchange format. */
export async function analyseCommand(path: string, json: boolean): Promise<void> {
  const { bundle, files } = await readBundle(path);
  const { findings } = analyseWithLeaning(bundle, readTables(bundle, files), readEvidence(files).evidence);
  process.stdout.write(`${json ? JSON.stringify(findings, null, 2) : findingsTable(bundle, findings)}\n`);
}
