import type { ProgrammeView, Pull, PullDetail, PullFinding, Setup } from '@gezeit/contract';
import { densityAltitudeM, GezeitError, HOW_WORDS, moistAirDensity } from '@gezeit/core';
import { plain, type Show } from '../../shared/units/show.js';

/** Everything that is known of a pull, for a row of the table. */
export interface PullRow {
  finding: PullFinding;
  pull: Pull;
  detail: PullDetail | undefined;
  setup: Setup;
  clock: (ms: number) => string;
}

/** A column of the pulls' table: how it is headed, what it is worth for sorting, and how it is shown. */
export interface PullColumn {
  key: string;
  head: (show: Show) => string;
  /** What it is, where the head does not say all. */
  what?: string;
  isNumber: boolean;
  /** Shown until something else is chosen. */
  usual: boolean;
  value: (row: PullRow, show: Show) => number | string | null;
  text: (row: PullRow, show: Show) => string;
}

interface NumberColumn {
  key: string;
  head: string | ((show: Show) => string);
  what?: string;
  usual?: boolean;
  /** Kept inside; null where it is not known. */
  of: (row: PullRow) => number | null;
  shown?: (value: number, show: Show) => number;
  digits: number;
  sign?: boolean;
}

function number({ key, head, what, usual = false, of, shown = (value) => value, digits, sign = false }: NumberColumn): PullColumn {
  const value = (row: PullRow, show: Show) => {
    const known = of(row);
    return known === null || !Number.isFinite(known) ? null : shown(known, show);
  };
  return {
    key,
    head: typeof head === 'string' ? () => head : head,
    what,
    isNumber: true,
    usual,
    value,
    text(row, show) {
      const known = value(row, show);
      if (known === null) return '–';
      return sign && known > 0 ? `+${plain(known, digits)}` : plain(known, digits);
    },
  };
}

function words(key: string, head: string, of: (row: PullRow) => string | null, what?: string): PullColumn {
  return { key, head: () => head, what, isNumber: false, usual: false, value: (row) => of(row), text: (row) => of(row) ?? '–' };
}

const power = (kW: number, show: Show) => show.powerOf(kW);
const temperature = (celsius: number, show: Show) => show.temperatureOf(celsius);
const difference = (kelvin: number, show: Show) => show.differenceOf(kelvin);
const lastsS = ({ finding: { startS, endS } }: PullRow) => (startS === null || endS === null ? null : endS - startS);
const stated = (value: unknown) => (value === null || value === undefined || value === '' ? null : String(value));

/** Density altitude of a pull's weather, m; a figure for talk, never a correction. */
function densityAltitude({ pull: { ambient } }: PullRow): number | null {
  if (ambient?.temperatureC == null || ambient.pressureKPa == null) return null;
  try {
    const relativeHumidity = (ambient.relativeHumidityPct ?? 0) / 100;
    return densityAltitudeM(
      moistAirDensity({ temperatureC: ambient.temperatureC, pressurePa: 1000 * ambient.pressureKPa, relativeHumidity }),
    );
  } catch (error) {
    if (error instanceof GezeitError) return null;
    throw error;
  }
}

function devicesText({ pull, detail }: PullRow): string {
  if (pull.logs.length === 0) return pull.typed ? 'typed figures' : 'no log';
  return pull.logs
    .map(({ device, file }) => {
      const how = detail?.alignments.find((entry) => entry.file === file)?.how;
      return how && how !== 'first' ? `${device} (${HOW_WORDS[how] ?? how})` : device;
    })
    .join(', ');
}

