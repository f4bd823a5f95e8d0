import type { Bundle, Pull, Quantity } from '@gezeit/contract';
import type { AirState } from '../air/moist-air.js';
import { gaugeOrAbsolute } from '../channels/meaning.js';
import { correctionFactor } from '../correction/standards.js';
import { GezeitError } from '../errors.js';
import { said, type AnySaid } from '../said.js';
import { powerFromTorqueW, torqueFromPowerNm } from '../units/power.js';
import { alignBySpeed, alignByThrottle, alignByTrigger, assumedAlignment, isAssumed, statedAlignment, type Alignment } from './align.js';
import { channelFaults, type ChannelFault } from './channel-faults.js';
import { gridOf, resample } from './resample.js';
import { speedMap, type SpeedMap } from './speed-map.js';
import { withoutSpikes } from './spikes.js';
import { airOf, collectStart, collectWeather, completeStart, nothingLogged, type LoggedValues, type StartState } from './start-and-air.js';
import type { SweepAssignment, LogTables } from './sweep-assignment.js';
import type { Sweep } from './sweep.js';
import { impossibleSpeeds, MOST_ENGINE_SPEED_RPM, traceFor, traceOf } from './traces.js';
import type { LogColumn, LogTable } from '../log/log-table.js';
import { interpolate } from '../numeric/interpolate.js';
import { mean } from '../numeric/means.js';

/** One pull, all its logs together, over engine speed. Values are in the units kept inside, uncorrected for weather. */
export interface PullCurve {
  id: string;
  /** Full-throttle window on the first log's own clock, s. */
  startS: number;
  endS: number;
  gridRpm: Float64Array;
  /** When each engine speed of the grid was passed, s after full throttle; NaN of a curve without time. */
  gridTimeS: Float64Array;
  /** Channels over the grid by quantity, pressure drops by `pressureDrop/section`. */
  channels: Map<string, Float64Array>;
  start: StartState;
  air: AirState | null;
  /** What was masked, by column. */
  spikes: { name: string; file: string; samples: number }[];
  /** Stretches of channels that look like the sensor or the logger, and not like the engine. */
  faults: ChannelFault[];
  alignments: Alignment[];
  /** Which column of which device a channel is from: the sensor that read it. */
  sources: Map<string, ChannelSource>;
  /** Channels of files whose clock could not be matched: they feed nothing. By channel, the file. */
  unmatched: Map<string, string>;
  /** What two devices have read, with the mean of each over the sweep; the second's is what the channel holds. */
  readTwice: { key: string; first: ChannelSource; second: ChannelSource; firstMean: number; secondMean: number }[];
  warnings: AnySaid[];
}

/** A sensor, by the device that read it and its column. */
export interface ChannelSource {
  file: string;
  device: string;
  column: string;
  unitText: string | null;
}

const sourceOf = ({ file, device }: LogTable, { name, unitText }: LogColumn): ChannelSource => ({ file, device, column: name, unitText });

/**
 * Sections that nobody put a differential sensor over: ambient minus the pressure before compressor or throttle is the drop of the whole intake;
 * without that, on a naturally aspirated engine with its throttle wide open, ambient minus manifold pressure is more than it, and a bound.
 */
export const WHOLE_INTAKE = { measured: 'intake', atMost: 'intake, at most' } as const;
/** An inlet pressure above this is absolute: against ambient it is a few kPa, Pa. */
const LEAST_ABSOLUTE_PA = 40_000;

/** Slow channels are looked for this far around the sweep, s. */
const AROUND_S = 30;
/**
 * Brings a pull's logs together over engine speed. Null where no sweep is found.
 * @throws GezeitError `no-engine-speed` where logs are listed and none has engine speed.
 */
