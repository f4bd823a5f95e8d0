import { describe, expect, it } from 'vitest';
import { isTimeZone, knownZone, programmeGaps, sheetOf, formatterFor, zoneOf } from '../src/index.js';
import { calibrationsOf, decidedChannels } from '../src/channels/calibration.js';
import { wallMs, wallTime } from '../src/units/wall-time.js';
import { DEMO_DAYS } from './known-days.js';

// A bundle may name any text as the time zone of its cell: what is none is told, and stops nothing.

const ZONES = ['Europe/Oslo', 'America/St_Johns', 'Asia/Kathmandu', 'UTC', 'Etc/GMT+5'];
const NONE = ['', ' ', 'Mars/Olympus', 'half past', 'Europe/oslo?', '<b>', 'x'.repeat(300), '０'];

describe('a time zone', () => {
  it.each(ZONES)('%s is one', (zone) => {
    expect(isTimeZone(zone)).toBe(true);
    expect(knownZone(zone)).toBe(zone);
    const moment = wallTime(Date.UTC(2026, 5, 11, 10), null, zone);
    expect(wallMs(moment, null)).toBe(Date.UTC(2026, 5, 11, 10));
  });

  it.each(NONE)('%j is none', (zone) => {
    expect(isTimeZone(zone)).toBe(false);
    expect(knownZone(zone)).toBeNull();
  });

  it('of a programme is that of its first cell', () => {
    const [oslo, nowhere] = [{ timeZone: 'Europe/Oslo' }, { timeZone: 'Mars/Olympus' }];
    expect(zoneOf({ cell: oslo as never })).toBe('Europe/Oslo');
    expect(zoneOf({ cells: [nowhere, oslo] as never })).toBeNull();
    expect(zoneOf({ cell: nowhere, cells: [oslo, nowhere] } as never)).toBe('Europe/Oslo');
    expect(zoneOf({})).toBeNull();
  });

  it('that is none is a gap, and neither analysis, sheet nor a dated calibration ends at it', () => {
    const [day] = DEMO_DAYS;
    const { bundle, findings } = day!.changed((copy) => {
      copy.cell = { ...(copy.cells?.[0] ?? copy.cell!), timeZone: 'Mars/Olympus' };
      delete copy.cells;
      const { device, file } = copy.pulls[0]!.logs[0]!;
      copy.channels = { [device]: { odd: { quantity: null, from: '2020-01-01', to: null } }, [`file:${file}`]: {} } as never;
    });
    expect(programmeGaps(bundle).map(({ text }) => text)).toContainEqual(expect.stringContaining('“Mars/Olympus” is no time zone'));
    expect(findings.comparisons.length).toBeGreaterThan(0);
    expect(() => calibrationsOf(bundle, bundle.pulls[0]!)).not.toThrow();
    for (const { logs } of bundle.pulls)
      for (const { device, file } of logs) expect(() => decidedChannels(bundle, device, file)).not.toThrow();
    const curves = { setups: [], differences: [], pulls: [], sections: { points: [], laws: [] } } as never;
    const { tested } = sheetOf({ bundle, findings, curves, tide: {} as never }, findings.comparisons[0]!, formatterFor());
    expect(tested.find(({ label }) => label === 'When')!.text).toMatch(/20\d\d$/);
  });
});
