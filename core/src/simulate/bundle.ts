import type { Bundle, Cell, Programme, Pull, Setup, Vehicle } from '@gezeit/contract';
import type { DrivenPull } from './day.js';
import { record, tableOf, type Device, type DeviceRecord } from './devices.js';
import { writeLog, type Dialect } from './dialects.js';
import type { LogTable } from '../log/log-table.js';

/** What a bundle says beside the pulls. */
export interface BundleFrame {
  programme: Programme;
  vehicle: Vehicle;
  cell: Cell;
  setups: Setup[];
  /** Start of the day. */
  startedAt: string;
}

/** A device that logged the day, and the dialect in which its software writes. */
export interface LoggingDevice {
  dialect: Dialect;
  device(index: number): Device;
}

export interface SimulatedBundle {
  bundle: Bundle;
  records: { file: string; record: DeviceRecord; dialect: Dialect }[];
}

/** A bundle of a driven day: one log file a pull and device. */
export function bundleOfDay(frame: BundleFrame, driven: DrivenPull[], devices: LoggingDevice[], seed: number): SimulatedBundle {
  const records: SimulatedBundle['records'] = [];
  const pulls = driven.map((pull): Pull => {
    const id = `p${String(pull.index + 1).padStart(2, '0')}`;
    const logs = devices.map(({ dialect, device: make }, d) => {
      const device = make(pull.index);
      const file = `logs/${id}-${device.id}.${dialect === 'two-storey' ? 'txt' : 'csv'}`;
      records.push({ file, record: record(device, pull, seed * 1000 + pull.index * 10 + d), dialect });
      return { file, device: device.id };
    });
    const round = (value: number, digits: number) => Number(value.toFixed(digits));
    return {
      id,
      setup: pull.setup,
      kind: pull.kind,
      startedAt: new Date(Date.parse(frame.startedAt) + Math.round(pull.timeH * 3_600_000)).toISOString(),
      ambient: {
        temperatureC: round(pull.weather.temperatureC, 1),
        pressureKPa: round(pull.weather.pressurePa / 1000, 2),
        relativeHumidityPct: round(100 * pull.weather.relativeHumidity, 0),
      },
      start: startOf(pull),
      logs,
      ecuReset: pull.ecuReset,
      excluded: null,
      note: '',
    };
  });
  const { programme, vehicle, cell, setups } = frame;
  return { bundle: { format: 'gezeit-bundle', version: 1, programme, vehicle, cell, setups, pulls }, records };
}

/** What the operator reads off just before full throttle. */
function startOf({ sweep }: DrivenPull): Pull['start'] {
  const instant = sweep.instants.findLast(({ timeS }) => timeS < sweep.fullThrottleS)!;
  return { coolantC: Math.round(instant.coolantC), intakeAirC: Math.round(instant.sensorC), oilC: Math.round(instant.oilC) };
}

/** The tables of a simulated bundle without the way over text. */
export function tablesOf({ records }: SimulatedBundle): Map<string, LogTable> {
  return new Map(records.map(({ file, record: entry }) => [file, tableOf(entry, file)]));
}

/** The log files of a simulated bundle. */
export function filesOf({ records }: SimulatedBundle): Map<string, Uint8Array> {
  return new Map(records.map(({ file, record: entry, dialect }) => [file, writeLog(entry, dialect)]));
}
