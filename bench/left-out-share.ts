import { analyse, analyseMeasured, measurePulls } from '@gezeit/core';
import { readBundle } from '../server/src/bundle/read-bundle.js';
import { readTables } from '../server/src/bundle/read-tables.js';
import { medianMs } from './fixed-calculation.js';

/** Share of a whole analysis of the airbox demo that is left where one pull is left out of pulls that are measured already. */
export async function leftOutShare(): Promise<number> {
  const { bundle, files } = await readBundle('demo/bundles/sealed-airbox');
  const tables = readTables(bundle, files);
  const measured = measurePulls(bundle, tables);
  const without = structuredClone(bundle);
  without.pulls.find(({ kind }) => kind === 'measured')!.excluded = 'a try';
  const whole = medianMs(() => analyse(without, tables), 9);
  return medianMs(() => analyseMeasured(without, measured), 9) / whole;
}