/** Every column that the pulls' table can have, in its order. */
export const PULL_COLUMNS: readonly PullColumn[] = [
  {
    key: 'time',
    head: () => 'Started',
    isNumber: true,
    usual: false,
    value: ({ pull }) => (pull.startUnknown ? null : Date.parse(pull.startedAt)),
    text: ({ pull, clock }) => (pull.startUnknown ? '–' : clock(Date.parse(pull.startedAt))),
  },
  number({
    key: 'mean',
    head: (show) => `Mean, ${show.units.power}`,
    what: 'Mean over the band, every engine speed counting alike, corrected as the programme says.',
    usual: true,
    of: ({ finding }) => finding.meanPowerKW,
    shown: power,
    digits: 1,
  }),
  number({
    key: 'peak',
    head: (show) => `Peak, ${show.units.power}`,
    usual: true,
    of: ({ finding }) => finding.peakPowerKW,
    shown: power,
    digits: 1,
  }),
  number({
    key: 'rpm',
    head: 'at rpm',
    what: 'Where in the band the peak is: one outside of the band is not meant.',
    usual: true,
    of: ({ finding }) => finding.peakPowerRpm,
    digits: 0,
  }),
  number({
    key: 'uncorrected',
    head: (show) => `Uncorrected mean, ${show.units.power}`,
    of: ({ finding }) => finding.meanPowerUncorrectedKW,
    shown: power,
    digits: 1,
  }),
  number({ key: 'factor', head: 'Correction factor', of: ({ finding }) => finding.correctionFactor, digits: 4 }),
  number({
    key: 'start',
    head: (show) => `Start, ${show.units.temperature}`,
    what: 'Intake air just before full throttle.',
    usual: true,
    of: ({ finding }) => finding.startIntakeAirC,
    shown: temperature,
    digits: 1,
  }),
  number({
    key: 'above',
    head: (show) => `Start above ambient, ${show.differenceUnit}`,
    of: ({ finding, detail }) =>
      finding.startIntakeAirC === null || detail?.ambientC == null ? null : finding.startIntakeAirC - detail.ambientC,
    shown: difference,
    digits: 1,
    sign: true,
  }),
  number({
    key: 'rise',
    head: (show) => `Rise, ${show.differenceUnit}`,
    what: 'Intake air at the end of the sweep minus at its start.',
    usual: true,
    of: ({ finding }) => finding.intakeAirRiseK,
    shown: difference,
    digits: 1,
    sign: true,
  }),
  number({
    key: 'riseRate',
    head: (show) => `Rise, ${show.differenceUnit}/s`,
    what: 'The rise of intake air by the time of full throttle.',
    of: (row) => {
      const lasts = lastsS(row);
      return lasts === null || row.finding.intakeAirRiseK === null ? null : row.finding.intakeAirRiseK / lasts;
    },
    shown: difference,
    digits: 2,
    sign: true,
  }),
  number({ key: 'lasts', head: 'Full throttle, s', of: lastsS, digits: 1 }),
  number({
    key: 'coolant',
    head: (show) => `Coolant, ${show.units.temperature}`,
    of: ({ detail }) => detail?.startCoolantC ?? null,
    shown: temperature,
    digits: 0,
  }),
  number({
    key: 'oil',
    head: (show) => `Oil, ${show.units.temperature}`,
    of: ({ detail }) => detail?.startOilC ?? null,
    shown: temperature,
    digits: 0,
  }),
  number({
    key: 'ambient',
    head: (show) => `Ambient, ${show.units.temperature}`,
    of: ({ pull }) => pull.ambient?.temperatureC ?? null,
    shown: temperature,
    digits: 1,
  }),
  number({
    key: 'barometer',
    head: (show) => `Barometer, ${show.units.pressure}`,
    of: ({ pull }) => pull.ambient?.pressureKPa ?? null,
    shown: (kPa, show) => show.pressureOf(kPa),
    digits: 2,
  }),
  number({ key: 'humidity', head: 'Humidity, %', of: ({ pull }) => pull.ambient?.relativeHumidityPct ?? null, digits: 0 }),
  number({
    key: 'densityAltitude',
    head: 'Density altitude, m',
    what: 'The height in the standard atmosphere at which air is as thin as it was: a figure for talk, never a correction.',
    of: densityAltitude,
    digits: 0,
  }),
  words('devices', 'Devices', devicesText, 'What was logged with it, and how its clock was put on the first log’s.'),
  words('tune', 'Map', ({ setup }) => stated(setup.state['tune'])),
  words('fuel', 'Fuel', ({ setup }) => stated(setup.state['fuel'])),
  words('note', 'Note', ({ pull }) => stated(pull.note)),
];

/** A row for every pull of a programme, in the order in which they were driven. */
export function pullRows(view: ProgrammeView, clock: (ms: number) => string): PullRow[] {
  const details = new Map(view.pulls.map((detail) => [detail.id, detail]));
  const pullOf = new Map(view.bundle.pulls.map((pull) => [pull.id, pull]));
  const setups = new Map(view.bundle.setups.map((setup) => [setup.id, setup]));
  return view.findings.pulls.map((finding) => ({
    finding,
    pull: pullOf.get(finding.id)!,
    detail: details.get(finding.id),
    setup: setups.get(finding.setup)!,
    clock,
  }));
}

/** Rows by a column, up or down; what is not known comes last either way. */
export function sorted(rows: readonly PullRow[], column: PullColumn | null, isDown: boolean, show: Show): PullRow[] {
  if (!column) return [...rows];
  const valued = rows.map((row) => ({ row, value: column.value(row, show) }));
  return valued
    .sort((a, b) => {
      if (a.value === null || b.value === null) return Number(a.value === null) - Number(b.value === null);
      const order =
        typeof a.value === 'number' && typeof b.value === 'number' ? a.value - b.value : String(a.value).localeCompare(String(b.value));
      return isDown ? -order : order;
    })
    .map(({ row }) => row);
}
