import { readingSchema, type Channels } from '@gezeit/contract';
import { readingOf, readLoose } from '@gezeit/core';
import { flushPromises } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import SortFiles from '../src/features/sort/SortFiles.vue';
import { put } from './support/mounting.js';
import { page } from './support/page.js';

// What is said of the columns of dropped files: what was assumed is told as such, what was said by hand or by the file is not.

page();
let wrapper: ReturnType<typeof put> | null = null;

const SAMPLES = Array.from({ length: 300 }, (_, i) => ({
  s: i / 20,
  speed: i < 60 ? 1900 + i : 1960 + (i - 60) * 20,
  open: i >= 60,
}));

/** A file with these columns beside time, engine speed and throttle, read as the server reads it. */
function readingWith(columns: Record<string, (open: boolean) => number>, channels: Channels | null = null) {
  const rows = SAMPLES.map(({ s, speed, open }) =>
    [s.toFixed(2), speed, open ? 100 : 3, ...Object.values(columns).map((of) => of(open).toFixed(2))].join(','),
  );
  const text = `${['Time [s]', 'Engine speed [rpm]', 'Throttle [%]', ...Object.keys(columns)].join(',')}\n${rows.join('\n')}\n`;
  const loose = { file: 'run.csv', bytes: new TextEncoder().encode(text), sha256: 'a'.repeat(64) };
  return readingSchema.parse(JSON.parse(JSON.stringify(readingOf([readLoose(loose, { channels })]))));
}

async function assumedOf(reading: ReturnType<typeof readingWith>, channels: Channels | null = null): Promise<string[]> {
  wrapper = put(SortFiles, { reading, channels });
  await flushPromises();
  return wrapper.findAll('li.assumed').map((item) => item.text());
}

describe('what was assumed of a column', () => {
  it('is told with everything that was: a unit that nobody wrote, the ratio of a mixture', async () => {
    const assumed = await assumedOf(readingWith({ 'Coolant temperature': () => 88, AFR: (open) => (open ? 12.6 : 14.6) }));
    expect(assumed.join('\n')).toMatch(/“Coolant temperature” as coolant temperature: no unit given: taken as °C by its values/);
    expect(assumed.join('\n')).toMatch(/“AFR” as lambda: .*divided by 14\.7, the usual setting of the device \(assumption\)/);
    expect(assumed).toHaveLength(2);
  });

  it('is nothing where the file says it, or somebody has', async () => {
    const said = { 'Coolant temperature [°C]': () => 88, 'Lambda [-]': () => 0.86 };
    expect(await assumedOf(readingWith(said))).toEqual([]);
    wrapper!.unmount();
    const channels = { ecu: { 'Coolant temperature': { quantity: 'coolantTemperature' as const, unit: '°C' } } };
    expect(await assumedOf(readingWith({ 'Coolant temperature': () => 88 }, channels), channels)).toEqual([]);
  });

  it('does not depend on what a header says: one that speaks of an assumption is none', async () => {
    const reading = readingWith({ 'Assumption, no unit given [bar]': () => 1.2, 'Coolant temperature [°C]': () => 88 });
    expect(await assumedOf(reading)).toEqual([]);
  });
});

describe('a file that is dropped twice', () => {
  it('is named with the one that it is, and no place is offered for it', async () => {
    const text = `Time [s],Engine speed [rpm],Throttle [%]\n${SAMPLES.map(({ s, speed, open }) => `${s.toFixed(2)},${speed},${open ? 100 : 3}`).join('\n')}\n`;
    const loose = (file: string) => ({ file, bytes: new TextEncoder().encode(text), sha256: 'b'.repeat(64) });
    const reading = readingSchema.parse(readingOf([loose('run.csv'), loose('run - copy.csv')].map((file) => readLoose(file, {}))));
    wrapper = put(SortFiles, { reading, channels: null });
    await flushPromises();
    expect(wrapper.find('p.left').text()).toBe('run - copy.csv belongs to no pull: It is the same file as run.csv, byte for byte.');
    expect(wrapper.findAll('p.left button')).toEqual([]);
  });
});
