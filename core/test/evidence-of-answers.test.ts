import type { Bundle, Question, Setup } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { holdsShiftable } from '../src/compare/own-start.js';
import { analyse, stateClouds, type LogTable } from '../src/index.js';
import { demoDay, type KnownDay } from './known-days.js';

const [box, cooler] = [demoDay('sealed-airbox'), demoDay('water-cooler-and-fuel')];

const question = (kind: Question['kind'], more: Partial<Question> = {}): Question => ({ id: 'q', kind, ...more });
const asked = (
  { bundle, tables }: KnownDay,
  questions: Question[],
  change: (copy: Bundle, tables: Map<string, LogTable>) => void = () => {},
) => {
  const copy = structuredClone(bundle);
  const changed = new Map(tables);
  copy.programme.questions = questions;
  change(copy, changed);
  return analyse(copy, changed).findings.comparisons[0]!;
};
/** The tables with every value of a quantity changed, of the pulls of some setup. */
function scaled(copy: Bundle, tables: Map<string, LogTable>, setup: string, quantity: string, factor: number): void {
  const files = new Set(copy.pulls.filter((pull) => pull.setup === setup).flatMap(({ logs }) => logs.map(({ file }) => file)));
  for (const [file, table] of tables)
    if (files.has(file))
      tables.set(file, {
        ...table,
        columns: table.columns.map((column) =>
          column.quantity === quantity ? { ...column, values: column.values.map((value) => value * factor) } : column,
        ),
      });
}

describe('a reference that was not in order', () => {
  it('a dirty filter withholds a gain and a lesser drop, and not a loss', () => {
    const dirty = (copy: Bundle) => {
      copy.condition = [{ item: 'filter', state: 'not-good', note: 'grey', by: 'EA', at: '2026-03-01T08:00:00Z' }];
    };
    const before = asked(box, [question('power-gain', { smallest: 1 }), question('less-restriction', { id: 'r', section: 'filter' })]);
    expect(before.answers.map(({ answer }) => answer)).toEqual(['gain', 'gain']);
    const after = asked(
      box,
      [question('power-gain', { smallest: 1 }), question('less-restriction', { id: 'r', section: 'filter' })],
      dirty,
    );
    expect(after.answers.map(({ answer }) => answer)).toEqual(['withheld', 'withheld']);
    expect(after.confounds.map(({ code }) => code)).toContain('condition-not-met');
    expect(after.answers[0]!.why).toContain('the reference filter was not clean');
    // What was measured is the same; only the verdict is held back.
    expect(after.levelled).toEqual(before.levelled);
  });
});

describe('what no log can answer', () => {
  it.each([
    ['no-fault-codes', 0, 'codes', 'gain'],
    ['no-fault-codes', 2, 'codes', 'loss'],
    ['not-louder', 0.4, 'dB', 'gain'],
    ['not-louder', 3, 'dB', 'loss'],
  ] as const)('%s with %s %s entered is answered', (kind, value, unit, answer) => {
    const evidence = { value, unit, note: 'read by EA', by: 'EA', at: '2026-03-04T12:00:00Z' };
    const [found] = asked(box, [question(kind, { evidence })]).answers;
    expect(found).toMatchObject({ answer, of: 'evidence', estimate: value });
    const [other] = asked(box, [question(kind, { evidence: { C: evidence } })]).answers;
    expect(other).toMatchObject({ answer: 'not-resolved', estimate: null });
  });
});

