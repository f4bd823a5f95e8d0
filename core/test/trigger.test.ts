import { describe, expect, it } from 'vitest';
import { readingOf, readLoose } from '../src/index.js';
import { offsetByTrigger, triggerEdges, type TriggerEdges } from '../src/pull/trigger-edges.js';
import { readLog } from '../src/log/read-log.js';
import { looseDay, NATURAL_PICKUP, Random, type LooseDevice } from '../src/simulate/index.js';
import { driven, ECU, START } from './loose-driven.js';

/** A box of temperatures alone: on an engine without a charger they show nothing of full throttle. */
const BOX: LooseDevice = {
  device: 'box',
  files: 'pull',
  name: (n) => `box-${n}.txt`,
  clock: 'dateTime',
  offS: -5400,
  rateHz: 10,
  delimiter: '\t',
  decimal: '.',
  units: 'bracket',
  without: ['engineSpeed', 'pressureDrop'],
};
const read = (files: ReadonlyMap<string, string>) =>
  readingOf([...files].map(([file, text]) => readLoose({ file, bytes: new TextEncoder().encode(text), sha256: '' }, {})));

/** How every file of the box stands in a reading: in which way, how far off, and how far off it says at most. */
function placed(day: ReturnType<typeof looseDay>) {
  return read(day.files).pulls.flatMap(({ members }) => {
    const truth = day.pulls.find(({ members: { ecu } }) => ecu && Math.abs(ecu.startS - members[0]!.startS!) < 3);
    return members.flatMap(({ file, how, offsetS, withinS, startS }) => {
      const own = truth?.members.box;
      if (!file.startsWith('box')) return [];
      const isOwn = own?.file === file;
      const errorS = isOwn ? offsetS! - (own.startS - truth!.members.ecu!.startS) : Number.NaN;
      return [{ how, errorS: Math.abs(errorS), withinS, startErrorS: isOwn ? Math.abs(startS! - own.startS) : Number.NaN }];
    });
  });
}

