import { stagedKey, type Reading, type StagedHints } from '@gezeit/contract';
import type { ReadTable } from '../log/log-table.js';
import { interpolate } from '../numeric/interpolate.js';
import { movingMean, samplesBetween, traceOf } from '../pull/traces.js';
import { proposedBandRpm } from '../question/defaults.js';
import { ambientOf, bandOf, isCharged, weatherOf } from './draft.js';
import { setupsByName } from './setups-by-name.js';
import { shiftOf } from './sweep-event.js';

const SMOOTH_S = 0.3;

/** What the files of a reading tell beside it: enough to propose a programme. */
export function hintsOf(reading: Reading, tables: ReadonlyMap<string, ReadTable>): StagedHints {
  const aspiration = [...tables.values()].some(isCharged) ? 'turbo' : 'na';
  return {
    aspiration,
    bandRpm: bandOf(reading) ?? proposedBandRpm({ aspiration }),
    weather: plainAmbient(weatherOf(tables)),
    ambients: Object.fromEntries(
      reading.pulls.flatMap((pull) => {
        const own = plainAmbient(ambientOf(pull, tables));
        return own ? [[stagedKey(pull), own]] : [];
      }),
    ),
    peaks: Object.fromEntries(reading.pulls.flatMap((pull) => peakOf(pull, tables))),
    afterS: secondsAfterFirst(reading),
    named: setupsByName(reading.pulls),
  };
}

function plainAmbient(ambient: ReturnType<typeof weatherOf>): StagedHints['weather'] {
  if (ambient?.temperatureC == null || ambient.pressureKPa == null) return null;
  const { temperatureC, pressureKPa, relativeHumidityPct = null } = ambient;
  return { temperatureC, pressureKPa, relativeHumidityPct };
}

/** The highest power in a pull's sweep, as its first file with power has it. */
function peakOf(
  pull: Reading['pulls'][number],
  tables: ReadonlyMap<string, ReadTable>,
): [string, { powerW: number; rpm: number | null }][] {
  for (const { file, recording, startS, endS } of pull.members) {
    const table = tables.get(file)!;
    const column = table.columns.find(({ quantity }) => quantity === 'power');
    if (!column || startS === null || endS === null) continue;
    const shiftS = shiftOf(table, recording);
    const trace = traceOf(table, column, startS + shiftS - SMOOTH_S, endS + shiftS + SMOOTH_S);
    if (!trace) continue;
    const smooth = { ...trace, values: movingMean(trace.timeS, trace.values, SMOOTH_S) };
    const within = samplesBetween(smooth, startS + shiftS, endS + shiftS);
    const powerW = within.reduce((most, value) => Math.max(most, value), -Infinity);
    if (!Number.isFinite(powerW)) continue;
    const speedColumn = table.columns.find(({ quantity }) => quantity === 'engineSpeed');
    const speed = speedColumn && traceOf(table, speedColumn, startS + shiftS - SMOOTH_S, endS + shiftS + SMOOTH_S);
    const atS = smooth.timeS[smooth.values.indexOf(powerW)]!;
    const rpm = speed ? interpolate(speed.timeS, speed.values, atS) : Number.NaN;
    return [[stagedKey(pull), { powerW, rpm: Number.isFinite(rpm) ? rpm : null }]];
  }
  return [];
}

/** Seconds of each pull after the first, by one file that holds all of them; null where none does. */
function secondsAfterFirst({ pulls }: Reading): Record<string, number> | null {
  const [first] = pulls;
  for (const { file, recording } of first?.members ?? []) {
    const at = pulls.map(({ members }) => members.find((member) => member.file === file && member.recording === recording)?.startS ?? null);
    if (pulls.length > 1 && at.every((value) => value !== null))
      return Object.fromEntries(pulls.map((pull, i) => [stagedKey(pull), at[i]! - at[0]!]));
  }
  return null;
}