export function pullCurve(bundle: Bundle, pull: Pull, tables: LogTables, sweeps: SweepAssignment): PullCurve | null {
  const own = pull.logs.map(({ file }) => tables.get(file)!);
  if (own.length === 0) return null;
  const withSpeed = own.filter((table) => table.columns.some(({ quantity }) => quantity === 'engineSpeed'));
  if (withSpeed.length === 0) {
    const message = `None of the logs of pull ${pull.id} has engine speed (${own.map(({ file }) => file).join(', ')}).`;
    throw new GezeitError('no-engine-speed', message, 'Log engine speed in at least one device, or map its column under channels.', {
      file: own[0]!.file,
    });
  }
  const first = withSpeed.find((table) => table.timeS && sweeps.sweep(pull, table.file));
  if (!first) return curveWithoutTime(bundle, pull, own);
  const sweep = sweeps.sweep(pull, first.file)!;
  const map = speedMap(traceFor(first, 'engineSpeed')!, sweep.startS, sweep.endS);
  const curve: PullCurve = {
    id: pull.id,
    startS: sweep.startS,
    endS: sweep.endS,
    gridRpm: gridOf(map),
    gridTimeS: new Float64Array(),
    channels: new Map(),
    start: { intakeAirC: null, coolantC: null, oilC: null },
    air: null,
    spikes: [],
    faults: [],
    alignments: [],
    sources: new Map(),
    unmatched: new Map(),
    readTwice: [],
    warnings: [],
  };
  curve.gridTimeS = curve.gridRpm.map((rpm) => interpolate(map.speed, map.timeS, rpm) - sweep.startS);
  const logged = nothingLogged();
  for (const table of own) addTable(curve, pull, table, first, sweep, map, sweeps.sweep(pull, table.file), logged);
  for (const table of own) {
    const within = sweeps.sweep(pull, table.file);
    const count = within ? impossibleSpeeds(table, within.startS, within.endS) : 0;
    if (count > 0) curve.warnings.push(said('engine-speed-impossible', { file: table.file, count, mostRpm: MOST_ENGINE_SPEED_RPM }));
  }
  addRollerSpeed(curve, own, sweeps, pull);
  finish(curve, bundle, pull, logged);
  return curve;
}

function addTable(
  curve: PullCurve,
  { logs }: Pull,
  table: LogTable,
  first: LogTable,
  sweep: Sweep,
  map: SpeedMap,
  own: Sweep | null,
  logged: LoggedValues,
): void {
  if (!table.timeS) {
    curve.alignments.push({ file: table.file, offsetS: 0, how: 'curve', residualS: null });
    addCurveTable(curve, table, logged);
    return;
  }
  const alignment = alignmentOf(logs, table, first, sweep, map, own);
  curve.alignments.push(alignment);
  if (isAssumed(alignment)) {
    leaveUnmatched(curve, table, first, logged);
    return;
  }
  const engine = traceFor(table, 'engineSpeed');
  const [fromS, toS] = [sweep.startS + alignment.offsetS, sweep.endS + alignment.offsetS];
  // Where a hand has moved the clock, its own engine speed would move the traces back.
  const ownMap = engine && own && alignment.how !== 'hand' ? speedMap(engine, fromS, toS) : null;
  const [useMap, offset] = ownMap && ownMap.speed.length > 5 ? [ownMap, 0] : [map, alignment.offsetS];
  for (const column of table.columns) {
    if (!column.quantity || column.quantity === 'time') continue;
    const raw = traceOf(table, column, fromS - AROUND_S, toS + AROUND_S);
    if (!raw) continue;
    curve.faults.push(...channelFaults(raw, { key: channelKey(column), file: table.file, device: table.device }, fromS, toS));
    const { trace, masked } = withoutSpikes(raw, fromS, toS);
    if (masked > 0) curve.spikes.push({ name: column.name, file: table.file, samples: masked });
    collectStart(curve.start, column.quantity, trace, fromS);
    collectWeather(logged, column.quantity, trace, fromS, toS);
    const values = resample(trace, useMap, curve.gridRpm, offset);
    if (values.some((value) => Number.isFinite(value))) {
      noteReadTwice(curve, channelKey(column), values, sourceOf(table, column));
      curve.channels.set(channelKey(column), values);
      curve.sources.set(channelKey(column), sourceOf(table, column));
    }
    if (column.corrected) logged.corrected.set(column.quantity, column.corrected);
  }
}

/** By hand before all else, then by what the logs themselves show, then as the files were read. */
function alignmentOf(logs: Pull['logs'], table: LogTable, first: LogTable, sweep: Sweep, map: SpeedMap, own: Sweep | null): Alignment {
  if (table === first) return { file: table.file, offsetS: 0, how: 'first', residualS: 0 };
  const stated = statedAlignment(logs, first, table);
  if (stated?.how === 'hand') return stated;
  const seen = (own && alignBySpeed(map, table, own)) ?? alignByThrottle(first, table, sweep);
  return seen ?? stated ?? alignByTrigger(first, table, sweep) ?? assumedAlignment(first, table, sweep);
}

