import { describe, expect, it } from 'vitest';
import { stagedKey } from '@gezeit/contract';
import { drives, isToldApart, longRun, SPEC, trimHeld } from '../../bench/drive-days.js';
import { recordDrive, writeLog } from '../src/simulate/index.js';
import { analyse, keptPulls, readLog, type LogTable } from '../src/index.js';
import { cutByChannel, cutByLine } from '../src/pull/lap-cut.js';
import { lineAcross, placeOf, planeAt } from '../src/road/plane.js';
import type { Trace } from '../src/pull/traces.js';

const column = (table: LogTable, quantity: string) => table.columns.find((entry) => entry.quantity === quantity)!;
const traceOf = (timeS: number[], values: number[]): Trace => ({
  column: {} as Trace['column'],
  timeS: Float64Array.from(timeS),
  values: Float64Array.from(values),
});

describe('a place on the plane', () => {
  it('goes there and back, and a line lies across the way', () => {
    for (const origin of [
      { latitude: 0, longitude: 0 },
      { latitude: 61.25, longitude: -3.5 },
      { latitude: -45, longitude: 170 },
    ]) {
      const there = placeOf(origin, { x: 120, y: -340 });
      const back = planeAt(origin)(there);
      expect(back.x).toBeCloseTo(120, 6);
      expect(back.y).toBeCloseTo(-340, 6);
    }
    const origin = { latitude: 50, longitude: 10 };
    const north = [0, 10, 20].map((y) => placeOf(origin, { x: 0, y }));
    const line = lineAcross(north, 1)!;
    expect(line.from.latitude).toBeCloseTo(line.to.latitude, 9);
    expect(Math.abs(planeAt(line.from)(line.to).x)).toBeCloseTo(30, 3);
    expect(lineAcross([origin, origin, origin], 1)).toBeNull();
  });
});

describe('laps are cut', () => {
  it('by the channel where it counts on, whole or with noise in its digits', () => {
    expect(cutByChannel(traceOf([0, 1, 2, 3, 4], [0, 0, 1, 1, 2]))).toEqual([2, 4]);
    expect(cutByChannel(traceOf([0, 1, 2], [1, 1, 1]))).toEqual([]);
    // A counter that is set back begins no lap.
    expect(cutByChannel(traceOf([0, 1, 2, 3], [3, 4, 0, 1]))).toEqual([1, 3]);
  });

  it('by a line, between two positions, in one direction, and where the line is', () => {
    const origin = { latitude: 47, longitude: 9 };
    const line = { from: placeOf(origin, { x: -10, y: 0 }), to: placeOf(origin, { x: 10, y: 0 }) };
    const way = (points: [number, number][]) => {
      const places = points.map(([x, y]) => placeOf(origin, { x, y }));
      const times = points.map((_, i) => 20 * i);
      return cutByLine(
        traceOf(
          times,
          places.map(({ latitude }) => latitude),
        ),
        traceOf(
          times,
          places.map(({ longitude }) => longitude),
        ),
        line,
      );
    };
    // Through it northwards at 10 s, back beside it, through it again, and once beside it.
    expect(
      way([
        [0, -5],
        [0, 5],
        [50, 5],
        [50, -5],
        [0, -15],
        [0, 5],
      ]).map((at) => Math.round(at)),
    ).toEqual([10, 95]);
    expect(
      way([
        [20, -5],
        [20, 5],
      ]),
    ).toEqual([]);
    // A point upon the line is one crossing, not two.
    expect(
      way([
        [0, -5],
        [0, 0],
        [0, 5],
      ]),
    ).toHaveLength(1);
  });

  it('alike by channel, by a line where the counter counts, and by the times of both', () => {
    const byChannel = drives([{}]).found.drives.drives[0]!;
    expect(byChannel.cutBy).toBe('channel');
    expect(byChannel.laps).toHaveLength(7);
    const { tables } = drives([{}]);
    const table = tables.get('logs/d0.csv')!;
    const index = table.timeS!.findIndex((at) => at >= byChannel.laps[0]!.startS);
    const places = [...table.timeS!.keys()].map((i) => ({
      latitude: column(table, 'latitude').values[i]!,
      longitude: column(table, 'longitude').values[i]!,
    }));
    const line = lineAcross(places, index)!;
    const byLine = drives([{ isCounted: false }], { laps: { line } }).found.drives.drives[0]!;
    expect(byLine.cutBy).toBe('line');
    expect(byLine.laps).toHaveLength(7);
    byLine.laps.forEach(({ seconds }, i) => expect(seconds).toBeCloseTo(byChannel.laps[i]!.seconds, 0));
    const atS = [byChannel.laps[1]!.endS, byChannel.laps[0]!.startS, byChannel.laps[0]!.endS].map((at) => at - byChannel.startS);
    const byHand = drives([{}], { laps: { line, atS: { d0: atS } } }).found.drives.drives[0]!;
    expect(byHand.cutBy).toBe('hand');
    expect(byHand.laps.map(({ seconds }) => seconds)).toEqual(byChannel.laps.slice(0, 2).map(({ seconds }) => expect.closeTo(seconds, 6)));
    const uncut = drives([{ isCounted: false }]).found.drives.drives[0]!;
    expect([uncut.cutBy, uncut.laps]).toEqual([null, []]);
  });
});

