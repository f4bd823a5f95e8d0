import { fromSi } from '@gezeit/core';
import { beforeEach, describe, expect, inject, it } from 'vitest';
import { mapFigure, mapTable, trackOf } from '../src/features/logs/drive/drive-map.js';
import { lapRows, lapTable } from '../src/features/logs/drive/lap-rows.js';
import { overlayPath, rangeWithin, tellingColumns } from '../src/features/logs/align-overlay.js';
import { useProgramme } from '../src/model/programme-store.js';
import { TOKENS } from '../src/shared/charts/theme.js';
import { Show } from '../src/shared/units/show.js';
import { IMPERIAL, METRIC } from './support/mounting.js';
import { page } from './support/page.js';

page();

const samples = (timeS: number[], values: number[]) => ({ timeS: Float64Array.from(timeS), values: Float64Array.from(values) }) as never;
const SHOWS = [METRIC, IMPERIAL].map((units) => new Show(units));

describe('the laps of the demo’s drives', () => {
  beforeEach(() => useProgramme().open(inject('demo')['airfield-feed']!));

  it('are rows in the chosen units, and the same figures in the file', () => {
    const drives = useProgramme().view!.findings.drives.drives.filter(({ laps }) => laps.length > 0);
    expect(drives.length).toBeGreaterThan(0);
    for (const show of SHOWS)
      for (const drive of drives) {
        const rows = lapRows(drive, show);
        const table = lapTable(drive, show);
        expect(new Set(table.map(({ header }) => header)).size).toBe(table.length);
        for (const { header, values } of table) {
          expect(values, header).toHaveLength(drive.laps.length);
          for (const value of values) expect(value === null || Number.isFinite(value), header).toBe(true);
        }
        const start = table.find(({ header }) => header === `intake air at the start [${show.units.temperature}]`)!.values;
        drive.laps.forEach(({ intakeAirStartC }, i) => {
          expect(start[i]).toBe(intakeAirStartC === null ? null : fromSi(intakeAirStartC, show.units.temperature));
          for (const cell of [rows[i]!.seconds, ...rows[i]!.cells]) expect(cell).not.toMatch(/NaN|undefined|null/);
        });
      }
  });

  it('say with a dash what was not logged, and leave it blank in the file', () => {
    const [drive] = useProgramme().view!.findings.drives.drives.filter(({ laps }) => laps.length > 0);
    const bare = {
      ...drive!,
      laps: drive!.laps.map((lap) => ({
        ...lap,
        ...{ distanceM: null, fullThrottleShare: null, intakeAirStartC: null, intakeAirMeanC: null, intakeAirPeakC: null },
        ...{ aboveAmbientK: null, coolantPeakC: null, oilPeakC: null, knockPeakDeg: null },
      })),
    };
    for (const show of SHOWS) {
      for (const { cells } of lapRows(bare, show)) expect(new Set(cells)).toEqual(new Set(['–']));
      for (const { header, values } of lapTable(bare, show).slice(3, -1)) expect(new Set(values), header).toEqual(new Set([null]));
    }
  });
});

