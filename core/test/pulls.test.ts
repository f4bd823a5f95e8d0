import type { Bundle } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { analyse, dayOrder, GezeitError, knownResets, PLAIN_FORMATTER, readLog, withWords, type LogTable } from '../src/index.js';
import {
  bundleOfDay,
  driveDay,
  dynoDevice,
  ecuDevice,
  filesOf,
  meanOverSpeed,
  scheduleOf,
  tablesOf,
  type DaySpec,
  type DrivenPull,
  type Mishap,
  NATURAL_PICKUP,
  STOCK_NATURAL,
  STOCK_TURBO,
  TURBO_ESTATE,
} from '../src/simulate/index.js';

const CALM = {
  runToRun: 0.002,
  boostWander: 0.001,
  driftPerHour: 0.001,
  walkAtSwap: 0,
  weatherPerHour: { temperatureK: 0, pressurePa: 0, humidity: 0 },
};

/** What a check says of a pull; null where it is silent. */
function detailOf({ flags }: ReturnType<typeof analyse>['pulls'][number], flag: string): string | null {
  const found = flags.find((entry) => entry.flag === flag);
  return found ? withWords({ detail: '', said: { detail: [found.said] } }, PLAIN_FORMATTER).detail : null;
}

function day(
  order: string,
  change: (spec: DaySpec) => void = () => {},
  natural = false,
): { bundle: Bundle; tables: Map<string, LogTable>; driven: DrivenPull[]; files: Map<string, Uint8Array> } {
  const stock = natural ? STOCK_NATURAL : STOCK_TURBO;
  const spec: DaySpec = {
    seed: 5,
    engine: natural ? NATURAL_PICKUP : TURBO_ESTATE,
    setups: { A: stock, B: stock },
    schedule: scheduleOf(
      order,
      () => 5,
      () => 20,
      true,
    ),
    scatter: CALM,
    weather: { temperatureC: 20, pressurePa: 99_500, relativeHumidity: 0.5 },
    oilColdK: 3,
  };
  change(spec);
  const driven = driveDay(spec);
  const simulated = bundleOfDay(
    {
      programme: { title: 't', question: '', metric: 'meanPower', bandRpm: [4400, 6600], smallestGainPct: 1, correction: 'NONE' },
      vehicle: { name: 'v', aspiration: natural ? 'na' : 'turbo', boostControl: natural ? 'none' : 'absolute', ignition: 'spark' },
      cell: { name: 'c', powerAt: 'wheel' },
      setups: [
        { id: 'A', name: 'A', reference: true, parts: ['a'], state: { tune: '1' } },
        { id: 'B', name: 'B', parts: ['b'], state: { tune: '1' } },
      ],
      startedAt: '2026-01-05T08:00:00Z',
    },
    driven,
    [
      { dialect: 'bracketed', device: (i) => ecuDevice(10 + 500 * i, !natural) },
      { dialect: 'two-storey', device: () => dynoDevice(0.8) },
    ],
    5,
  );
  return { bundle: simulated.bundle, tables: tablesOf(simulated), driven, files: filesOf(simulated) };
}

const withMishap = (index: number, mishap: Mishap) => (spec: DaySpec) => Object.assign(spec.schedule[index]!, { mishap });
const flagsAt = (index: number, mishap: Mishap, order = 'AAABBB') => {
  const { bundle, tables } = day(order, withMishap(index, mishap));
  return analyse(bundle, tables).findings.pulls[index]!;
};