function noteReadTwice({ channels, sources, readTwice }: PullCurve, key: string, values: Float64Array, second: ChannelSource): void {
  const [before, first] = [channels.get(key), sources.get(key)];
  if (!before || !first || first.file === second.file) return;
  const both = [...values.keys()].filter((i) => Number.isFinite(before[i]!) && Number.isFinite(values[i]!));
  if (both.length === 0) return;
  readTwice.push({ key, first, second, firstMean: mean(both.map((i) => before[i]!)), secondMean: mean(both.map((i) => values[i]!)) });
}

/** Key of a column in a curve's channels. */
function channelKey({ quantity, section, gauge }: LogColumn): string {
  if (quantity === 'pressureDrop' && section) return `pressureDrop/${section}`;
  return gaugeOrAbsolute(quantity!, quantity === 'manifoldPressure' ? gauge : null);
}

/** A steady ambient may be taken from a file whose clock is not matched: it varies by no more than this over the whole record. */
const STEADY_AMBIENT: Partial<Record<Quantity, number>> = { ambientTemperature: 1, ambientPressure: 200, relativeHumidity: 5 };

/** A clock that is only assumed feeds nothing: what the file holds is named, and the weather taken where it stood still. */
function leaveUnmatched(curve: PullCurve, table: LogTable, first: LogTable, logged: LoggedValues): void {
  curve.warnings.push(said('clock-not-matched', { file: table.file, first: first.file }));
  for (const column of table.columns) {
    if (!column.quantity) continue;
    curve.unmatched.set(channelKey(column), table.file);
    const allowed = STEADY_AMBIENT[column.quantity];
    const trace = allowed === undefined ? null : traceOf(table, column);
    if (!trace) continue;
    const sorted = trace.values.slice().sort();
    if (sorted.at(-1)! - sorted[0]! <= allowed!) collectWeather(logged, column.quantity, trace, -Infinity, Infinity);
  }
}

/**
 * Roller speed over the speed that another device saw of the engine: a dyno that makes its engine speed from the roller shows no slip against
 * itself. Without another device its own stands.
 */
function addRollerSpeed(curve: PullCurve, own: LogTable[], sweeps: SweepAssignment, pull: Pull): void {
  const offsetOf = (table: LogTable) => curve.alignments.find(({ file, how }) => file === table.file && how !== 'curve')?.offsetS ?? null;
  const matched = own.filter((table) => table.timeS && !curve.alignments.some((entry) => entry.file === table.file && isAssumed(entry)));
  const roller = matched.find((table) => table.columns.some(({ quantity }) => quantity === 'rollerSpeed'));
  const other = matched.find((table) => table !== roller && sweeps.sweep(pull, table.file) && traceFor(table, 'engineSpeed'));
  if (!roller || !other) return;
  const [rollerOffsetS, otherOffsetS] = [offsetOf(roller), offsetOf(other)];
  if (rollerOffsetS === null || otherOffsetS === null) return;
  const map = speedMap(traceFor(other, 'engineSpeed')!, curve.startS + otherOffsetS, curve.endS + otherOffsetS);
  if (map.speed.length <= 5) return;
  curve.channels.set('rollerSpeed', resample(traceFor(roller, 'rollerSpeed')!, map, curve.gridRpm, rollerOffsetS - otherOffsetS));
}

/** A table over engine speed: its values at the grid. */
function addCurveTable(curve: PullCurve, table: LogTable, logged: LoggedValues): void {
  const speed = table.columns.find(({ quantity }) => quantity === 'engineSpeed');
  if (!speed) return;
  const order = Array.from(speed.values.keys()).filter((i) => Number.isFinite(speed.values[i]!));
  order.sort((a, b) => speed.values[a]! - speed.values[b]!);
  for (const column of table.columns) {
    if (!column.quantity || column === speed) continue;
    const known = order.filter((i) => Number.isFinite(column.values[i]!));
    const x = known.map((i) => speed.values[i]!);
    const y = known.map((i) => column.values[i]!);
    curve.sources.set(channelKey(column), sourceOf(table, column));
    curve.channels.set(
      channelKey(column),
      curve.gridRpm.map((rpm) => interpolate(x, y, rpm)),
    );
    if (column.corrected) logged.corrected.set(column.quantity, column.corrected);
  }
}

