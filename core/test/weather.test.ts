import { dayEventsSchema, typedWeatherSchema, WEATHER_RANGES, type Bundle } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { analyseMeasured, measurePulls, PLAIN_FORMATTER, weatherNow, withWords, type LogTable } from '../src/index.js';
import { tablesOf } from '../src/simulate/index.js';
import { calibrationDay } from '../../bench/population.js';

// Weather typed or logged in another unit, or by a sensor that is off: said of the pull, and never taken for the weather.

type Ambient = NonNullable<Bundle['pulls'][number]['ambient']>;
const WEATHER = { temperatureC: 21, pressureKPa: 98.4, relativeHumidityPct: 45 };
const { simulated } = calibrationDay(5003, 'none');
const logged = tablesOf(simulated);
/** The day with the air stated, and its logs without it or with what a sensor of that quantity says. */
function day(stated: (ambient: Ambient, place: number) => Ambient, sensor: Partial<Record<string, number>> = {}) {
  const bundle = structuredClone(simulated.bundle);
  bundle.programme.correction = 'SAE_J1349';
  bundle.pulls.forEach((pull, i) => (pull.ambient = stated({ ...WEATHER }, i)));
  const tables = new Map(
    [...logged].map(([file, table]): [string, LogTable] => {
      const own = table.columns.filter(
        ({ quantity }) => !['ambientTemperature', 'ambientPressure', 'relativeHumidity'].includes(quantity ?? ''),
      );
      const more = Object.entries(sensor).map(([quantity, value]) => ({
        ...table.columns[0]!,
        name: quantity,
        quantity: quantity as 'ambientPressure',
        unitText: '',
        values: new Float64Array(table.rowCount).fill(value!),
      }));
      return [file, { ...table, columns: [...own, ...more] }];
    }),
  );
  return analyseMeasured(bundle, measurePulls(bundle, tables));
}
const warned = (pull: ReturnType<typeof day>['pulls'][number]) =>
  pull.warnings.map((warning) => withWords({ text: '', said: { text: [warning] } }, PLAIN_FORMATTER).text.replaceAll('\u00a0', ' '));
const plain = day((ambient) => ambient);
const levelled = ({ findings }: ReturnType<typeof day>) => findings.comparisons[0]!.levelled;

const WRONG: [string, Partial<Ambient>, RegExp][] = [
  [
    'pressure in hPa',
    { pressureKPa: 984 },
    /Ambient pressure: the sheet says 984.* kPa, which no weather is. It is not used: check its unit\./,
  ],
  ['pressure in bar', { pressureKPa: 0.984 }, /says 1\.0 kPa, which no weather is/],
  ['pressure in inches of mercury', { pressureKPa: 29.06 }, /29\.\d.* kPa/],
  ['pressure in Pa', { pressureKPa: 98_400 }, /98.?400/],
  ['pressure against the air around', { pressureKPa: 0 }, /which no weather is/],
  ['pressure below nothing', { pressureKPa: -5 }, /−5/],
  ['temperature in kelvin', { temperatureC: 294.15 }, /Ambient temperature: the sheet says 294\.\d °C, which no weather is/i],
  ['temperature in °F', { temperatureC: 69.8 }, /69\.8 °C/],
  ['a thermometer that is not there', { temperatureC: -273.15 }, /−273/],
  ['no number that anything has', { temperatureC: 1e30 }, /which no weather is/],
];

