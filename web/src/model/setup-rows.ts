import { typedNumber, type UnitName } from '@gezeit/core';
import type { Setup, SetupState } from '@gezeit/contract';

/** One attribute of the setups side by side. */
export interface AttributeRow {
  kind: 'parts' | 'state' | 'sensor';
  key: string;
  label: string;
  /** As shown. */
  values: string[];
  /** As written: what an edit starts from. */
  edits: (string | null)[];
  /** Whether the setups that state it differ in it. */
  differs: boolean;
  /** Stated for some setups only. */
  unknown: boolean;
}

/** State keys that Gezeit knows, by their words. */
export const KNOWN_STATE_KEYS: Record<string, string> = {
  tune: 'Tune',
  tuneFile: 'Tune file',
  fuel: 'Fuel',
  bonnet: 'Bonnet',
  fan: 'Fan',
  gear: 'Gear',
  driveMode: 'Drive mode',
  tyres: 'Tyres',
  tyrePressureKPa: 'Tyre pressure',
  learned: 'Learned state',
  airMeter: 'Air meter housing',
  boostControl: 'Boost control',
  boostTargetKPa: 'Boost target',
  ethanolPct: 'Ethanol',
  gate: 'Gate',
};
/** Attributes that are always offered: what a comparison is clouded by most often. */
const ALWAYS = ['tune', 'fuel', 'bonnet', 'fan', 'gear', 'driveMode', 'tyres', 'airMeter', 'learned'];
const ALWAYS_SENSORS = ['intakeAirTemperature'];
/** Quantities whose sensor's place matters to a comparison. */
export const SENSOR_QUANTITIES = [
  'inletTemperature',
  'compressorOutTemperature',
  'coolerOutTemperature',
  'coolingAirTemperature',
  'ambientTemperature',
  'manifoldPressure',
  'boostPressure',
  'inletPressure',
  'pressureDrop',
  'lambda',
] as const;
/** Marks an attribute to be added as a sensor's place. */
export const SENSOR_PREFIX = 'sensor:';
export const sensorLabel = (key: string) => `Sensor: ${key.replace(/([A-Z])/g, ' $1').toLowerCase()}`;

/** Attributes of setups side by side: parts, the usual state keys and every one that any setup states, and the places of sensors. */
export function attributeRows(
  setups: readonly Setup[],
  showPressure: (kPa: number) => string,
  extra: readonly string[] = [],
): AttributeRow[] {
  const keys = [
    ...new Set([...ALWAYS, ...setups.flatMap(({ state }) => Object.keys(state)), ...extra.filter((key) => !key.startsWith(SENSOR_PREFIX))]),
  ];
  const added = extra.filter((key) => key.startsWith(SENSOR_PREFIX)).map((key) => key.slice(SENSOR_PREFIX.length));
  const sensors = [...new Set([...ALWAYS_SENSORS, ...setups.flatMap(({ sensorPlaces }) => Object.keys(sensorPlaces ?? {})), ...added])];
  return [
    row(
      'parts',
      'parts',
      'Parts',
      setups.map(({ parts }) => parts.join(', ') || null),
    ),
    ...keys.map((key) =>
      row(
        'state',
        key,
        KNOWN_STATE_KEYS[key] ?? key,
        setups.map(({ state }) => stateText(key, state[key] ?? null)),
        setups.map(({ state }) => shownState(key, state[key] ?? null, showPressure)),
      ),
    ),
    ...sensors.map((sensor) =>
      row(
        'sensor',
        sensor,
        sensorLabel(sensor),
        setups.map(({ sensorPlaces }) => sensorPlaces?.[sensor] ?? null),
      ),
    ),
  ];
}

type StateValue = SetupState[string];
const stateText = (key: string, value: StateValue) =>
  value === null
    ? null
    : key.endsWith('KPa') && typeof value === 'number'
      ? `${value} kPa`
      : key === 'ethanolPct'
        ? `${value} %`
        : String(value);

function shownState(key: string, value: StateValue, showPressure: (kPa: number) => string): string | null {
  return key.endsWith('KPa') && typeof value === 'number' ? showPressure(value) : stateText(key, value);
}

function row(
  kind: AttributeRow['kind'],
  key: string,
  label: string,
  edits: (string | null)[],
  shown: (string | null)[] = edits,
): AttributeRow {
  const stated = edits.filter((value) => value !== null);
  return {
    kind,
    key,
    label,
    values: shown.map((value) => value ?? 'not said'),
    edits: shown,
    differs: new Set(stated).size > 1,
    unknown: stated.length > 0 && stated.length < edits.length,
  };
}

/**
 * A setup with one attribute as it was typed: parts by commas, pressures with their unit or in the one they are shown in, nothing said where
 * it is empty.
 */
export function changeAttribute(
  setup: Setup,
  { kind, key }: Pick<AttributeRow, 'kind' | 'key'>,
  text: string,
  pressureUnit: UnitName = 'kPa',
): Setup {
  const value = text.trim();
  if (kind === 'parts')
    return {
      ...setup,
      parts:
        value === ''
          ? []
          : value
              .split(',')
              .map((part) => part.trim())
              .filter(Boolean),
    };
  if (kind === 'sensor') {
    const { [key]: _before, ...others } = setup.sensorPlaces ?? {};
    return { ...setup, sensorPlaces: value === '' ? others : { ...others, [key]: value } };
  }
  const { [key]: _before, ...others } = setup.state;
  return { ...setup, state: value === '' ? others : { ...others, [key]: stateValue(key, value, pressureUnit) } };
}

function stateValue(key: string, text: string, pressureUnit: UnitName): StateValue {
  if (key.endsWith('KPa')) {
    const read = typedNumber(text, pressureUnit);
    return read.understood ? Number((read.value / 1000).toPrecision(6)) : text;
  }
  if (key.endsWith('Pct')) {
    const match = /^([\d.,]+)\s*%?$/.exec(text);
    return match ? Number(match[1]!.replace(',', '.')) : text;
  }
  return text;
}