describe('finding pulls', () => {
  it('finds the window and the band mean of a simulated sweep, devices on clocks of their own', () => {
    const { bundle, tables, driven } = day('AABB');
    const { findings, pulls } = analyse(bundle, tables);
    findings.pulls.forEach((pull, i) => {
      const { sweep } = driven[i]!;
      expect(pull.startS! - (10 + 500 * i)).toBeCloseTo(sweep.fullThrottleS, 0);
      expect(pull.endS! - (10 + 500 * i)).toBeCloseTo(sweep.liftS, 0);
      const truth = meanOverSpeed(sweep, [4400, 6600], ({ wheelPowerW }) => wheelPowerW) / 1000;
      expect(Math.abs(pull.meanPowerKW! / truth - 1)).toBeLessThan(0.003);
      const dyno = pulls[i]!.curve!.alignments.find(({ file }) => file.includes('dyno'))!;
      expect(dyno.how).toBe('engine-speed');
      expect(dyno.offsetS).toBeCloseTo(0.8 - (10 + 500 * i), 1);
    });
  });

  it('gives the same findings over text files as over the records themselves', () => {
    const { bundle, tables, files } = day('AB');
    const read = new Map([...files].map(([file, bytes]) => [file, readLog(bytes, { file })]));
    const [a, b] = [analyse(bundle, tables).findings, analyse(bundle, read).findings];
    a.pulls.forEach((pull, i) => expect(b.pulls[i]!.meanPowerKW).toBeCloseTo(pull.meanPowerKW!, 6));
    expect(b.comparisons[0]!.levelled!.pct).toBeCloseTo(a.comparisons[0]!.levelled!.pct, 4);
  });

  it('aligns a dyno that knows roller speed alone, and a companion without any speed with a warning', () => {
    const { bundle, tables } = day('AB');
    const before = analyse(bundle, tables).findings.pulls[1]!;
    for (const [file, table] of tables)
      if (file.includes('dyno'))
        tables.set(file, { ...table, columns: table.columns.filter(({ quantity }) => quantity !== 'engineSpeed') });
    const byRoller = analyse(bundle, tables);
    expect(byRoller.pulls[1]!.curve!.alignments[1]!.how).toBe('roller-speed');
    expect(Math.abs(byRoller.findings.pulls[1]!.meanPowerKW! / before.meanPowerKW! - 1)).toBeLessThan(0.01);
  });

  it('puts a box without speed or throttle where its reading or a hand has put it, and nowhere without', () => {
    const { bundle, tables } = day('AB');
    const boxed = (said: Partial<(typeof bundle.pulls)[number]['logs'][number]>) => {
      const pulls = bundle.pulls.map((pull) => ({ ...pull, logs: [...pull.logs, { file: `${pull.id}-box`, device: 'daq', ...said }] }));
      const all = new Map(tables);
      for (const { id, logs } of bundle.pulls) {
        const ecu = tables.get(logs[0]!.file)!;
        const columns = ecu.columns
          .filter(({ quantity }) => quantity === 'intakeAirTemperature')
          .map((column) => ({ ...column, quantity: 'inletTemperature' as const }));
        all.set(`${id}-box`, { ...ecu, file: `${id}-box`, device: 'daq', timeS: ecu.timeS!.map((at) => at + 77), columns });
      }
      const { pulls: analysed } = analyse({ ...bundle, pulls }, all);
      return analysed.map(({ curve }) => ({
        alignment: curve!.alignments.find(({ file }) => file.endsWith('-box'))!,
        used: curve!.channels.has('inletTemperature'),
      }));
    };
    expect(boxed({})[1]).toMatchObject({ alignment: { how: expect.stringMatching(/^same-/) }, used: false });
    expect(boxed({ offsetS: 77, how: 'step', withinS: 0.2 })[1]).toMatchObject({
      alignment: { how: 'step', offsetS: 77, residualS: 0.2 },
      used: true,
    });
    expect(boxed({ offsetS: 77, how: 'hand' })[0]).toMatchObject({ alignment: { how: 'hand', offsetS: 77 }, used: true });
    // By clocks, order or assumption nothing is known to a sample.
    for (const how of ['clock', 'order', 'assumed', 'anything']) expect(boxed({ offsetS: 77, how })[0]!.used).toBe(false);
  });

  it('a hand stands before what the logs show, and moves what they hold over engine speed', () => {
    const { bundle, tables } = day('AB');
    const shifted = (offsetS: number | null) => {
      const pulls = bundle.pulls.map((pull, i) =>
        i === 0
          ? pull
          : {
              ...pull,
              logs: pull.logs.map((log) => (log.file.includes('dyno') && offsetS !== null ? { ...log, offsetS, how: 'hand' } : log)),
            },
      );
      return analyse({ ...bundle, pulls }, tables);
    };
    const plain = shifted(null);
    const found = plain.pulls[1]!.curve!.alignments.find(({ file }) => file.includes('dyno'))!.offsetS;
    expect(shifted(found).findings.pulls[1]!.meanPowerKW! / plain.findings.pulls[1]!.meanPowerKW!).toBeCloseTo(1, 2);
    // Half a second later in the record is at a higher speed: the peak comes at a lower one.
    const peakRpm = (state: typeof plain) => state.findings.pulls[1]!.peakPowerRpm!;
    expect(peakRpm(plain) - peakRpm(shifted(found + 0.5))).toBeGreaterThan(50);
    expect(shifted(found + 0.5).findings.pulls[0]!.meanPowerKW).toBeCloseTo(plain.findings.pulls[0]!.meanPowerKW!, 9);
  });

  it('flags with both values where two devices read one quantity further apart than their sensors allow', () => {
    const { bundle, tables } = day('AB');
    const twice = (apartK: number) => {
      const all = new Map(tables);
      for (const { logs } of bundle.pulls) {
        const [ecu, dyno] = [tables.get(logs[0]!.file)!, tables.get(logs[1]!.file)!];
        const source = ecu.columns.find(({ quantity }) => quantity === 'intakeAirTemperature')!;
        const shift = dyno.timeS![0]! - ecu.timeS![0]!;
        const values = dyno.timeS!.map((at) => {
          const i = ecu.timeS!.findIndex((own) => own >= at - shift);
          return (i < 0 ? source.values.at(-1)! : source.values[i]!) + apartK;
        });
        all.set(dyno.file, { ...dyno, columns: [...dyno.columns, { ...source, name: 'Air', values }] });
      }
      return detailOf(analyse(bundle, all).pulls[0]!, 'devices-contradict');
    };
    expect(twice(0)).toBeNull();
    expect(twice(12)).toMatch(/^Intake air.*ecu says [\d.]+.°C over the sweep, dyno [\d.]+.°C, further apart than their sensors allow/u);
  });

  it('assigns the sweeps of one file to the pulls that list it, and asks where the count differs', () => {
    const { bundle, tables } = day('AB');
    const joined = joinTables(
      'ecu',
      [...tables.values()].filter(({ file }) => file.includes('ecu')),
    );
    const dyno = joinTables(
      'dyno',
      [...tables.values()].filter(({ file }) => file.includes('dyno')),
    );
    const shared = new Map([
      ['ecu', joined],
      ['dyno', dyno],
    ]);
    for (const pull of bundle.pulls)
      pull.logs = [
        { file: 'ecu', device: 'ecu' },
        { file: 'dyno', device: 'dyno' },
      ];
    const { findings } = analyse(bundle, shared);
    expect(findings.pulls.every(({ meanPowerKW }) => meanPowerKW !== null)).toBe(true);
    bundle.pulls.pop();
    expect(() => analyse(bundle, shared)).toThrow(/3 pulls list it|pulls list it/);
  });

  it('takes a throttle that tops out at 85 % for full throttle, and a dyno record with a run through the gears by its largest sweep', () => {
    const { bundle, tables } = day('AB');
    const before = analyse(bundle, tables).findings.pulls[1]!;
    for (const [file, table] of tables) {
      if (file.includes('ecu')) {
        const columns = table.columns
          .filter(({ quantity }) => quantity !== 'pedal')
          .map((column) => (column.quantity === 'throttle' ? { ...column, values: column.values.map((value) => 0.85 * value) } : column));
        tables.set(file, { ...table, columns });
      } else tables.set(file, withGearRun(table));
    }
    const after = analyse(bundle, tables).findings.pulls[1]!;
    expect(after.startS).toBeCloseTo(before.startS!, 1);
    expect(after.meanPowerKW).toBeCloseTo(before.meanPowerKW!, 1);
  });

  it.each([5e11, 1e300, -4e9, Number.POSITIVE_INFINITY])(
    'a broken cell of engine speed (%d rpm) is a blank, is told, and holds nobody up',
    (broken) => {
      const { bundle, tables } = day('AABB');
      const before = analyse(bundle, tables);
      const { file } = bundle.pulls[1]!.logs.find(({ device }) => device === 'dyno')!;
      const table = tables.get(file)!;
      for (const share of [0.3, 0.5, 0.7]) {
        const columns = table.columns.map((column) => {
          if (column.quantity !== 'engineSpeed') return column;
          const values = Float64Array.from(column.values);
          values[Math.round(share * values.length)] = broken;
          return { ...column, values };
        });
        const began = performance.now();
        const after = analyse(bundle, new Map(tables).set(file, { ...table, columns }));
        expect(performance.now() - began).toBeLessThan(5000);
        const pct = ({ findings }: typeof after) => findings.comparisons[0]!.levelled!.pct;
        expect(Math.abs(pct(after) - pct(before))).toBeLessThan(0.1);
        const tellsOf = ({ findings }: typeof after) =>
          findings.pulls.filter(({ warnings }) => warnings.some((text) => text.includes('one reading of engine speed beyond')));
        expect(tellsOf(before)).toEqual([]);
        // An infinity is no number to begin with.
        if (Number.isFinite(broken) && share === 0.5) expect(tellsOf(after).map(({ id }) => id)).toEqual([bundle.pulls[1]!.id]);
      }
    },
  );

  it('refuses a pull none of whose logs has engine speed', () => {
    const { bundle, tables } = day('AB');
    for (const [file, table] of tables)
      tables.set(file, { ...table, columns: table.columns.filter(({ quantity }) => quantity !== 'engineSpeed') });
    expect(() => analyse(bundle, tables)).toThrow(GezeitError);
  });
});

