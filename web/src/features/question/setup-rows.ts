import type { Setup } from '@gezeit/contract';

/** One attribute of the setups side by side. */
export interface AttributeRow {
  label: string;
  values: string[];
  /** Whether the setups that state it differ in it. */
  differs: boolean;
  /** Stated for some setups only. */
  unknown: boolean;
}

const LABELS: Record<string, string> = {
  tune: 'Tune',
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

/** Attributes of setups side by side: parts, every state key that any setup states, and the places of sensors. */
export function attributeRows(setups: Setup[], showPressure: (kPa: number) => string): AttributeRow[] {
  const keys = [...new Set(setups.flatMap(({ state }) => Object.keys(state)))];
  const sensors = [...new Set(setups.flatMap(({ sensorPlaces }) => Object.keys(sensorPlaces ?? {})))];
  return [
    row(
      'Parts',
      setups.map(({ parts }) => parts.join(', ') || null),
    ),
    ...keys.map((key) =>
      row(
        LABELS[key] ?? key,
        setups.map(({ state }) => stateText(key, state[key] ?? null, showPressure)),
      ),
    ),
    ...sensors.map((sensor) =>
      row(
        `Sensor: ${sensor.replace(/([A-Z])/g, ' $1').toLowerCase()}`,
        setups.map(({ sensorPlaces }) => sensorPlaces?.[sensor] ?? null),
      ),
    ),
  ];
}

function stateText(key: string, value: string | number | boolean | null, showPressure: (kPa: number) => string): string | null {
  if (value === null) return null;
  if (key.endsWith('KPa') && typeof value === 'number') return showPressure(value);
  if (key === 'ethanolPct') return `${value} %`;
  return String(value);
}

function row(label: string, values: (string | null)[]): AttributeRow {
  const stated = values.filter((value) => value !== null);
  return {
    label,
    values: values.map((value) => value ?? 'not said'),
    differs: new Set(stated).size > 1,
    unknown: stated.length > 0 && stated.length < values.length,
  };
}
