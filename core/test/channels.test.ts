import { describe, expect, it } from 'vitest';
import { defaultStops, LineStream, passedStop, readLog } from '../src/index.js';
import { recogniseHeader } from '../src/channels/recognise.js';

const utf8 = (text: string) => new TextEncoder().encode(text);
const read = (text: string, channels?: Parameters<typeof readLog>[1]['channels']) => readLog(utf8(text), { file: 'logs/a.csv', channels });
const quantityOf = (header: string, unitRow = '') => recogniseHeader(header, unitRow).quantity;
const values = (table: ReturnType<typeof read>, quantity: string) => [
  ...table.columns.find((column) => column.quantity === quantity)!.values,
];

/** Every way in which a header of engine speed is written: words, cases and places of the unit. */
const SPEED_NAMES = ['Engine RPM', 'engine rpm', 'ENGINE_RPM', 'EngineRPM', 'Engine speed', 'Engine Speed', 'Motor RPM', 'RPM', 'rpm'];
const UNITS = ['', ' [rpm]', ' (rpm)', ' [1/min]', ' (RPM)', ', rpm'];

describe('what a column is taken for', () => {
  it.each(SPEED_NAMES.flatMap((name) => UNITS.map((unit) => [`${name}${unit}`])))('engine speed: %s', (header) => {
    expect(quantityOf(header)).toBe('engineSpeed');
  });

  it.each([
    ['Charge cooler coolant in temperature [°C]', 'coolantInTemperature'],
    ['Charge cooler coolant outlet temperature [°C]', 'coolantOutTemperature'],
    // Which end of the circuit it is, nobody says: it is taken for nothing, least of all for air.
    ['Charge cooler coolant temperature [°C]', null],
    ['Intake air temperature [°C]', 'intakeAirTemperature'],
    ['Coolant temperature [°C]', 'coolantTemperature'],
    ['Wheel HP', 'power'],
  ])('%s is %s', (header, quantity) => expect(quantityOf(header)).toBe(quantity));

  it('the coolant of a charge cooler is never taken for the air', () => {
    for (const words of ['charge', 'intercooler', 'charge cooler', 'intake cooler'])
      for (const what of ['coolant', 'water'])
        for (const end of ['temp', 'temperature', 'in', 'out', 'inlet temperature'])
          expect(quantityOf(`${words} ${what} ${end} [°C]`), `${words} ${what} ${end}`).toSatisfy(
            (quantity: string | null) => quantity === null || quantity.startsWith('coolant'),
          );
  });
});

describe('gauge and absolute', () => {
  const sweep = (header: string, of: (i: number) => number) =>
    read(
      `Time [s],Engine RPM,Throttle [%],${header}\n${Array.from({ length: 80 }, (_, i) => `${i / 10},${1500 + 60 * i},${i < 20 ? 2 : i < 40 ? 30 : 100},${of(i).toFixed(2)}`).join('\n')}\n`,
    );

  it('MAP [psig] is a boost over ambient, not an absolute pressure', () => {
    const table = sweep('MAP [psig]', (i) => (i < 40 ? -8 : 12));
    const column = table.columns.find(({ name }) => name === 'MAP')!;
    expect(column.gauge).toBe(true);
    expect(column.values.at(-1)).toBeCloseTo(12 * 6894.76, -1);
  });

  it('a boost column that lies at 30 to 60 kPa with the throttle shut is absolute, and says so', () => {
    const table = sweep('Boost [kPa]', (i) => (i < 20 ? 35 : i < 40 ? 85 : 190));
    const column = table.columns.find(({ name }) => name === 'Boost')!;
    expect([column.quantity, column.gauge]).toEqual(['manifoldPressure', false]);
    expect(table.report.columns[3]!.reasons).toContainEqual({ code: 'absolute', by: 'shut-throttle' });
  });

  it.each([
    ['Boost absolute [kPa]', 180, []],
    ['MAP [kPa]', 180, [{ code: 'absolute', by: 'values' }]],
    ['MAP [kPa]', -30, [{ code: 'gauge' }]],
    ['MAP [psig]', -8, []],
    ['MAP abs [kPa]', 98, []],
  ])('of %s at %d it is said by what that was told', (header, value, said) => {
    const { reasons } = sweep(header, (i) => value + (i < 40 ? 0 : 2 * (i - 40))).report.columns[3]!;
    expect(reasons.filter(({ code }) => code === 'absolute' || code === 'gauge')).toEqual(said);
  });

  it('a boost that somebody says is absolute is, and that is said', () => {
    const table = read('Time [s],Boost [kPa]\n0,20\n1,30\n', { Boost: { quantity: 'boostPressure', gauge: false } });
    expect(table.columns[0]!.quantity).toBe('manifoldPressure');
    expect(table.report.columns[1]!.reasons).toEqual([{ code: 'hand' }, { code: 'absolute', by: 'stated' }]);
  });

  it('a boost column that goes below zero with the throttle shut is against ambient', () => {
    const column = sweep('Boost [kPa]', (i) => (i < 20 ? -65 : i < 40 ? -20 : 90)).columns.find(({ name }) => name === 'Boost')!;
    expect([column.quantity, column.gauge]).not.toContain(false);
  });
});

describe('two columns of one quantity', () => {
  const banks =
    'Time [s],Air mass flow bank 1 [g/s],Air mass flow bank 2 [g/s],Lambda bank 1,Lambda bank 2\n0,40,42,0.9,0.8\n1,50,54,0.9,0.8\n2,60,61,0.9,0.8\n';

  it('banks of an air meter are summed, of other quantities averaged, and it is said', () => {
    const table = read(banks);
    expect(values(table, 'airMassFlow').map((flow) => Math.round(1e4 * flow) / 10)).toEqual([82, 104, 121]);
    expect(values(table, 'lambda')[0]).toBeCloseTo(0.85, 6);
    expect(JSON.stringify(table.report)).toMatch(/banks of one engine: their sum is used as air mass flow/);
  });

  it('by choice the mean counts', () => {
    const table = read(banks, { 'Air mass flow bank 1': { quantity: 'airMassFlow', unit: 'g/s', combine: 'mean' } });
    expect(values(table, 'airMassFlow').map((flow) => Math.round(1e4 * flow) / 10)).toEqual([41, 52, 60.5]);
  });
});

describe('a stream', () => {
  it('reads what a file reads: AFR becomes lambda, a gauge manifold pressure boost', () => {
    const stream = new LineStream();
    const [sample] = stream.take('time [s],Engine RPM,AFR,MAP [psig]\n1,5000,11.76,14.5\n');
    expect(sample!.values.get('engineSpeed')).toBe(5000);
    expect(sample!.values.get('lambda')).toBeCloseTo(0.8, 6);
    expect(sample!.values.get('boostPressure')).toBeCloseTo(14.5 * 6894.76, -1);
    expect(sample!.values.has('manifoldPressure')).toBe(false);
  });

  it('a boost in psig trips the over-boost stop; a rich mixture in AFR trips nothing', () => {
    const stops = defaultStops({ vehicle: { name: 'v', aspiration: 'turbo', ignition: 'spark' } as never });
    const [sample] = new LineStream().take('AFR,MAP [psig]\n11.76,20\n');
    const readings = [...sample!.values].map(([quantity, value]) => ({ quantity, value, atMs: 0, device: 'd' })) as never;
    expect(passedStop(stops, readings, true, 200_000)?.criterion).toBe('boost');
    expect(passedStop(stops, readings, true, 260_000)).toBeNull();
  });
});
