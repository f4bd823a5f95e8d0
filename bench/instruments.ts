// Times every instrument of the bench on its example, beside a fixed calculation in the same run: npm run bench:instruments
import { INSTRUMENTS, measure, restrictionBudget, sweep } from '@gezeit/core';
import { pathSectionSchema } from '@gezeit/contract';
import { EXAMPLES } from '../core/test/data/bench-examples.js';
import { fixedCalculationMs, medianMs } from './fixed-calculation.js';

const FRAME_MS = 16;

const fixedMs = fixedCalculationMs();
console.log(`fixed calculation: ${fixedMs.toFixed(2)} ms`);
let slowest = 0;
for (const instrument of INSTRUMENTS) {
  const inputs = EXAMPLES[instrument.id] ?? {};
  const ms = medianMs(() => measure(instrument, inputs));
  slowest = Math.max(slowest, ms);
  const swept = instrument.sweep ? `, sweep in the worker ${medianMs(() => sweep(instrument, inputs)).toFixed(1)} ms` : '';
  console.log(`${instrument.id}: ${ms.toFixed(3)} ms, ${(ms / fixedMs).toFixed(2)} times the fixed calculation${swept}`);
}
const path = Array.from({ length: 13 }, (_, i) =>
  pathSectionSchema.parse({ id: `s${i}`, kind: 'duct', name: 'duct', geometry: { areaCm2: 30, lengthMm: 100 + i } }),
);
const conditions = { massFlowKgS: 0.15, ambientPa: 100_000, ambientC: 25, charge: null, aspiration: 'na' as const };
const budgetMs = medianMs(() => restrictionBudget({ id: 'A', path }, conditions, null));
console.log(`budget of 13 sections: ${budgetMs.toFixed(3)} ms`);
if (Math.max(slowest, budgetMs) > FRAME_MS) {
  console.error(`The slowest took ${Math.max(slowest, budgetMs).toFixed(1)} ms: more than a frame of ${FRAME_MS} ms.`);
  process.exitCode = 1;
}