function joinTables(file: string, tables: LogTable[]): LogTable {
  let shift = 0;
  const timeS: number[] = [];
  for (const table of tables) {
    const start = table.timeS![0]!;
    for (const time of table.timeS!) timeS.push(time - start + shift);
    shift = timeS.at(-1)! + 60;
  }
  const columns = tables[0]!.columns.map((column, c) => ({
    ...column,
    values: Float64Array.from(tables.flatMap((table) => Array.from(table.columns[c]!.values))),
  }));
  return { ...tables[0]!, file, timeS: Float64Array.from(timeS), columns, rowCount: timeS.length };
}

/** The record with a shorter rise of engine speed before it, as from changing up through the gears. */
function withGearRun(table: LogTable): LogTable {
  const before = 300;
  const step = table.timeS![1]! - table.timeS![0]!;
  const timeS = Float64Array.from({ length: before + table.rowCount }, (_, i) => table.timeS![0]! + (i - before) * step);
  const columns = table.columns.map((column) => {
    const run = Float64Array.from({ length: before }, (_, i) =>
      column.quantity === 'engineSpeed' ? 1500 + Math.min(i, 200) * 17 - Math.max(0, i - 200) * 29 : Number.NaN,
    );
    return { ...column, values: Float64Array.from([...run, ...column.values]) };
  });
  return { ...table, timeS, columns, rowCount: timeS.length };
}

