import type { Quantity } from '@gezeit/contract';
import { fromSi, toSi, type UnitName } from '../units/units.js';
import type { DrivenPull } from './day.js';
import { Random } from './random.js';
import type { Instant } from './sweep.js';
import { STEP_S } from './sweep.js';
import type { LogColumn, LogTable } from '../log/log-table.js';

/** One column as it is written. */
export interface WrittenChannel {
  label: string;
  quantity: Quantity;
  section?: string;
  unit: UnitName;
  digits: number;
}

/** One column that a device writes of a pull. */
export interface DeviceChannel extends WrittenChannel {
  /** Samples a second; between them the cell stays blank. */
  rateHz: number;
  /** Standard deviation of the reading, in the unit kept inside. */
  noise: number;
  value(instant: Instant, pull: DrivenPull): number;
}

export interface Device {
  id: 'ecu' | 'dyno' | 'daq';
  rateHz: number;
  /** Clock of its first sample, s. */
  clockS: number;
  channels: DeviceChannel[];
}

type Value = DeviceChannel['value'];
function channel(
  label: string,
  quantity: Quantity,
  unit: UnitName,
  digits: number,
  rateHz: number,
  noise: number,
  value: Value,
  section?: string,
): DeviceChannel {
  return { label, quantity, unit, digits, rateHz, noise, value, section };
}

/** What the engine control unit logs, 20 Hz and slower. */
export function ecuDevice(clockS: number, boosted: boolean): Device {
  return {
    id: 'ecu',
    rateHz: 20,
    clockS,
    channels: [
      channel('Engine speed', 'engineSpeed', 'rpm', 0, 20, 2, ({ engineSpeedRpm }) => engineSpeedRpm),
      channel('Accelerator pedal', 'pedal', '%', 1, 20, 0, ({ pedalPct }) => pedalPct),
      channel('Throttle', 'throttle', '%', 1, 20, 0.1, ({ throttlePct }) => throttlePct),
      ...(boosted ? [channel('Manifold pressure', 'manifoldPressure', 'kPa', 1, 20, 250, ({ manifoldPa }) => manifoldPa)] : []),
      channel('Intake air temperature', 'intakeAirTemperature', '°C', 1, 5, 0.1, ({ sensorC }) => sensorC),
      channel('Ignition advance', 'ignitionAdvance', '°', 1, 10, 0.1, ({ sparkDeg }) => sparkDeg),
      channel('Knock retard', 'knockRetard', '°', 1, 10, 0.02, ({ knockRetardDeg }) => knockRetardDeg),
      channel('Lambda', 'lambda', 'λ', 3, 10, 0.003, ({ lambda }) => lambda),
      channel('Injector pulse width', 'injectorTime', 'ms', 2, 10, 2e-5, ({ injectorS }) => injectorS),
      channel('Air mass flow', 'airMassFlow', 'g/s', 1, 10, 4e-4, ({ airFlowKgS }) => airFlowKgS),
      channel('Coolant temperature', 'coolantTemperature', '°C', 0, 2, 0.2, ({ coolantC }) => coolantC),
      channel('Oil temperature', 'oilTemperature', '°C', 0, 2, 0.2, ({ oilC }) => oilC),
    ],
  };
}

/** The same on the road: with the car's speed. */
export function roadEcuDevice(clockS: number, boosted: boolean): Device {
  const ecu = ecuDevice(clockS, boosted);
  return {
    ...ecu,
    channels: [
      ...ecu.channels,
      channel('Vehicle speed', 'vehicleSpeed', 'km/h', 1, 10, 0.02, ({ rollerSpeedMPerS }) => rollerSpeedMPerS),
      channel('Ambient air', 'ambientTemperature', '°C', 1, 1, 0.1, (_, { weather }) => weather.temperatureC),
    ],
  };
}

/** What the dyno writes: uncorrected power at the wheels, 50 Hz, its weather once a second. */
export function dynoDevice(clockS: number): Device {
  return {
    id: 'dyno',
    rateHz: 50,
    clockS,
    channels: [
      channel('Engine speed', 'engineSpeed', 'rpm', 0, 50, 1, ({ engineSpeedRpm }) => engineSpeedRpm),
      channel('Roller speed', 'rollerSpeed', 'km/h', 2, 50, 0.004, ({ rollerSpeedMPerS }) => rollerSpeedMPerS),
      channel('Power', 'power', 'kW', 2, 50, 350, ({ wheelPowerW }) => wheelPowerW),
      channel('Ambient temperature', 'ambientTemperature', '°C', 1, 1, 0.05, (_, { weather }) => weather.temperatureC),
      channel('Ambient pressure', 'ambientPressure', 'kPa', 2, 1, 5, (_, { weather }) => weather.pressurePa),
      channel('Relative humidity', 'relativeHumidity', '%', 0, 1, 0.3, (_, { weather }) => 100 * weather.relativeHumidity),
    ],
  };
}

