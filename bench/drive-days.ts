import type { Bundle, Pull } from '@gezeit/contract';
import { analyse, type LogTable } from '@gezeit/core';
import { recordDrive, tableOf, type DriveSpec } from '@gezeit/core/simulate';

export const SPEC: DriveSpec = {
  seed: 5,
  laps: 7,
  lengthKm: 0,
  rateHz: 10,
  ambientC: 19,
  massKg: 1180,
  powerW: 105_000,
  soakK: 16,
  loadK: 14,
  trimDriftPct: 0,
  isCounted: true,
};

/** A programme of drives alone, with their tables. */
export function drives(specs: readonly (Partial<DriveSpec> & { setup?: string })[], programme: Partial<Bundle['programme']> = {}) {
  const tables = new Map<string, LogTable>();
  const pulls = specs.map(({ setup = 'A', ...spec }, i): Pull => {
    const file = `logs/d${i}.csv`;
    tables.set(file, tableOf(recordDrive({ ...SPEC, seed: 31 + i, ...spec }), file));
    return { id: `d${i}`, setup, kind: 'drive', startedAt: `2026-06-24T1${i}:00:00Z`, logs: [{ file, device: 'ecu' }] };
  });
  const bundle: Bundle = {
    format: 'gezeit-bundle',
    version: 1,
    programme: {
      title: 'Laps',
      question: '',
      metric: 'meanPower',
      bandRpm: [3000, 6000],
      smallestGainPct: 1,
      correction: 'NONE',
      ...programme,
    },
    vehicle: { name: 'x', aspiration: 'turbo' },
    cell: { name: 'Track', kind: 'track', powerAt: 'wheel' },
    setups: ['A', 'B'].map((id) => ({ id, name: id, reference: id === 'A', parts: [], state: {} })),
    pulls,
  };
  return { bundle, tables, found: analyse(bundle, tables).findings };
}

/** Whether two setups that are the same are told apart by the time of their laps. */
export function isToldApart(seed: number): boolean {
  const pair = drives([{ seed }, { seed: seed + 500, setup: 'B' }]).found.drives.pairs[0]!;
  const { low, high } = pair.figures.find(({ of }) => of === 'seconds')!.difference;
  return low! > 0 || high! < 0;
}

/** A long run whose trim drifts by so much over a hundred kilometres. */
export const longRun = (seed: number, trimDriftPct: number) =>
  drives([{ seed, laps: null, lengthKm: 60, rateHz: 1, trimDriftPct, isCounted: false }]).found.drives.drives[0]!;

/** Whether the interval of the drift holds the truth. */
export function trimHeld(seed: number): boolean {
  const truth = (seed % 5) - 2;
  const { low, high } = longRun(seed, truth).courses.find(({ quantity }) => quantity === 'longTermTrim')!.perHundredKm!;
  return low! <= truth && truth <= high!;
}