describe('the way of a drive', () => {
  const at = Array.from({ length: 40 }, (_, i) => i / 2);
  const north = at.map((s) => 51 + 1e-5 * s);
  const east = at.map((s) => 7 + 2e-5 * s);
  const air = at.map((s) => 20 + s);

  it('is drawn in metres from where it began, with the air in the chosen unit, and the line that cuts laps', () => {
    // Reduced columns do not keep the same samples.
    const track = trackOf(
      samples(at, north),
      samples(
        at.filter((_, i) => i % 2 === 0),
        east.filter((_, i) => i % 2 === 0),
      ),
      samples(at, air),
    )!;
    const line = { from: { latitude: 51, longitude: 7 }, to: { latitude: 51.0001, longitude: 7 } };
    for (const show of SHOWS) {
      const [way, drawn] = mapFigure(track, line, show, TOKENS.light).data as unknown as {
        x: number[];
        y: number[];
        marker: { color: number[] };
      }[];
      expect([way!.x[0]!, way!.y[0]!].map(Math.abs)).toEqual([0, 0]);
      // A degree of latitude is 111 km, one of longitude less by the cosine of the latitude.
      expect(way!.y.at(-1)! / (111_195 * (track.places.at(-1)!.latitude - 51))).toBeCloseTo(1, 2);
      expect(way!.x.at(-1)! / (111_195 * Math.cos((51 * Math.PI) / 180) * (track.places.at(-1)!.longitude - 7))).toBeCloseTo(1, 2);
      expect(way!.marker.color[0]).toBeCloseTo(fromSi(20, show.units.temperature), 9);
      expect(drawn!.y[1]! - drawn!.y[0]!).toBeCloseTo(11.1, 0);
      const table = mapTable(track, show);
      expect(table.map(({ header }) => header)).toEqual([
        'time [s]',
        'latitude [°]',
        'longitude [°]',
        `intake air [${show.units.temperature}]`,
      ]);
      for (const { values } of table) expect(values).toHaveLength(track.places.length);
    }
    expect(mapFigure(track, null, SHOWS[0]!, TOKENS.dark).data).toHaveLength(1);
  });

  it('is none where too few places are known, and is one without air', () => {
    const gone = north.map((value, i) => (i < 35 ? Number.NaN : value));
    expect(trackOf(samples(at, gone), samples(at, east), null)).toBeNull();
    const track = trackOf(samples(at, north), samples(at, east), null)!;
    expect(mapTable(track, SHOWS[0]!)).toHaveLength(3);
    const blank = trackOf(
      samples(at, north),
      samples(at, east),
      samples(
        at,
        air.map((value, i) => (i === 3 ? Number.NaN : value)),
      ),
    )!;
    const values = mapTable(blank, SHOWS[1]!).at(-1)!.values;
    expect(values.every((value) => value === null || Number.isFinite(value))).toBe(true);
  });
});

describe('two logs laid upon one another', () => {
  type Column = Parameters<typeof tellingColumns>[0][number];
  const columns = (...quantities: string[]) => quantities.map((quantity) => ({ name: quantity, quantity }) as unknown as Column);

  it.each([
    [['power', 'engineSpeed'], ['engineSpeed', 'lambda'], 'engineSpeed', 'engineSpeed'],
    [['engineSpeed', 'throttle'], ['throttle', 'engineSpeed'], 'throttle', 'throttle'],
    [['power'], ['boostPressure'], 'power', 'boostPressure'],
    [['oilTemperature'], ['throttle'], 'oilTemperature', 'throttle'],
    [[], ['throttle'], null, 'throttle'],
    [[], [], null, null],
  ])('%j and %j are compared by %s and %s', (lead, own, leadBy, ownBy) => {
    const found = tellingColumns(columns(...lead), columns(...own));
    expect([found.lead?.name ?? null, found.own?.name ?? null]).toEqual([leadBy, ownBy]);
  });

  it('have a height only where something changes within what is seen', () => {
    const trace = samples([0, 1, 2, 3, 4], [5, 7, Number.NaN, 7, 90]);
    expect(rangeWithin(trace, [0, 3])).toEqual([5, 7]);
    expect(rangeWithin(trace, [1, 3])).toBeNull();
    expect(rangeWithin(trace, [8, 9])).toBeNull();
  });

  it('are paths whose gaps break the line', () => {
    const path = overlayPath(samples([0, 1, 2, 3, 4], [0, 10, Number.NaN, 5, 10]), (s) => 100 * s, [0, 40], [0, 10]);
    expect(path).toBe('M0.0 40.0L100.0 0.0M300.0 20.0L400.0 0.0');
    expect(overlayPath(samples([], []), (s) => s, [0, 1], [0, 1])).toBe('');
  });
});
