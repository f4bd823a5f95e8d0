import { stagedKey, type Bundle, type Pull, type Reading } from '@gezeit/contract';
import { isPossibleAir } from '../air/possible-air.js';
import { draftProgramme } from '../question/defaults.js';
import type { ReadTable } from '../log/log-table.js';
import { mean } from '../numeric/means.js';
import { traceFor, samplesBetween } from '../pull/traces.js';
import { setupsByName } from './setups-by-name.js';
import { shiftOf } from './sweep-event.js';

/** A placeholder in a draft: where it stands, and what has to be said there. */
interface Unanswered {
  path: string;
  what: string;
}

/** A pull of a draft; its start is null where no file tells the time. */
type DraftPull = Omit<Pull, 'startedAt'> & { startedAt: string | null };
interface Draft {
  bundle: Omit<Bundle, 'pulls'> & { pulls: DraftPull[] };
  unanswered: Unanswered[];
}

/** A gauge pressure above this in the sweeps means that the engine is charged, Pa. */
const CHARGED_FROM_PA = 15_000;
const ROUND_RPM = 100;

/** What a reading tells of a programme, with a list of what it does not tell. `logName` says under which name a file is kept. */
export function draftOf(reading: Reading, tables: ReadonlyMap<string, ReadTable>, title: string, logName: (file: string) => string): Draft {
  const unanswered: Unanswered[] = [];
  const ask = (path: string, what: string) => unanswered.push({ path, what });
  const aspiration = [...tables.values()].some(isCharged) ? 'turbo' : 'na';
  const draft = draftProgramme({ title, aspiration, vehicle: null, cell: null });
  const band = bandOf(reading);
  ask('programme.question', 'what the day was to find out');
  if (band) draft.programme.bandRpm = band;
  ask('programme.bandRpm', band ? 'the band of engine speed: taken from what all pulls cover' : 'the band of engine speed');
  ask('programme.smallestGainPct', 'the smallest gain that matters');
  ask('vehicle', 'the car');
  ask('cell', 'the cell, and where its power is measured');
  const named = setupsByName(reading.pulls);
  const deviceOf = new Map(reading.files.map(({ file, device }) => [file, device]));
  const weather = weatherOf(tables);
  const pulls = reading.pulls.map((pull, i): DraftPull => {
    const told = named?.pulls[stagedKey(pull)];
    const setup = told?.setup ?? null;
    ask(`pulls[${i}].setup`, `the setup of ${pull.id}${setup === null ? '' : ': taken from the names of its files'}`);
    const startedAt = pull.startedAt === null ? null : /(Z|[+-]\d\d:\d\d)$/.test(pull.startedAt) ? pull.startedAt : `${pull.startedAt}Z`;
    if (startedAt === null) ask(`pulls[${i}].startedAt`, `when ${pull.id} was driven`);
    else if (startedAt !== pull.startedAt) ask(`pulls[${i}].startedAt`, `the time zone of ${pull.id}: taken as UTC`);
    const ambient = ambientOf(pull, tables) ?? weather;
    if (!ambient) ask(`pulls[${i}].ambient`, `the weather of ${pull.id}`);
    return {
      id: pull.id,
      setup: letterOf(setup ?? 0),
      kind: told?.isConditioning ? 'conditioning' : 'measured',
      startedAt,
      ...(ambient ? { ambient } : {}),
      logs: pull.members.map(({ file, ...member }) => ({ file: logName(file), device: deviceOf.get(file) ?? 'daq', ...member })),
    };
  });
  const setups = (named?.names ?? [null]).map((name, i) => ({
    ...draft.setups[0]!,
    id: letterOf(i),
    name: name ?? draft.setups[0]!.name,
    reference: i === 0,
  }));
  return { bundle: { ...draft, setups, pulls, unanswered }, unanswered };
}

const letterOf = (index: number) => String.fromCharCode(65 + index);