describe('what a lap says', () => {
  const { found, tables } = drives([{}]);
  const [drive] = found.drives.drives;

  it('is what the samples inside it say', () => {
    const table = tables.get('logs/d0.csv')!;
    for (const lap of drive!.laps) {
      const inside = [...table.timeS!.keys()].filter((i) => table.timeS![i]! >= lap.startS && table.timeS![i]! <= lap.endS);
      const air = inside.map((i) => column(table, 'intakeAirTemperature').values[i]!);
      expect(lap.intakeAirPeakC).toBe(Math.max(...air));
      expect(lap.intakeAirMeanC).toBeCloseTo(air.reduce((a, b) => a + b) / air.length, 6);
      expect(lap.aboveAmbientK).toBeCloseTo(lap.intakeAirMeanC! - 19, 0);
      const open = inside.filter((i) => column(table, 'pedal').values[i]! > 90).length / inside.length;
      expect(lap.fullThrottleShare).toBeCloseTo(open, 1);
      expect(lap.distanceM).toBeGreaterThan(1500);
    }
    const ways = drive!.laps.map(({ distanceM }) => distanceM!);
    expect(Math.max(...ways) / Math.min(...ways)).toBeLessThan(1.01);
  });

  it('leaves a slow one out of the comparison, and shows it', () => {
    const slow = drive!.laps.filter(({ counts }) => !counts);
    expect(slow).toHaveLength(1);
    expect(slow[0]!.seconds).toBe(Math.max(...drive!.laps.map(({ seconds }) => seconds)));
  });

  it('takes part in nothing that pulls answer', () => {
    expect(found.pulls[0]).toMatchObject({ status: 'excluded', reasons: ['drive'], warnings: [] });
  });
});

describe('laps of two setups', () => {
  it('are told apart where they differ, with intervals between laps, or between drives where those were repeated', () => {
    const once = drives([{}, { setup: 'B', soakK: 4, loadK: 5 }]).found.drives.pairs[0]!;
    expect(once).toMatchObject({ reference: 'A', candidate: 'B', between: 'laps', laps: { reference: 6, candidate: 6 } });
    const above = once.figures.find(({ of }) => of === 'aboveAmbientK')!.difference;
    expect(above.high).toBeLessThan(-4);
    const again = drives([{}, { setup: 'B', soakK: 4 }, {}, { setup: 'B', soakK: 4 }]).found.drives.pairs[0]!;
    expect(again).toMatchObject({ between: 'drives', drives: { reference: 2, candidate: 2 } });
  });

  it('that are alike are told apart on hardly any day (a hundred by `npm run bench:drives`)', () => {
    expect([100, 101, 102, 103, 104].filter(isToldApart).length).toBeLessThanOrEqual(1);
  });

  it('of a drive that was left out are shown, and not compared', () => {
    const { bundle, tables } = drives([{}, { setup: 'B' }]);
    bundle.pulls[1]!.excluded = 'a hose came off';
    const { drives: found } = analyse(bundle, tables).findings;
    expect(found.drives).toHaveLength(2);
    expect(found.pairs).toEqual([]);
  });
});

