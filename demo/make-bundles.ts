// Writes the demo's bundles to demo/bundles/, always the same from the fixed seeds.
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { filesOf } from '@gezeit/core/simulate';
import type { Evidence } from '@gezeit/contract';
import { buildDemo, bundleText, DEMO_PROGRAMMES } from './programmes.js';
import { evidenceText, PLANNED_PROGRAMMES } from './planned.js';

const root = join(dirname(fileURLToPath(import.meta.url)), 'bundles');
for (const programme of DEMO_PROGRAMMES) {
  const folder = join(root, programme.folder);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(join(folder, 'logs'), { recursive: true });
  const { simulated } = buildDemo(programme);
  for (const [file, bytes] of filesOf(simulated)) writeFileSync(join(folder, file), bytes);
  writeFileSync(join(folder, 'gezeit.json'), bundleText(simulated.bundle));
  writeEvidence(folder, programme.bench?.evidence ?? []);
}
for (const { folder: name, bundle, evidence } of PLANNED_PROGRAMMES) {
  const folder = join(root, name);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'gezeit.json'), bundleText(bundle));
  writeEvidence(folder, evidence);
}

function writeEvidence(folder: string, evidence: readonly Evidence[]): void {
  if (evidence.length > 0) mkdirSync(join(folder, 'evidence'), { recursive: true });
  for (const entry of evidence) writeFileSync(join(folder, 'evidence', `${entry.id}.json`), evidenceText(entry));
}