/** Whether a log shows that the engine is charged. */
export function isCharged({ columns }: ReadTable): boolean {
  return columns.some(({ quantity, gauge, values }) => {
    if (quantity === 'compressorSpeed') return true;
    const least =
      quantity === 'boostPressure' || (quantity === 'manifoldPressure' && gauge)
        ? CHARGED_FROM_PA
        : quantity === 'manifoldPressure'
          ? 105_000 + CHARGED_FROM_PA
          : Infinity;
    return values.some((value) => value > least);
  });
}

/** Engine speeds that every sweep covers, rounded inwards; null where no sweep shows engine speed. */
export function bandOf({ pulls, files }: Reading): [number, number] | null {
  const listed = new Set(pulls.flatMap(({ members }) => members.map(({ file }) => file)));
  const sweeps = files
    .filter(({ file }) => listed.has(file))
    .flatMap(({ sweeps }) => sweeps.filter(({ fromRpm, toRpm }) => fromRpm !== null && toRpm !== null));
  if (sweeps.length === 0) return null;
  const from = Math.max(...sweeps.map(({ fromRpm }) => fromRpm!));
  const to = Math.min(...sweeps.map(({ toRpm }) => toRpm!));
  const low = Math.ceil((from + 0.15 * (to - from)) / ROUND_RPM) * ROUND_RPM;
  const high = Math.floor((to - 0.02 * (to - from)) / ROUND_RPM) * ROUND_RPM;
  return high - low >= 5 * ROUND_RPM ? [low, high] : null;
}

type Ambient = NonNullable<Pull['ambient']>;

/** The air of a pull as one of its files logged it: means over the sweep. */
export function ambientOf({ members }: Reading['pulls'][number], tables: ReadonlyMap<string, ReadTable>): Ambient | null {
  const found: Partial<Record<'ambientTemperature' | 'ambientPressure' | 'relativeHumidity', number>> = {};
  for (const { file, recording, startS, endS } of members) {
    const table = tables.get(file)!;
    if (startS === null || endS === null) continue;
    const shiftS = shiftOf(table, recording);
    for (const quantity of ['ambientTemperature', 'ambientPressure', 'relativeHumidity'] as const) {
      const trace = found[quantity] === undefined ? traceFor(table, quantity) : null;
      const samples = trace ? samplesBetween(trace, startS + shiftS, endS + shiftS) : [];
      if (samples.length > 0) found[quantity] = mean(samples);
    }
  }
  return asAmbient(found.ambientTemperature, found.ambientPressure, found.relativeHumidity);
}

/** The air that stands above a table, or in a file of the weather. */
export function weatherOf(tables: ReadonlyMap<string, ReadTable>): Ambient | null {
  const values = [...tables.values()].flatMap(({ preamble }) => preamble);
  const of = (quantity: string) => values.find((entry) => entry.quantity === quantity)?.value;
  const logged = (quantity: 'ambientTemperature' | 'ambientPressure' | 'relativeHumidity') => {
    for (const table of tables.values()) {
      const column = table.columns.find((entry) => entry.quantity === quantity);
      const known = column?.values.filter(Number.isFinite);
      if (known && known.length > 0) return mean(known);
    }
    return undefined;
  };
  return asAmbient(
    of('ambientTemperature') ?? logged('ambientTemperature'),
    of('ambientPressure') ?? logged('ambientPressure'),
    of('relativeHumidity') ?? logged('relativeHumidity'),
  );
}

/** What no weather is, of a sensor that is off or of another unit, is nobody's weather: it is asked for. */
function asAmbient(temperatureC: number | undefined, pressurePa: number | undefined, humidityPct: number | undefined): Ambient | null {
  if (temperatureC === undefined || !isPossibleAir('ambientTemperature', temperatureC)) return null;
  if (pressurePa === undefined || !isPossibleAir('ambientPressure', pressurePa)) return null;
  const isKnown = humidityPct !== undefined && isPossibleAir('relativeHumidity', humidityPct);
  const to = (value: number, digits: number) => Number(value.toFixed(digits));
  return {
    temperatureC: to(temperatureC, 2),
    pressureKPa: to(pressurePa / 1000, 3),
    relativeHumidityPct: isKnown ? Math.min(100, to(humidityPct, 1)) : null,
  };
}