function curveWithoutTime(bundle: Bundle, pull: Pull, own: LogTable[]): PullCurve | null {
  const table = own.find((entry) => !entry.timeS && entry.columns.some(({ quantity }) => quantity === 'engineSpeed'));
  if (!table) return null;
  const speeds = Array.from(table.columns.find(({ quantity }) => quantity === 'engineSpeed')!.values).filter(Number.isFinite);
  const map = { speed: Float64Array.of(Math.min(...speeds), Math.max(...speeds)), timeS: Float64Array.of(0, 1) };
  const curve: PullCurve = {
    id: pull.id,
    startS: Number.NaN,
    endS: Number.NaN,
    gridRpm: gridOf(map),
    gridTimeS: new Float64Array(),
    channels: new Map(),
    start: { intakeAirC: null, coolantC: null, oilC: null },
    air: null,
    spikes: [],
    faults: [],
    alignments: [{ file: table.file, offsetS: 0, how: 'curve', residualS: null }],
    sources: new Map(),
    unmatched: new Map(),
    readTwice: [],
    warnings: [],
  };
  curve.gridTimeS = curve.gridRpm.map(() => Number.NaN);
  const logged = nothingLogged();
  addCurveTable(curve, table, logged);
  finish(curve, bundle, pull, logged);
  return curve;
}

function finish(curve: PullCurve, bundle: Bundle, pull: Pull, logged: LoggedValues): void {
  completeStart(curve, pull);
  curve.air = airOf(curve, pull, logged);
  const { channels, air, gridRpm } = curve;
  for (const quantity of ['power', 'torque'] as const) {
    const standard = logged.corrected.get(quantity);
    const values = channels.get(quantity);
    if (standard === undefined || !values) continue;
    if (!air) {
      curve.warnings.push(said('corrected-without-weather', { quantity }));
      channels.delete(quantity);
      continue;
    }
    const factor = correctionFactor(standard, air);
    channels.set(
      quantity,
      values.map((value) => value / factor),
    );
  }
  const power = channels.get('power');
  const torque = channels.get('torque');
  if (!power && torque)
    channels.set(
      'power',
      torque.map((value, i) => powerFromTorqueW(value, gridRpm[i]!)),
    );
  if (power && !torque)
    channels.set(
      'torque',
      power.map((value, i) => torqueFromPowerNm(value, gridRpm[i]!)),
    );
  const boost = channels.get('boostPressure');
  if (boost && !channels.has('manifoldPressure') && !air) curve.warnings.push(said('gauge-without-weather', { quantity: 'boostPressure' }));
  if (boost && !channels.has('manifoldPressure') && air)
    channels.set(
      'manifoldPressure',
      boost.map((value) => value + air.pressurePa),
    );
  addWholeIntake(curve, bundle);
  const held = bundle.vehicle.boostControl === 'absolute' || bundle.vehicle.boostControl === 'gauge';
  if (held && !channels.has('manifoldPressure')) curve.warnings.push(said('boost-not-logged', {}));
}

function addWholeIntake({ channels, sources, air }: PullCurve, { vehicle }: Bundle): void {
  const [inlet, manifold] = [channels.get('inletPressure'), channels.get('manifoldPressure')];
  const [key, pressure] = inlet ? (['inletPressure', inlet] as const) : (['manifoldPressure', manifold] as const);
  if (!air || !pressure || (!inlet && vehicle.aspiration !== 'na')) return;
  const section = `pressureDrop/${inlet ? WHOLE_INTAKE.measured : WHOLE_INTAKE.atMost}`;
  if (channels.has(section)) return;
  const known = pressure.filter(Number.isFinite);
  const isAbsolute = known.length > 0 && mean(known) > LEAST_ABSOLUTE_PA;
  channels.set(
    section,
    pressure.map((value) => (isAbsolute ? air.pressurePa - value : -value)),
  );
  const source = sources.get(key);
  if (source) sources.set(section, source);
}
