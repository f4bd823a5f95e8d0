import { describe, expect, it } from 'vitest';
import { benchInputsSchema, evidenceSchema, figureSchema, type BenchInputs } from '@gezeit/contract';
import {
  assumptionsOf,
  checkInputs,
  evidenceFrom,
  FORMULA_TEXTS,
  groupsAlike,
  INSTRUMENTS,
  instrumentById,
  inventedCompressorMap,
  compressorMapCsv,
  formatterFor,
  measure,
  placeOnMap,
  readCompressorMap,
  readTableCsv,
  sweep,
  UNITS,
  whyText,
  writeTableCsv,
  type BenchRow,
  type Field,
  type Instrument,
  type TableField,
} from '../src/index.js';
import { EXAMPLES } from './data/bench-examples.js';

const good = (instrument: Instrument): BenchInputs => EXAMPLES[instrument.id] ?? {};
const read = (id: string, inputs: BenchInputs) => {
  const result = measure(instrumentById(id)!, { ...good(instrumentById(id)!), ...inputs });
  if (!result.reading) throw new Error(JSON.stringify(result.problems));
  return result.reading;
};
const figureOf = (id: string, name: string, inputs: BenchInputs = {}) =>
  read(id, inputs).figures.find((entry) => entry.name === name)!.value!;