describe('flags', () => {
  it.each([
    ['slip', { kind: 'slip', atRpm: 5200 }, true],
    ['short', { kind: 'late-lift', atRpm: 5900 }, true],
    ['throttle-closed', { kind: 'throttle-closed', atRpm: 5500 }, true],
    ['boost-low', { kind: 'soft', atRpm: 0 }, true],
    ['spike', { kind: 'spike', atRpm: 5400 }, false],
  ] as const)('%s is seen on the pull that has it', (flag, mishap, leavesOut) => {
    const pull = flagsAt(2, mishap);
    expect(pull.flags).toContain(flag);
    expect(pull.status).toBe(leavesOut ? 'excluded' : 'used');
    if (leavesOut) expect(pull.reasons).toContain(flag);
  });

  /** The day with something changed in every table of one device, by the pull that it belongs to. */
  const changed = (source: ReturnType<typeof day>, device: string, change: (table: LogTable, index: number) => LogTable) => {
    const tables = new Map(source.tables);
    source.bundle.pulls.forEach((pull, i) =>
      pull.logs.filter((log) => log.device === device).forEach(({ file }) => tables.set(file, change(tables.get(file)!, i))),
    );
    return { ...source, tables };
  };
  const rollerDevice = (source: ReturnType<typeof day>) =>
    source.bundle.pulls[0]!.logs.find(({ file }) => source.tables.get(file)!.columns.some(({ quantity }) => quantity === 'rollerSpeed'))!
      .device;

  it('slip is seen where the engine control alone has the engine speed', () => {
    const slipped = day('AAABBB', withMishap(2, { kind: 'slip', atRpm: 5200 }));
    const device = rollerDevice(slipped);
    const blind = changed(slipped, device, (table) => ({
      ...table,
      columns: table.columns.map((column) => (column.quantity === 'engineSpeed' ? { ...column, quantity: null } : column)),
    }));
    const { pulls } = analyse(blind.bundle, blind.tables).findings;
    expect(pulls.map(({ flags }) => flags.includes('slip'))).toEqual(pulls.map((_, i) => i === 2));
  });

  it('a torque converter that slips alike on every pull is no slip', () => {
    const steady = day('ABBA');
    const converter = changed(steady, rollerDevice(steady), (table) => {
      const speed = table.columns.find(({ quantity }) => quantity === 'engineSpeed')!.values;
      return {
        ...table,
        columns: table.columns.map((column) =>
          column.quantity === 'rollerSpeed'
            ? { ...column, values: column.values.map((value, i) => value * (0.91 + 0.07 * Math.min(1, speed[i]! / 6600))) }
            : column,
        ),
      };
    });
    const { findings } = analyse(converter.bundle, converter.tables);
    expect(findings.pulls.flatMap(({ flags }) => flags)).toEqual([]);
    expect(findings.comparisons[0]!.verdict.power).not.toBe('withheld');
  });

  it('a masked spike does not move the mean', () => {
    const clean = day('AAABBB');
    const spiked = day('AAABBB', withMishap(2, { kind: 'spike', atRpm: 5400 }));
    const mean = ({ bundle, tables }: typeof clean) => analyse(bundle, tables).findings.pulls[2]!.meanPowerKW!;
    expect(Math.abs(mean(spiked) / mean(clean) - 1)).toBeLessThan(0.0005);
  });

  it('no flag on a clean day', () => {
    const { bundle, tables } = day('ABBA');
    expect(analyse(bundle, tables).findings.pulls.flatMap(({ flags }) => flags)).toEqual([]);
  });

  it('a flag on every pull of a setup leaves nothing out but clouds the verdict; short ones shrink the band for both', () => {
    const { bundle, tables } = day('AABB', (spec) =>
      spec.schedule.forEach((pull) => pull.setup === 'B' && (pull.mishap = { kind: 'late-lift', atRpm: 6200 })),
    );
    const { findings } = analyse(bundle, tables);
    expect(findings.pulls.filter(({ status }) => status === 'used').length).toBe(4);
    const [comparison] = findings.comparisons;
    expect(comparison!.bandUsedRpm[1]).toBeLessThan(6250);
    expect(comparison!.verdict.power).not.toBe('withheld');
    expect(comparison!.notes.join()).toContain('stop short');
  });

  it('a throttle that the engine closes on every pull of a setup cuts the band below the first closing; the whole band stands beside it as driven', () => {
    const { bundle, tables } = day('AABB', (spec) =>
      spec.schedule.forEach((pull) => pull.setup === 'B' && (pull.mishap = { kind: 'throttle-closed', atRpm: 6450 })),
    );
    const [comparison] = analyse(bundle, tables).findings.comparisons;
    expect(comparison!.bandUsedRpm[1]).toBeLessThan(6150);
    const capped = comparison!.confounds.find(({ code }) => code === 'throttle-closed')!;
    expect(capped.withholds).toEqual([]);
    expect(comparison!.verdict.power).not.toBe('withheld');
    // The same setup: whatever the free part says, the car as driven lost at the top.
    expect(comparison!.wholeBand!.pct).toBeLessThan(comparison!.levelled!.pct);
    expect(comparison!.verdict.why).toContain('as driven');
    expect(JSON.stringify(comparison)).not.toContain('at least');
  });

  it('too little of the band left withholds', () => {
    const { bundle, tables } = day('AABB', (spec) =>
      spec.schedule.forEach((pull) => pull.setup === 'B' && (pull.mishap = { kind: 'late-lift', atRpm: 5300 })),
    );
    const [comparison] = analyse(bundle, tables).findings.comparisons;
    expect(comparison!.verdict).toMatchObject({ power: 'withheld', why: expect.stringContaining('of the asked band') });
  });

  it('what the bundle says overrules the rules both ways', () => {
    const { bundle, tables } = day('AAABBB', withMishap(2, { kind: 'slip', atRpm: 5200 }));
    bundle.pulls[2]!.excluded = false;
    bundle.pulls[3]!.excluded = 'operator sneezed';
    const { pulls } = analyse(bundle, tables).findings;
    expect(pulls[2]!.status).toBe('used');
    expect(pulls[3]).toMatchObject({ status: 'excluded', reasons: ['operator sneezed'] });
  });
});