describe('sensors', () => {
  it('their accuracy widens what different sensors tell apart, and cancels where one sensor serves both setups', () => {
    const ask = [question('cooler-charge', { smallest: 8 })];
    const width = (comparison: ReturnType<typeof asked>) => comparison.answers[0]!.high! - comparison.answers[0]!.low!;
    const same = width(asked(cooler, ask));
    const rough = (copy: Bundle) => {
      const sensor = (quantity: 'coolerOutTemperature' | 'intakeAirTemperature') => ({ quantity, unit: '°C', accuracy: 8 });
      copy.channels = {
        daq: { 'Cooler outlet temperature': sensor('coolerOutTemperature') },
        ecu: { 'Intake air temperature': sensor('intakeAirTemperature') },
      };
    };
    expect(width(asked(cooler, ask, rough))).toBeCloseTo(same, 6);
    const effectiveness = (change: (copy: Bundle) => void) => {
      const copy = structuredClone(cooler.bundle);
      change(copy);
      return analyse(copy, cooler.tables).findings.chargeCooling.map(({ low, high }) => high! - low!);
    };
    const usual = effectiveness(() => {});
    // An absolute figure carries it: never as sharp as the scatter of the pulls alone.
    for (const interval of usual) expect(interval).toBeGreaterThan(0.01);
    for (const [i, interval] of effectiveness(rough).entries()) expect(interval).toBeGreaterThan(2 * usual[i]!);
  });

  it('cooler charge takes one cold side for all pulls: a sensor on one setup alone changes nothing', () => {
    const ask = [question('cooler-charge', { smallest: 8 })];
    let added = 0;
    const both = asked(cooler, ask).answers[0]!;
    const half = asked(cooler, ask, (copy, tables) => {
      const files = new Set(copy.pulls.filter(({ setup }) => setup === 'B').flatMap(({ logs }) => logs.map(({ file }) => file)));
      for (const [file, table] of tables)
        if (files.has(file)) {
          const air = table.columns.find(({ quantity }) => quantity === 'intakeAirTemperature');
          if (air) {
            const coldSide = { ...air, name: 'Cooling air', quantity: 'coolingAirTemperature' as const, values: air.values.map(() => 35) };
            tables.set(file, { ...table, columns: [...table.columns, coldSide] });
            added += 1;
          }
        }
    }).answers[0]!;
    expect(added).toBeGreaterThan(3);
    expect(half).toEqual(both);
  });

  it('an air meter that disagrees with the fuel leaves a drop at its flow less sure, and says so', () => {
    const ask = [question('less-restriction', { section: 'filter' })];
    const quiet = asked(box, ask);
    const shifted = asked(box, ask, (copy, tables) => scaled(copy, tables, 'B', 'airMassFlow', 1.05));
    const width = ({ answers }: typeof quiet) => answers[0]!.high! - answers[0]!.low!;
    expect(quiet.confounds.map(({ code }) => code)).not.toContain('air-meter-disagrees');
    if (shifted.confounds.some(({ code }) => code === 'air-meter-disagrees')) expect(width(shifted)).toBeGreaterThan(2 * width(quiet));
    else expect.fail('the meter was seen to agree');
  });
});

describe('a clock that had to be assumed', () => {
  it('feeds no figure, flag or witness: what lies in that file alone is not had, and the answer says which file', () => {
    const ask = [question('less-restriction', { section: 'filter' })];
    const blind = asked(box, ask, (copy, tables) => {
      for (const [file, table] of tables) {
        const holds = table.columns.some(({ quantity }) => quantity === 'pressureDrop');
        if (!holds) continue;
        // Without speed or throttle nothing tells how its clock lies.
        const keep = table.columns.filter(({ quantity }) => quantity === 'pressureDrop' || quantity === 'time');
        tables.set(file, { ...table, columns: keep, timeS: table.timeS!.map((time) => time + 1000) });
      }
      copy.pulls.forEach((pull) => (pull.excluded = pull.excluded ?? null));
    });
    expect(blind.answers[0]).toMatchObject({ answer: 'not-resolved', estimate: null });
    expect(blind.answers[0]!.why).toMatch(/could not be matched|is not logged/);
  });
});

describe('a gate held on the way', () => {
  it.each([
    ['gearbox oil 80 °C', false],
    ['gear box 80 °C', false],
    ['transmission oil', false],
    ['airbox 30 °C', true],
    ['air box skin', true],
    ['intake air at most +12', true],
  ])('“%s” holds what a part can shift: %s', (gate, holds) => expect(holdsShiftable(gate)).toBe(holds));
});

describe('old bundles', () => {
  it('state words of before are read as the same state', () => {
    const [a, b] = box.bundle.setups as [Setup, Setup];
    const codes = (first: string, second: string) =>
      stateClouds({ ...a, state: { learned: first } }, { ...b, state: { learned: second } }).clouds.map(({ code }) => code);
    expect(codes('learned', 'settled')).toEqual(codes('settled', 'settled'));
    expect(codes('first-fit', 'fresh')).toEqual(codes('fresh', 'fresh'));
    expect(codes('fresh', 'settled')).toContain('learned-state-changed');
  });
});