describe('a trigger that two devices log', () => {
  for (const [first, second] of [
    ['Trigger', 'Auslöser'],
    ['sync in', 'DYNO_TRIGGER'],
    ['déclencheur', 'Disparo [V]'],
  ] as const)
    it(`puts temperatures alone in their place: ${first} and ${second}`, () => {
      const day = looseDay(
        driven('AABBA', 17, NATURAL_PICKUP),
        START,
        [
          { ...ECU, trigger: first },
          { ...BOX, trigger: second },
        ],
        4,
      );
      const boxes = placed(day);
      expect(boxes).toHaveLength(day.pulls.length);
      for (const { how, errorS, withinS, startErrorS } of boxes) {
        expect(how).toBe('trigger');
        expect(errorS).toBeLessThan(0.08);
        expect(withinS!).toBeLessThan(0.08);
        expect(startErrorS).toBeLessThan(0.4);
      }
    });

  for (const [on, off] of [
    ['ON', 'OFF'],
    ['Ein', 'Aus'],
    ['true', 'false'],
    ['marche', 'arrêt'],
    ['SÍ', 'NO'],
    ['attivo', 'inattivo'],
  ] as const)
    it(`may be written in words: ${on} and ${off}`, () => {
      const day = looseDay(
        driven('AABBA', 17, NATURAL_PICKUP),
        START,
        [
          { ...ECU, trigger: 'Trigger' },
          { ...BOX, trigger: 'Trigger' },
        ],
        4,
      );
      const inWords = (text: string) => {
        const [header = '', ...rows] = text.split('\n');
        const at = header.split('\t').findIndex((name) => name.includes('Trigger'));
        expect(at).toBeGreaterThan(0);
        const word = (cell: string) => (cell === '' ? cell : Number(cell) > 0.5 ? on : off);
        return [
          header,
          ...rows.map((row) =>
            row
              .split('\t')
              .map((cell, i) => (i === at ? word(cell) : cell))
              .join('\t'),
          ),
        ].join('\n');
      };
      const files = new Map([...day.files].map(([file, text]) => [file, file.startsWith('box') ? inWords(text) : text]));
      const boxes = placed({ ...day, files });
      expect(boxes).toHaveLength(day.pulls.length);
      for (const { how, errorS, withinS } of boxes) {
        expect(how).toBe('trigger');
        expect(errorS).toBeLessThan(0.08);
        expect(withinS!).toBeLessThan(0.08);
      }
    });

  it('cuts a file of the whole day in which nothing else tells a pull', () => {
    const box: LooseDevice = { ...BOX, files: 'day', name: () => 'box.txt', trigger: 'Trigger' };
    const boxes = placed(looseDay(driven('AABBA', 19, NATURAL_PICKUP), START, [{ ...ECU, trigger: 'Trigger' }, box], 6));
    expect(boxes).toHaveLength(driven('AABBA', 19, NATURAL_PICKUP).length);
    for (const { how, errorS } of boxes) {
      expect(how).toBe('trigger');
      expect(errorS).toBeLessThan(0.08);
    }
  });

  it('is of no use where one of the two has none, or logs another signal by that name', () => {
    for (const trigger of [undefined, 'Unit']) {
      const day = looseDay(
        driven('AAB', 23, NATURAL_PICKUP),
        START,
        [
          { ...ECU, trigger: 'Trigger' },
          { ...BOX, trigger: trigger! },
        ],
        8,
      );
      expect(placed(day).map(({ how }) => how)).toEqual(day.pulls.map(() => 'assumed'));
    }
  });

  it('is not seen in a name alone: a count and a steady level are no trigger', () => {
    const table = (values: readonly number[]) =>
      readLog(new TextEncoder().encode(['Time [s],Trigger', ...values.map((value, i) => `${i / 10},${value}`)].join('\n')), {
        file: 'x.csv',
      });
    const rows = Array.from({ length: 300 }, (_, i) => i);
    expect(triggerEdges(table(rows.map((i) => Number(i >= 100 && i < 160))))).toMatchObject({ onS: [9.95], offS: [15.95] });
    expect(triggerEdges(table(rows.map((i) => (i >= 100 && i < 160 ? 4.96 : 0.03) + 0.02 * (i % 2))))!.onS).toHaveLength(1);
    expect(triggerEdges(table(rows))).toBeNull();
    expect(triggerEdges(table(rows.map(() => 1)))).toBeNull();
    expect(triggerEdges(table(rows.map((i) => i % 2)))).toBeNull();
  });

  it('holds its own interval on random edges, rates and offsets, and asks for one answer only', () => {
    const random = new Random(71);
    let [found, held] = [0, 0];
    for (let round = 0; round < 400; round += 1) {
      const offsetS = random.between(-5000, 5000);
      const [onS, lastsS] = [random.between(20, 40), random.between(0.4, 9)];
      const edges = (stepS: number, shiftS: number): TriggerEdges => {
        const phase = random.between(0, stepS);
        const seen = (atS: number) => Math.ceil((atS - phase) / stepS) * stepS + phase - stepS / 2 + shiftS;
        return { onS: [seen(onS)], offS: [seen(onS + lastsS)], stepS };
      };
      const [a, b] = [edges(random.pick([0.01, 0.05, 0.1]), 0), edges(random.pick([0.02, 0.04, 0.1]), offsetS)];
      const result = offsetByTrigger(a, [0, 90], b, [-Infinity, Infinity]);
      if (!result) continue;
      found += 1;
      if (Math.abs(result.offsetS - offsetS) <= result.withinS) held += 1;
    }
    expect(found).toBeGreaterThan(390);
    expect(held / found).toBeGreaterThan(0.95);
    // Two pulses alike that are no pair: more than one offset fits.
    const pulses = (onS: number[]): TriggerEdges => ({ onS, offS: [], stepS: 0.02 });
    expect(offsetByTrigger(pulses([10]), [0, 60], pulses([4, 31]), [0, 60])).toBeNull();
    expect(offsetByTrigger(pulses([10, 14]), [0, 60], pulses([31, 35, 50]), [0, 60])?.offsetS).toBeCloseTo(21, 6);
  });
});

describe('the gear of a sweep', () => {
  const log = (gear: string | null) => {
    const rows = Array.from({ length: 200 }, (_, i) => {
      const rpm = i < 20 || i > 160 ? 1800 : 2000 + ((i - 20) / 140) * 4600;
      const throttle = i < 20 || i > 160 ? 5 : 100;
      return [
        i / 10,
        rpm.toFixed(0),
        throttle,
        ((rpm / 60 / (1.4 * 3.9)) * 2 * Math.PI * 0.31 * 3.6).toFixed(1),
        ...(gear ? [gear] : []),
      ].join(',');
    });
    const text = [`Time [s],Engine Speed [rpm],Throttle [%],Vehicle Speed [km/h]${gear ? ',Gear' : ''}`, ...rows].join('\n');
    return { file: 'ecu.csv', bytes: new TextEncoder().encode(text), sha256: '' };
  };
  const gearsOf = (gear: string | null, gearbox?: Parameters<typeof readLoose>[1]['gearbox']) =>
    readLoose(log(gear), gearbox ? { gearbox } : {}).report.sweeps.map((sweep) => sweep.gear);
  const known = { gearRatios: [3.6, 2.1, 1.4, 1.0], finalDrive: 3.9, tyreRadiusM: 0.31 };

  it('is told by its channel, else by the ratio of the speeds where the gearbox is known', () => {
    expect(gearsOf('4')).toEqual([4]);
    expect(gearsOf('4', known)).toEqual([4]);
    expect(gearsOf(null, known)).toEqual([3]);
    expect(gearsOf(null)).toEqual([null]);
    expect(gearsOf(null, { ...known, gearRatios: [3.6, 2.1, 1.0] })).toEqual([null]);
  });
});