describe.each(INSTRUMENTS.map((instrument) => [instrument.id, instrument] as const))('the instrument %s', (_, instrument) => {
  it('reads its example: a sentence, figures in known units, charts without holes, formulas with text', () => {
    const { reading, problems } = measure(instrument, good(instrument));
    expect(problems).toEqual([]);
    expect(reading!.sentence).toMatch(/\.$/);
    const figures = [...reading!.figures, ...(reading!.rows ?? []).flatMap((row) => row.figures)];
    expect(figures.length).toBeGreaterThan(0);
    for (const figure of figures) {
      figureSchema.parse(figure);
      expect(UNITS).toHaveProperty([figure.unit]);
      if (figure.low != null && figure.value !== null) expect(figure.low, figure.label).toBeLessThanOrEqual(figure.value + 1e-12);
      if (figure.high != null && figure.value !== null) expect(figure.high, figure.label).toBeGreaterThanOrEqual(figure.value - 1e-12);
    }
    for (const chart of [...reading!.charts, ...sweep(instrument, good(instrument))]) {
      for (const line of chart.lines) expect(line.y.length, line.name).toBe(line.x.length);
      for (const point of chart.points) expect(Number.isFinite(point.x) && Number.isFinite(point.y)).toBe(true);
    }
    for (const name of instrument.formulas) expect(FORMULA_TEXTS[name].text.length).toBeGreaterThan(5);
  });

  it('says for every field why it matters, and shows its assumptions with a range', () => {
    const walk = (field: Field) => {
      expect(whyText(field, formatterFor()).length, field.label).toBeGreaterThan(4);
      if (field.kind === 'table') field.columns.forEach(walk);
    };
    instrument.fields.forEach(walk);
    for (const { value, range } of assumptionsOf(instrument, {})) {
      expect(value).toMatch(/\d/);
      expect(range).toMatch(/\d.* to .*\d/);
    }
  });

  it('refuses every number that is negative, zero, absent, absurd or none with an explanation, or takes it without breaking', () => {
    for (const [where, inputs] of spoiled(instrument)) {
      const { reading, problems } = measure(instrument, inputs);
      if (reading) {
        for (const figure of [...reading.figures, ...(reading.rows ?? []).flatMap((row) => row.figures)])
          expect(figure.value === null || Number.isFinite(figure.value), `${where}: ${figure.label}`).toBe(true);
      } else {
        expect(problems.length, where).toBeGreaterThan(0);
        for (const { message } of problems) expect(message, where).toMatch(/\w.{8,}\.$/);
      }
    }
  });

  it('says nothing in units that were not chosen, whatever is typed', () => {
    const f = formatterFor({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' });
    const named = instrument.fields.flatMap((field) => [field, ...(field.kind === 'table' ? field.columns : [])]);
    const said: string[] = [...(instrument.cautions?.(f) ?? []), ...named.map((field) => whyText(field, f))];
    for (const inputs of [good(instrument), ...spoiled(instrument).map(([, typed]) => typed)]) {
      const { reading, problems, doubts } = measure(instrument, inputs, f);
      said.push(...problems.flatMap(({ message, short }) => [message, short]), ...doubts);
      if (reading) said.push(reading.sentence, ...reading.warnings);
      said.push(...assumptionsOf(instrument, inputs, f).flatMap(({ value, range }) => [value, range]));
    }
    expect(said.length).toBeGreaterThan(20);
    expect([...new Set(said)].filter((text) => /\d\s(kPa|Pa|kW|°C|K|N·m)(?![\w/·])/.test(text))).toEqual([]);
  });

  it('never takes a number that is none', () => {
    for (const field of instrument.fields.filter((entry) => entry.kind === 'number')) {
      expect(measure(instrument, { ...good(instrument), [field.name]: Number.NaN }).problems.length, field.label).toBeGreaterThan(0);
      expect(measure(instrument, { ...good(instrument), [field.name]: 'seven' }).problems.length, field.label).toBeGreaterThan(0);
    }
  });

  it('becomes evidence that keeps its inputs and can be read again', () => {
    const evidence = evidenceFrom(instrument, good(instrument), { id: 'e1', note: 'n', setup: 'A', section: null });
    const stored = evidenceSchema.parse(JSON.parse(JSON.stringify({ ...evidence, by: 'TS', at: '2026-01-01T00:00:00Z' })));
    expect(measure(instrument, benchInputsSchema.parse(stored.inputs)).reading).toEqual(measure(instrument, good(instrument)).reading);
    expect(() =>
      evidenceFrom(instrument, { ...good(instrument), ...broken(instrument) }, { id: 'e', note: '', setup: null, section: null }),
    ).toThrow();
  });

  it('takes its tables back from the CSV that it writes', () => {
    for (const field of instrument.fields.filter((entry): entry is TableField => entry.kind === 'table')) {
      const rows = (good(instrument)[field.name] ?? field.example?.rows() ?? []) as BenchRow[];
      if (rows.length === 0) continue;
      const back = readTableCsv(field, new TextEncoder().encode(writeTableCsv(field, rows)), 'rows.csv');
      expect(back.length).toBe(rows.length);
      rows.forEach((row, i) => {
        for (const column of field.columns) {
          const [given, got] = [row[column.name] ?? null, back[i]![column.name] ?? null];
          if (typeof given === 'number') expect(got as number).toBeCloseTo(given, 6);
          else if (given !== null) expect(got ?? '').toBe(given);
        }
      });
    }
  });
});

const ABSURD = [-1, 0, 1e12, -1e12, 1e-12, Number.NaN, Number.POSITIVE_INFINITY, null] as const;

/** An instrument's example with one number after the other spoiled, list and table entries included. */
function spoiled(instrument: Instrument): [string, BenchInputs][] {
  const base = good(instrument);
  return instrument.fields.flatMap((field): [string, BenchInputs][] => {
    if (field.kind === 'number') return ABSURD.map((value) => [`${field.name} ${value}`, { ...base, [field.name]: value }]);
    if (field.kind === 'list')
      return [
        ...ABSURD.map((value): [string, BenchInputs] => [`${field.name} ${value}`, { ...base, [field.name]: [value as number] }]),
        [`${field.name} empty`, { ...base, [field.name]: [] }],
      ];
    if (field.kind === 'choice') return [[`${field.name} unknown`, { ...base, [field.name]: 'no such choice' }]];
    if (field.kind !== 'table') return [[`${field.name} absent`, { ...base, [field.name]: null }]];
    const rows = (base[field.name] ?? []) as BenchRow[];
    const [first, ...rest] = rows;
    if (!first) return [[`${field.name} empty`, { ...base, [field.name]: [] }]];
    const numbers = field.columns.filter(({ kind }) => kind === 'number');
    return [
      [`${field.name} empty`, { ...base, [field.name]: [] }],
      ...numbers.flatMap(({ name }) =>
        ABSURD.map((value): [string, BenchInputs] => [
          `${field.name}.${name} ${value}`,
          { ...base, [field.name]: [{ ...first, [name]: value as number }, ...rest] },
        ]),
      ),
    ];
  });
}

function broken(instrument: Instrument): BenchInputs {
  const field = instrument.fields.find((entry) => entry.kind === 'number' || entry.kind === 'table')!;
  return {
    [field.name]: field.kind === 'number' ? Number.NaN : [],
    ...Object.fromEntries(instrument.fields.filter((entry) => entry.kind === 'number').map((entry) => [entry.name, Number.NaN])),
  };
}

describe('air demand', () => {
  it('agrees whether it comes from filling, power or a log', () => {
    const byFilling = figureOf('air-demand', 'airMassFlow', { method: 'displacement', engineSpeed: 4800, bestFillingSpeed: 4800 });
    expect(byFilling).toBeCloseTo(0.95 * (97_000 / (287.042 * 303.15)) * 2e-3 * 40, 4);
    expect(
      figureOf('air-demand', 'airMassFlow', { method: 'power', crankPower: 120_000, powerSpeed: 6000, engineSpeed: 6000 }),
    ).toBeCloseTo((120 * 290 * 12.6) / 3.6e6, 4);
    const logged = [
      { engineSpeed: 6000, airMassFlow: 0.14 },
      { engineSpeed: 4000, airMassFlow: 0.1 },
    ];
    expect(figureOf('air-demand', 'airMassFlow', { method: 'logged', logged, engineSpeed: 5000 })).toBeCloseTo(0.12, 9);
    expect(read('air-demand', { method: 'logged', logged, engineSpeed: 7000 }).warnings[0]).toContain('do not reach');
  });
});

describe('the flow bench', () => {
  const density = 100_000 / (287.042 * 295.15);
  const readings = (item: string, areaCm2: number, role = 'part') =>
    [2500, 4000, 6227].flatMap((depression) =>
      [0.998, 1.002].map((factor) => ({
        role,
        item,
        depression,
        flow: factor * areaCm2 * 1e-4 * Math.sqrt((2 * depression) / density),
        temperature: null,
      })),
    );

  it('takes leakage and the adapter off, and finds the part’s own area', () => {
    const whole = 1 / Math.sqrt(1 / 20 ** 2 + 1 / 50 ** 2) + 0.3;
    const { rows } = read('flow-bench', {
      readings: [...readings('blanked', 0.3, 'leak'), ...readings('adapter', 50.3, 'adapter'), ...readings('duct', whole)],
    });
    const area = rows![0]!.figures[0]!;
    expect(area.value! * 1e4).toBeCloseTo(20, 1);
    expect(area.low!).toBeLessThan(20e-4);
    expect(area.high!).toBeGreaterThan(20e-4);
  });

  it('tells a gain both ways, with its interval, and what it can recognise', () => {
    const reading = read('flow-bench', { readings: [...readings('stock', 20), ...readings('new', 22)] });
    const more = reading.figures.find(({ name }) => name === 'new/moreFlow')!;
    const less = reading.figures.find(({ name }) => name === 'new/lessDepression')!;
    expect(more.value).toBeCloseTo(10, 1);
    expect(less.value).toBeCloseTo(17.36, 1);
    expect(more.low!).toBeGreaterThan(9);
    expect(reading.figures.find(({ name }) => name === 'recognisable')!.value!).toBeGreaterThan(0);
    expect(reading.sentence).toContain('new passes 10.0 % more than stock');
  });

  it('says where leakage is too large, a plate is off, or nothing was repeated', () => {
    const plate = (factor: number) => ({
      role: 'plate',
      item: '',
      depression: 2500,
      flow: factor * 0.6 * Math.PI * 0.025 ** 2 * Math.sqrt(5000 / density),
      temperature: null,
    });
    const warned = (rows: BenchRow[]) => read('flow-bench', { readings: rows }).warnings.join(' ');
    expect(warned([...readings('leaky', 2, 'leak'), ...readings('duct', 20)])).toContain('seal the bench');
    expect(warned([plate(1.05), ...readings('duct', 20), plate(1.05)])).toContain('more than 2 % off');
    expect(warned([plate(1.0), ...readings('duct', 20), plate(1.03)])).toContain('drifted');
    expect(warned([readings('duct', 20)[0]!])).toContain('Nothing was read twice');
    const { problems } = measure(instrumentById('flow-bench')!, { readings: [...readings('x', 30, 'leak'), ...readings('duct', 20)] });
    expect(problems[0]!.message).toContain('leakage is larger');
  });
});

describe('another power level, opening, meter and leak', () => {
  it('marks an extrapolation beyond 1.2 times the measured flow', () => {
    expect(read('power-level', { flow: 0.15, otherFlow: 0.179 }).warnings).toEqual([]);
    expect(read('power-level', { flow: 0.15, otherFlow: 0.2 }).warnings[0]).toContain('extrapolation');
  });

  it('gives the change of flow with an interval that grows with the scatter', () => {
    const width = (after: number[]) => {
      const change = read('opening', { before: [8, 8.1, 8.2], after, areaAfter: 48e-4 }).figures.find(({ name }) => name === 'change')!;
      expect(change.low!).toBeLessThan(change.value!);
      return change.high! - change.low!;
    };
    expect(width([8, 8.2, 8.4])).toBeLessThan(width([7, 8.2, 9.4]));
  });

  it('reads less air through a wider bore, and leaner', () => {
    expect(figureOf('meter-housing', 'shift', { newDiameter: 0.075 })).toBeLessThan(0);
    expect(figureOf('meter-housing', 'lambda', { newDiameter: 0.075 })).toBeGreaterThan(0.88);
    expect(figureOf('meter-housing', 'shift', { newDiameter: 0.07 })).toBeCloseTo(0, 9);
  });

  it('begins at 70 kPa, goes further only with water, and refuses more than 150 kPa in every field', () => {
    const leak = instrumentById('leak-test')!;
    const problem = (inputs: BenchInputs) => measure(leak, { ...good(leak), ...inputs }).problems[0]?.message;
    const rows = (kPa: number) => [0, 60, 120].map((time) => ({ time, pressure: 1000 * kPa - time, temperature: 20 }));
    expect(leak.fields.find(({ name }) => name === 'testPressure')).toMatchObject({ value: 70_000 });
    expect(problem({ decay: rows(70) })).toBeUndefined();
    expect(problem({ testPressure: 100_000 })).toContain('With air it goes up to 70 kPa only');
    expect(problem({ decay: rows(90) })).toContain('With air it goes up to 70 kPa only');
    expect(problem({ filled: 'water', method: 'immersion', testPressure: 140_000 })).toBeUndefined();
    expect(problem({ filled: 'water' })).toContain('decay tells no leak rate');
    const all: Field[] = leak.fields.flatMap((field): Field[] => (field.kind === 'table' ? [...field.columns] : [field]));
    const pressures = all.filter((field) => field.kind === 'number' && field.unit === 'kPa');
    for (const field of pressures.filter(({ name }) => name !== 'ambientPressure'))
      expect(field, field.name).toMatchObject({ atMost: 150_000 });
    for (const filled of ['air', 'water']) {
      expect(problem({ filled, testPressure: 151_000 })).toContain('150 kPa');
      expect(problem({ filled, operating: 151_000 })).toContain('150 kPa');
      expect(problem({ filled, decay: rows(152) })).toContain('150 kPa');
    }
    expect(read('leak-test', { method: 'immersion', bubbles: 'lower hose clamp' }).sentence).toContain('lower hose clamp');
  });

  it('condenses more in damper air, and marks the region where it does', () => {
    const water = (humidity: number) => figureOf('condensation', 'water', { humidity, coolerOut: 30 });
    expect(water(0.95)).toBeGreaterThan(water(0.8));
    expect(water(0.1)).toBe(0);
    const [chart] = sweep(instrumentById('condensation')!, {});
    const cells = chart!.region!.risk.flat();
    expect(cells).toContain(0);
    expect(cells).toContain(1);
  });

  it('says that there is nothing to gain where the charge is not hot', () => {
    const coolers = [{ name: 'stock', chargeOut: 33, drop: 7000, faceArea: null, transfer: null }];
    expect(read('cooler', { coolers, coldIn: 28 }).sentence).toContain('next to nothing');
  });
});

describe('the compressor map', () => {
  const map = inventedCompressorMap();

  it('comes back from its CSV, other units and marks included', () => {
    const back = readCompressorMap(new TextEncoder().encode(compressorMapCsv(map)), 'map.csv');
    expect(back.points).toEqual(map.points);
    expect(back.reference).toEqual(map.reference);
    const other =
      'reference temperature [°C];15\nshaft speed [rpm];corrected flow [g/s];pressure ratio;efficiency [%]\n90000;60,5;1,5;70\n90000;90;1,4;65\n120000;80;2,1;72\n120000;130;1,8;66\n';
    const read = readCompressorMap(new TextEncoder().encode(other), 'other.csv');
    expect(read.reference.temperatureK).toBeCloseTo(288.15, 9);
    expect(read.points[0]).toEqual({ speedRpm: 90_000, flowKgS: 0.0605, ratio: 1.5, efficiency: 0.7 });
  });

  it('refuses what is none, with the place', () => {
    const bytes = (text: string) => new TextEncoder().encode(text);
    expect(() => readCompressorMap(bytes('a,b\n1,2\n'), 'x.csv')).toThrow(/no compressor map/);
    expect(() => readCompressorMap(bytes('speed [rpm],flow [kg/s],ratio,efficiency\n90000,oops,1.5,0.7\n'), 'x.csv')).toThrow(/no number/);
    expect(() => readCompressorMap(bytes('speed [rpm],flow [kg/s],ratio,efficiency\n90000,0.1,1.5,0.7\n'), 'x.csv')).toThrow(
      /two speed lines/,
    );
  });

  it('finds its own points again, and says when one leaves it', () => {
    const middle = map.points.filter(({ speedRpm }) => speedRpm === 130_000)[3]!;
    const place = placeOnMap(map, middle.flowKgS, middle.ratio);
    expect(place.inside).toBe(true);
    expect(place.efficiency!).toBeCloseTo(middle.efficiency, 1);
    expect(place.speedRpm! / 130_000).toBeCloseTo(1, 1);
    expect(placeOnMap(map, 0.01, middle.ratio).edge).toContain('surge');
    expect(placeOnMap(map, 0.5, middle.ratio).edge).toContain('choke');
    expect(placeOnMap(map, 0.15, 4).edge).toContain('over-speed');
  });
});

describe('tables from CSV', () => {
  const table = instrumentById('flow-bench')!.fields.find((field): field is TableField => field.kind === 'table')!;
  const rows = (text: string) => readTableCsv(table, new TextEncoder().encode(text), 'sheet.csv');

  it('take other units, marks, orders and unknown columns', () => {
    const [row] = rows('Flow (CFM);Operator;Depression (inH2O);Part;What\n120,5;NN;25;snorkel;check plate\n');
    expect(row).toMatchObject({ role: 'plate', item: 'snorkel', temperature: null });
    expect(row!['depression'] as number).toBeCloseTo(6227.2, 0);
    expect(row!['flow'] as number).toBeCloseTo(0.05687, 4);
  });

  it.each([
    ['', /empty/],
    ['nothing,here\n1,2\n', /No row names/],
    ['Part,What\nduct,part\n', /Depression/],
    ['Depression [kPa],Flow [m³/h]\n2.5,\n', /missing/],
    ['Depression [kPa],Flow [m³/h]\n2.5,x\n', /no number/],
    ['Depression [furlong],Flow [m³/h]\n2.5,1\n', /no unit/],
    ['Depression [K],Flow [m³/h]\n2.5,1\n', /another kind/],
    ['What,Depression [kPa],Flow [m³/h]\nwhistle,2.5,1\n', /none of/],
  ])('refuse “%s” with the place', (text, message) => {
    expect(() => rows(text)).toThrow(message);
  });
});

it('doubts what is unusual without refusing it', () => {
  const { problems, doubts } = checkInputs(instrumentById('air-demand')!.fields, { displacement: 12e-3 });
  expect(problems).toEqual([]);
  expect(doubts[0]).toContain('Displacement of 12 L is unusual');
});

describe('readings that were taken alike', () => {
  it('are told by their nearness: no edge falls between two that lie 0.1 % apart, wherever they lie', () => {
    for (let at = 1000; at < 12_000; at *= 1.0037) {
      const [a, b, c] = groupsAlike([at * 1.001, at, at * 1.2]);
      expect(a, `${at} Pa`).toBe(b);
      expect(c).not.toBe(a);
    }
  });

  it('span 5 % at most, are numbered upwards, and nothing is no group', () => {
    const sweep = Array.from({ length: 60 }, (_, i) => 1000 * 1.01 ** i);
    const groups = groupsAlike(sweep);
    for (const group of new Set(groups)) {
      const own = sweep.filter((_, i) => groups[i] === group);
      expect(Math.max(...own) / Math.min(...own)).toBeLessThanOrEqual(1.05 + 1e-9);
    }
    expect([...groups].sort((a, b) => a - b)).toEqual(groups);
    expect(groupsAlike([])).toEqual([]);
  });
});

describe('a compressor on the crankshaft', () => {
  it.each(['compressor', 'charge-volume'])('is answered without the words of a turbine: %s', (id) => {
    const words = (drive: string) => {
      const { sentence, warnings, rows } = read(id, { drive });
      return JSON.stringify([sentence, warnings, rows]);
    };
    expect(words('crankshaft')).not.toMatch(/turbine|wastegate|boost held/i);
    expect(words('turbine')).toMatch(/turbine/i);
  });

  it('does not hold the boost: a kilopascal before it costs as much air', () => {
    const [row] = read('compressor', { drive: 'crankshaft' }).rows!;
    const [other] = read('compressor', { drive: 'turbine' }).rows!;
    const of = (figures: readonly { name: string; value: number | null }[], name: string) =>
      figures.find((entry) => entry.name === name)?.value ?? null;
    expect(of(row!.figures, 'costAir')!).toBeLessThan(-0.9);
    expect(of(row!.figures, 'costAir')!).toBeGreaterThan(-1.3);
    expect(of(other!.figures, 'costAir')).toBeNull();
    expect(of(row!.figures, 'shaft')).toBe(of(other!.figures, 'shaft'));
  });
});
