import { describe, expect, it } from 'vitest';
import type { Bundle, ChannelMapping } from '@gezeit/contract';
import { checkDay } from '../../bench/check-days.js';
import { calibrationsOf, inEffect } from '../src/channels/calibration.js';
import { analyse, decidedChannels, readLoose } from '../src/index.js';

const day = checkDay(41, { isBoosted: false, order: 'AABB' });

/** The day with its pulls spread over dates, and something decided about a column of one device. */
function decidedOn(dates: readonly string[], mapping: ChannelMapping, zone: string | null = null): Bundle {
  const { bundle } = day;
  return {
    ...bundle,
    cell: { ...bundle.cell!, timeZone: zone },
    pulls: bundle.pulls.map((pull, i) => ({ ...pull, startedAt: dates[i % dates.length]! })),
    channels: { [bundle.pulls[0]!.logs[0]!.device]: { Blorp: mapping } },
  };
}
const factorsOf = (bundle: Bundle) =>
  bundle.pulls.map(({ logs }) => decidedChannels(bundle, logs[0]!.device, logs[0]!.file)?.['Blorp']?.factor ?? null);

describe('a calibration found wrong afterwards', () => {
  it('counts on the days named, both included, and always without days', () => {
    const mapping = { factor: 1.02, offset: -0.1 };
    const on = (days: object, date: string | null) => inEffect({ a: { unit: 'kPa', ...mapping, ...days } }, date)['a'];
    for (const [days, date] of [
      [{}, null],
      [{}, '2026-03-04'],
      [{ from: '2026-03-04' }, '2026-03-04'],
      [{ to: '2026-03-04' }, '2026-03-04'],
      [{ from: '2026-03-04', to: '2026-03-04' }, '2026-03-04'],
      [{ from: null, to: '2026-12-31' }, '2026-03-04'],
    ] as const)
      expect(on(days, date)).toEqual({ unit: 'kPa', ...mapping });
    for (const [days, date] of [
      [{ from: '2026-03-05' }, '2026-03-04'],
      [{ to: '2026-03-03' }, '2026-03-04'],
      [{ from: '2025-03-04', to: '2025-12-31' }, '2026-03-04'],
      // A day that is not known lies on no day named.
      [{ from: '2026-03-01' }, null],
    ] as const)
      expect(on(days, date)).toEqual({ unit: 'kPa' });
  });

  it('goes by the day on the wall of the cell', () => {
    const late = ['2026-03-03T23:30:00Z'];
    const mapping = { factor: 1.02, from: '2026-03-04' };
    expect(factorsOf(decidedOn(late, mapping, 'Europe/Oslo'))).not.toContain(null);
    expect(new Set(factorsOf(decidedOn(late, mapping)))).toEqual(new Set([null]));
    // The moment's own offset says what the wall said.
    expect(factorsOf(decidedOn(['2026-03-04T00:30:00+01:00'], mapping, null))).not.toContain(null);
  });

  it('of a file alone goes before what is said of its device, and an ignored column is none', () => {
    const bundle = decidedOn(['2026-03-04T10:00:00Z'], { factor: 1.02 });
    const [first, second] = bundle.pulls;
    bundle.channels![`file:${first!.logs[0]!.file}`] = { Blorp: { factor: 1.05 } };
    expect(calibrationsOf(bundle, first!)).toMatchObject([{ column: 'Blorp', factor: 1.05, offset: 0 }]);
    expect(calibrationsOf(bundle, second!)).toMatchObject([{ factor: 1.02 }]);
    bundle.channels![first!.logs[0]!.device] = { Blorp: { factor: 1.02, ignore: true }, Zorb: { factor: 1, offset: 0, unit: 'K' } };
    expect(calibrationsOf(bundle, second!)).toEqual([]);
  });

  it('is said by every pull that it touches and by what leans on them, and by no other', () => {
    const dates = ['2026-03-04T10:00:00Z', '2026-03-04T10:20:00Z', '2026-03-05T10:00:00Z', '2026-03-05T10:20:00Z'];
    const bundle = decidedOn(dates, { factor: 1.02, offset: 0.1, unit: 'kPa', from: '2026-03-05' });
    const { findings } = analyse(bundle, day.tables);
    const touched = bundle.pulls.filter(({ startedAt }) => startedAt > '2026-03-05').map(({ id }) => id);
    for (const { id, warnings } of findings.pulls)
      expect(warnings.some((warning) => warning.includes('× 1.02 + 0.1\u00a0kPa, from 2026-03-05'))).toBe(touched.includes(id));
    const note = findings.comparisons[0]!.notes.find((text) => text.includes('put right'))!;
    for (const { id, status } of findings.pulls) expect(note.includes(id)).toBe(touched.includes(id) && status === 'used');
    expect(analyse(decidedOn(dates, { unit: 'kPa' }), day.tables).findings.comparisons[0]!.notes.join()).not.toContain('put right');
  });

  it('multiplies and shifts what a loose file of that day holds', () => {
    const text = (date: string) =>
      [
        'Time,Engine speed [rpm],Inlet temperature [°C]',
        ...Array.from({ length: 9 }, (_, i) => `${date} 10:00:0${i},${2000 + 500 * i},20`),
      ].join('\n');
    const highOf = (date: string) => {
      const channels = { 'file:a.csv': { 'Inlet temperature [°C]': { factor: 1.1, offset: 2, from: '2026-03-04', to: '2026-03-04' } } };
      const { report } = readLoose({ file: 'a.csv', bytes: new TextEncoder().encode(text(date)), sha256: '' }, { channels });
      return report.columns[2]!.high;
    };
    expect(highOf('2026-03-04')).toBeCloseTo(24, 9);
    expect(highOf('2026-03-05')).toBeCloseTo(20, 9);
  });
});