describe('weather that no weather is', () => {
  it('is a day with figures to begin with', () => {
    expect(plain.pulls.filter(({ used }) => used).length).toBeGreaterThanOrEqual(4);
    expect(plain.pulls.flatMap(({ leftOut }) => leftOut.map(({ reason }) => reason))).not.toContain('no-weather');
    expect(Number.isFinite(levelled(plain)!.low)).toBe(true);
  });

  it.each(WRONG)('%s, on every pull: nothing is corrected with it, and each says so', (_, change, words) => {
    const { pulls, findings } = day((ambient) => ({ ...ambient, ...change }));
    for (const entry of pulls) {
      expect(entry.air).toBeNull();
      expect(warned(entry).join('\n')).toMatch(words);
    }
    expect(pulls.filter(({ used }) => used)).toEqual([]);
    expect(findings.comparisons[0]!.levelled).toBeNull();
  });

  it.each(WRONG)('%s, on one pull: the others say what they said', (_, change) => {
    const wrong = plain.pulls.find(({ used }) => used)!.pull.id;
    const at = simulated.bundle.pulls.findIndex(({ id }) => id === wrong);
    const { pulls } = day((ambient, i) => (i === at ? { ...ambient, ...change } : ambient));
    for (const entry of pulls) {
      const before = plain.pulls.find(({ pull }) => pull.id === entry.pull.id)!;
      expect(entry.air).toEqual(entry.pull.id === wrong ? null : before.air);
      if (entry.pull.id === wrong) expect(entry.leftOut.map(({ reason }) => reason)).toEqual(['no-weather']);
    }
  });

  it.each([
    ['hPa for kPa', { ambientPressure: 984_000 }],
    ['a gauge', { ambientPressure: 12 }],
    ['an open input', { ambientTemperature: -200, ambientPressure: -40 }],
    ['kelvin', { ambientTemperature: 294 }],
  ])('logged, %s: what is stated is used instead, and said', (_, sensor) => {
    const off = day((ambient) => ambient, sensor);
    expect(levelled(off)).toEqual(levelled(plain));
    for (const entry of off.pulls.filter(({ curve }) => curve))
      expect(warned(entry).join('\n')).toMatch(/the log says .*which no weather is/);
  });

  it('a humidity that cannot be is half assumed; one a little over is saturated air', () => {
    for (const relativeHumidityPct of [4200, -3, 106]) {
      const { pulls } = day((ambient) => ({ ...ambient, relativeHumidityPct }));
      expect(pulls.map(({ air }) => air!.relativeHumidity)).toEqual(pulls.map(() => 0.5));
      expect(warned(pulls[0]!).join('\n')).toMatch(/Relative humidity: the sheet says .*%, which no weather is[^]*50 % is assumed/i);
    }
    expect(day((ambient) => ({ ...ambient, relativeHumidityPct: 103 })).pulls[0]!.air!.relativeHumidity).toBe(1);
  });

  it('is refused where it is typed, by the same limits', () => {
    expect(typedWeatherSchema.safeParse(WEATHER).success).toBe(true);
    expect(typedWeatherSchema.safeParse({ temperatureC: null, pressureKPa: null, relativeHumidityPct: null }).success).toBe(true);
    for (const [name, change] of WRONG) expect(typedWeatherSchema.safeParse({ ...WEATHER, ...change }).success, name).toBe(false);
    for (const [key, [low, high]] of Object.entries(WEATHER_RANGES))
      for (const value of [low, high]) expect(typedWeatherSchema.safeParse({ ...WEATHER, [key]: value }).success, key).toBe(true);
  });
});

describe('the weather of a moment in the cell', () => {
  const typed = { value: WEATHER, atMs: 0 };
  const readings = (values: Record<string, number>) =>
    Object.entries(values).map(([quantity, value]) => ({ quantity: quantity as 'ambientPressure', value }));
  const now = (values: Record<string, number>, weather: unknown = typed) => weatherNow({ weather } as never, readings(values));

  it('is what is streamed, else what was typed', () => {
    expect(now({ ambientTemperature: 24, ambientPressure: 99_000, relativeHumidity: 30 })).toEqual({
      weather: { temperatureC: 24, pressureKPa: 99, relativeHumidityPct: 30 },
      off: [],
    });
    expect(now({ ambientPressure: 99_000 })).toEqual({ weather: { ...WEATHER, pressureKPa: 99 }, off: [] });
    expect(now({}, null).weather).toEqual({ temperatureC: null, pressureKPa: null, relativeHumidityPct: null });
  });

  it('is not what a sensor says that is off, and that is told', () => {
    expect(now({ relativeHumidity: 103 }).weather.relativeHumidityPct).toBe(100);
    expect(now({ ambientTemperature: -200, ambientPressure: 12, relativeHumidity: 4200 })).toEqual({
      weather: WEATHER,
      off: ['ambientPressure', 'relativeHumidity', 'ambientTemperature'],
    });
    expect(now({ ambientPressure: 984_000 }, null).weather.pressureKPa).toBeNull();
  });

  it('is refused where it is typed wrong; a pull that begins is kept with whatever was read', () => {
    const event = (what: object) => dayEventsSchema.safeParse({ events: [{ id: 'a-name-of-it', at: '2026-05-04T09:00:00Z', what }] });
    for (const [name, change] of WRONG) {
      const refused = event({ kind: 'weather', weather: { ...WEATHER, ...change } });
      expect(refused.error?.issues[0]?.message, name).toMatch(/must lie between -?\d+ and \d+.*check its unit/);
      expect(event({ kind: 'pull-amended', pull: 'p01', weather: { ...WEATHER, ...change } }).success, name).toBe(false);
    }
    expect(event({ kind: 'weather', weather: WEATHER }).success).toBe(true);
    const started = {
      kind: 'pull-started',
      pull: 'p01',
      setup: 'A',
      pullKind: 'measured',
      place: null,
      stamp: {},
      anyway: null,
      cause: 'key',
    };
    const start = { coolantC: null, intakeAirC: null, oilC: null };
    expect(event({ ...started, start, weather: { ...WEATHER, pressureKPa: 984 } }).success).toBe(true);
  });
});