/** A data box with pressures and temperatures of its own, 25 Hz. */
export function dataBoxDevice(clockS: number, sections: string[], withCooler: boolean, withCircuit: boolean): Device {
  return {
    id: 'daq',
    rateHz: 25,
    clockS,
    channels: [
      channel('Engine speed', 'engineSpeed', 'rpm', 0, 25, 4, ({ engineSpeedRpm }) => engineSpeedRpm),
      ...sections.map((section, i) =>
        channel(`Pressure drop ${section}`, 'pressureDrop', 'kPa', 3, 25, 12, ({ sectionDropsPa }) => sectionDropsPa[i]!, section),
      ),
      channel('Inlet temperature', 'inletTemperature', '°C', 1, 5, 0.1, ({ inletC }) => inletC),
      ...(withCooler
        ? [
            channel('Compressor outlet temperature', 'compressorOutTemperature', '°C', 1, 5, 0.3, ({ compressorOutC }) => compressorOutC),
            channel('Cooler outlet temperature', 'coolerOutTemperature', '°C', 1, 5, 0.2, ({ chargeC }) => chargeC),
            channel('Pressure drop cooler', 'pressureDrop', 'kPa', 2, 25, 40, ({ coolerDropPa }) => coolerDropPa, 'cooler'),
          ]
        : []),
      ...(withCircuit ? [channel('Coolant inlet temperature', 'coolantInTemperature', '°C', 1, 5, 0.1, ({ circuitC }) => circuitC)] : []),
    ],
  };
}

/** Samples of a device: clock and a column each, NaN where the cell stays blank; values in the channel's unit, rounded as written. */
export interface DeviceRecord {
  device: { id: string; channels: readonly WrittenChannel[] };
  timeS: Float64Array;
  values: Float64Array[];
}

/** Records a pull with a device: its own rate, clock, noise, rounding, and now and then a spike where the pull has that mishap. */
export function record(device: Device, pull: DrivenPull, seed: number): DeviceRecord {
  const random = new Random(seed);
  const { instants } = pull.sweep;
  const count = Math.floor(instants.at(-1)!.timeS * device.rateHz);
  const timeS = Float64Array.from({ length: count }, (_, i) => device.clockS + i / device.rateHz);
  const spikeAt = pull.chance.mishap?.kind === 'spike' && device.id === 'dyno' ? spikeIndex(pull, device) : -1;
  const values = device.channels.map(({ rateHz, noise, unit, digits, value, quantity }) => {
    const every = Math.max(1, Math.round(device.rateHz / rateHz));
    const scale = 10 ** digits;
    const written = new Float64Array(count).fill(Number.NaN);
    for (let i = 0; i < count; i += every) {
      const reading = value(instants[Math.min(instants.length - 1, Math.round(i / device.rateHz / STEP_S))]!, pull) + random.normal(noise);
      const spiked = quantity === 'power' && i === spikeAt ? reading * 1.5 : reading;
      written[i] = Math.round(fromSi(spiked, unit) * scale) / scale;
    }
    return written;
  });
  return { device, timeS, values };
}

function spikeIndex(pull: DrivenPull, { rateHz }: Device): number {
  const { mishap } = pull.chance;
  const instant = pull.sweep.instants.find(
    ({ timeS, engineSpeedRpm }) => timeS > pull.sweep.fullThrottleS && engineSpeedRpm >= mishap!.atRpm,
  );
  return Math.round((instant?.timeS ?? 0) * rateHz);
}

/** The record as the reader would hand it on, without the way over a text file. */
export function tableOf({ device, timeS, values }: DeviceRecord, file: string): LogTable {
  const columns: LogColumn[] = device.channels.map((entry, i) => ({
    name: entry.label,
    quantity: entry.quantity,
    unitText: entry.unit,
    section: entry.section ?? null,
    corrected: null,
    gauge: false,
    values: values[i]!.map((value) => toSi(value, entry.unit)),
  }));
  const report = {
    encoding: 'none',
    delimiter: '',
    decimalMark: 'point' as const,
    headerRow: 0,
    unitsRow: null,
    firstDataRow: 0,
    rowCount: timeS.length,
    preamble: [],
    remarks: [],
    timeColumn: 'Time',
    columns: [],
    notes: [],
    problems: [],
    dateQuestion: null,
  };
  return { file, device: device.id, timeS, columns, rowCount: timeS.length, report };
}