describe('the day', () => {
  it('counts pulls of every kind since the start, the last swap and a reset', () => {
    const { bundle } = day('AABB');
    const places = dayOrder(bundle.pulls);
    const list = bundle.pulls.map(({ id }) => places.get(id)!);
    expect(list.map(({ pullsBefore }) => pullsBefore)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(list.map(({ pullsSinceSwap }) => pullsSinceSwap)).toEqual([0, 1, 2, 0, 1, 2]);
    bundle.pulls[3]!.ecuReset = true;
    expect(bundle.pulls.map(({ id }) => dayOrder(bundle.pulls).get(id)!.pullsBefore)).toEqual([0, 1, 2, 0, 1, 2]);
    expect(knownResets(bundle, dayOrder(bundle.pulls))).toBe('swap');
    bundle.pulls[0]!.ecuReset = true;
    bundle.pulls[3]!.ecuReset = false;
    expect(knownResets(bundle, dayOrder(bundle.pulls))).toBe('day');
  });

  it('a gap of more than six hours starts a new day', () => {
    const { bundle } = day('AB');
    bundle.pulls.at(-1)!.startedAt = '2026-01-06T09:00:00Z';
    expect(new Set([...dayOrder(bundle.pulls).values()].map(({ day: name }) => name)).size).toBe(2);
  });
});

describe('verdicts', () => {
  const powerOf = (change: (spec: DaySpec) => void, order = 'ABBA') => {
    const { bundle, tables } = day(order, change);
    return { bundle, tables, comparison: analyse(bundle, tables).findings.comparisons[0]! };
  };

  it('block order and single pulls are said', () => {
    expect(powerOf(() => {}, 'AABB').comparison.confounds.map(({ code }) => code)).toContain('order-confounded');
    expect(powerOf(() => {}, 'AB').comparison.confounds.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['order-confounded', 'single-pull']),
    );
    expect(powerOf(() => {}).comparison.confounds).toEqual([]);
  });

  it('a gain that more boost made is withheld', () => {
    const { comparison } = powerOf((spec) => (spec.setups['B'] = { ...STOCK_TURBO, tune: { boostFactor: 1.03, sparkDeg: 0 } }));
    expect(comparison.verdict.power).toBe('withheld');
    expect(comparison.confounds.map(({ code }) => code)).toContain('boost-changed');
  });

  it.each(['tune', 'fuel', 'gear', 'driveMode', 'tyres', 'bonnet', 'fan', 'learned', 'boostTargetKPa'])(
    'a changed %s withholds, one that only one setup states does not',
    (key) => {
      const { bundle, tables } = day('ABBA');
      bundle.setups[0]!.state[key] = 'x';
      delete bundle.setups[1]!.state[key];
      expect(analyse(bundle, tables).findings.comparisons[0]!.verdict.power).not.toBe('withheld');
      bundle.setups[1]!.state[key] = 'y';
      const changed = analyse(bundle, tables).findings.comparisons[0]!;
      expect(changed.verdict.power).toBe('withheld');
      expect(changed.levelled).not.toBeNull();
    },
  );

  /** What the setups' logs say of the gear: the roller's speed times a factor, or the gear's own channel. */
  function driven(of: Record<string, { factor?: number; gear?: number }>) {
    const { bundle, tables } = day('ABBA');
    for (const { setup, logs } of bundle.pulls)
      for (const { file } of logs) {
        const { columns, rowCount } = tables.get(file)!;
        const { factor, gear } = of[setup]!;
        for (const column of columns)
          if (column.quantity === 'rollerSpeed' || column.quantity === 'vehicleSpeed')
            column.values = column.values.map((value) => value * (factor ?? 1));
        if (gear !== undefined && columns.some(({ quantity }) => quantity === 'engineSpeed'))
          columns.push({ ...columns[0]!, name: 'Gear', quantity: 'gear', unitText: null, values: new Float64Array(rowCount).fill(gear) });
      }
    return analyse(bundle, tables).findings.comparisons[0]!;
  }

  it.each([
    ['the gears that are logged', { A: { gear: 4 }, B: { gear: 3 } }, /gears 4 and 3/],
    ['the speeds', { A: {}, B: { factor: 0.78 } }, /different gears.*22/],
    ['the speeds, the other way round', { A: { factor: 0.85 }, B: {} }, /different gears/],
  ])('other gears withhold, as told by %s', (_, of, words) => {
    const { verdict, confounds } = driven(of);
    expect(verdict.power).toBe('withheld');
    expect(confounds.find(({ code }) => code === 'gear-changed')!.detail).toMatch(words);
  });

  it.each([
    ['tyres that are a little smaller', { A: {}, B: { factor: 0.95 } }],
    ['one gear that is logged, whatever the speeds', { A: { gear: 4 }, B: { gear: 4, factor: 0.8 } }],
  ])('but not %s', (_, of) => {
    expect(driven(of).confounds.map(({ code }) => code)).not.toContain('gear-changed');
  });

  it('a changed air meter housing is said and asks for a mixture check, but withholds nothing', () => {
    const { bundle, tables } = day('ABBA');
    bundle.setups[0]!.state['airMeter'] = 'stock housing';
    bundle.setups[1]!.state['airMeter'] = 'wider housing';
    const [comparison] = analyse(bundle, tables).findings.comparisons;
    expect(comparison!.confounds).toMatchObject([
      { code: 'air-meter-changed', withholds: [], detail: expect.stringContaining('check the mixture') },
    ]);
    expect(comparison!.verdict.power).not.toBe('withheld');
  });

  it('says how many further pulls would resolve it, or that this cell cannot', () => {
    const { bundle, tables } = day('AB');
    bundle.programme.smallestGainPct = 1.3;
    const [comparison] = analyse(bundle, tables).findings.comparisons;
    expect(comparison!.verdict.power).toBe('not-resolved');
    expect(comparison!.morePulls! % 4).toBe(0);
    expect(comparison!.morePulls!).toBeGreaterThan(0);
    bundle.programme.smallestGainPct = 0.05;
    expect(analyse(bundle, tables).findings.comparisons[0]).toMatchObject({
      morePulls: null,
      morePullsReason: expect.stringContaining('Not with this cell'),
    });
  });

  it('brings a corrected column back before it corrects again', () => {
    const { bundle, tables } = day('ABBA', () => {}, true);
    bundle.programme.correction = 'SAE_J1349';
    const plain = analyse(bundle, tables).findings.pulls[1]!;
    for (const [file, table] of tables) {
      const columns = table.columns.map((column) =>
        column.quantity === 'power'
          ? { ...column, corrected: 'SAE_J1349' as const, values: column.values.map((value) => value * plain.correctionFactor!) }
          : column,
      );
      tables.set(file, { ...table, columns });
    }
    expect(analyse(bundle, tables).findings.pulls[1]!.meanPowerKW).toBeCloseTo(plain.meanPowerKW!, 1);
  });

  it('a typed figure counts for the peak and is marked', () => {
    const { bundle, tables } = day('ABBA');
    const pull = bundle.pulls[1]!;
    Object.assign(pull, { logs: [], typed: { peakPowerKW: 140, peakPowerRpm: 6500 } });
    expect(analyse(bundle, tables).findings.pulls[1]).toMatchObject({
      status: 'excluded',
      flags: ['typed'],
      meanPowerKW: null,
      startS: null,
    });
    bundle.programme.metric = 'peakPower';
    expect(analyse(bundle, tables).findings.pulls[1]).toMatchObject({ status: 'used', peakPowerKW: 140 });
  });
});