describe('a long run', () => {
  it('says how the trim drifts over its distance, and holds the truth (a hundred by `npm run bench:drives`)', () => {
    const { distanceM, distanceFrom } = longRun(1, -1);
    expect(distanceFrom).toBe('vehicleSpeed');
    expect(distanceM! / 60_000).toBeCloseTo(1, 2);
    expect([1, 2, 3, 4, 5].filter(trimHeld).length).toBeGreaterThanOrEqual(4);
  });

  it('takes its distance from its own channel, also where that begins anew, else from place to place', () => {
    const { bundle, tables } = drives([{ laps: null, lengthKm: 20, rateHz: 1 }]);
    const table = tables.get('logs/d0.csv')!;
    const without = (quantity: string) => ({ ...table, columns: table.columns.filter((entry) => entry.quantity !== quantity) });
    const distanceOf = (own: LogTable) => analyse(bundle, new Map([['logs/d0.csv', own]])).findings.drives.drives[0]!;
    const bySpeed = distanceOf(table).distanceM!;
    const byPlace = distanceOf(without('vehicleSpeed'));
    expect(byPlace.distanceFrom).toBe('latitude');
    expect(byPlace.distanceM! / bySpeed).toBeGreaterThan(0.7);
    const counted = {
      ...column(table, 'vehicleSpeed'),
      quantity: 'distance' as const,
      values: table.timeS!.map((_, i) => 20 * (i % 300)),
    };
    const byChannel = distanceOf({ ...table, columns: [...table.columns, counted] });
    expect(byChannel.distanceFrom).toBe('distance');
    const steps = table.timeS!.length - 1 - Math.floor((table.timeS!.length - 1) / 300);
    expect(byChannel.distanceM).toBeCloseTo(20 * steps, 6);
  });

  it('without any speed or place has neither distance nor drift', () => {
    const { bundle, tables } = drives([{ laps: null, lengthKm: 5, rateHz: 1 }]);
    const table = tables.get('logs/d0.csv')!;
    const bare = { ...table, columns: table.columns.filter(({ quantity }) => quantity !== 'vehicleSpeed' && quantity !== 'latitude') };
    const drive = analyse(bundle, new Map([['logs/d0.csv', bare]])).findings.drives.drives[0]!;
    expect(drive).toMatchObject({ distanceM: null, distanceFrom: null, courses: [] });
  });
});

describe('sweeps of a recording that was taken for a drive', () => {
  it('are one drive of all of it, whatever was decided about its later ones; another recording stays as it is', () => {
    const member = (file: string, recording: number, startS: number) => ({
      file,
      recording,
      startS,
      endS: startS + 8,
      offsetS: 0,
      how: 'first' as const,
      withinS: null,
    });
    const reading = {
      format: 'gezeit-reading' as const,
      version: 1 as const,
      files: [],
      pulls: [
        { id: 'p01', startedAt: '2026-03-04T09:00:00', members: [member('a.csv', 0, 5)] },
        { id: 'p02', startedAt: '2026-03-04T09:01:00', members: [member('a.csv', 0, 65)] },
        { id: 'p03', startedAt: '2026-03-04T09:20:00', members: [member('a.csv', 1, 5)] },
        { id: 'p04', startedAt: '2026-03-04T09:40:00', members: [member('b.csv', 0, 5)] },
      ],
      unmatched: [],
      questions: [],
    };
    const decided = (kinds: Record<string, 'drive' | 'measured'>) => ({
      title: '',
      timeZone: null,
      dateOrder: null,
      day: null,
      firstAt: null,
      weather: null,
      setups: [{ id: 'A', name: 'A' }],
      pulls: Object.fromEntries(reading.pulls.map((pull) => [stagedKey(pull), { setup: 'A', kind: kinds[pull.id] ?? 'measured' }])),
      places: {},
      channels: null,
    });
    const hints = {
      aspiration: 'na' as const,
      bandRpm: [3000, 6000] as [number, number],
      weather: null,
      ambients: {},
      peaks: {},
      afterS: null,
      named: null,
    };
    const kept = (kinds: Record<string, 'drive' | 'measured'>) => keptPulls(reading, hints, decided(kinds), (file) => `logs/${file}`);
    const drive = kept({ p01: 'drive', p02: 'drive' });
    expect(drive.map(({ id, kind }) => `${id} ${kind}`)).toEqual(['p01 drive', 'p03 measured', 'p04 measured']);
    expect(drive[0]!.logs).toMatchObject([{ file: 'logs/a.csv', recording: 0, startS: null, endS: null }]);
    expect(drive[1]!.logs).toMatchObject([{ recording: 1, startS: 5, endS: 13 }]);
    expect(kept({}).length).toBe(4);
    expect(kept({ p03: 'drive', p04: 'drive' }).map(({ kind }) => kind)).toEqual(['measured', 'measured', 'drive', 'drive']);
  });
});

describe('a written drive', () => {
  it('is read back with every column', () => {
    for (const dialect of ['bracketed', 'two-storey', 'comma-mark'] as const) {
      const record = recordDrive({ ...SPEC, laps: 2 });
      const table = readLog(writeLog(record, dialect), { file: 'a.csv' });
      expect(table.columns.map(({ quantity }) => quantity)).toEqual(record.device.channels.map(({ quantity }) => quantity));
    }
  });
});
