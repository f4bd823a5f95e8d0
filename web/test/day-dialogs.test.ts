import type { DayHappening, LiveReading } from '@gezeit/contract';
import { checklist, scheduled, withConditioning } from '@gezeit/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { afterEach, describe, expect, it } from 'vitest';
import type { Component } from 'vue';
import ChangedDialog from '../src/features/day/ChangedDialog.vue';
import ChecklistDialog from '../src/features/day/ChecklistDialog.vue';
import DayBar from '../src/features/day/DayBar.vue';
import DayLine from '../src/features/day/DayLine.vue';
import DevicesDialog from '../src/features/day/DevicesDialog.vue';
import FilesDialog from '../src/features/day/FilesDialog.vue';
import FiguresDialog from '../src/features/day/FiguresDialog.vue';
import GateReadouts from '../src/features/day/GateReadouts.vue';
import InsertDialog from '../src/features/day/InsertDialog.vue';
import NoteDialog from '../src/features/day/NoteDialog.vue';
import NowPanel from '../src/features/day/NowPanel.vue';
import PullDialog from '../src/features/day/PullDialog.vue';
import ReadingsDialog from '../src/features/day/ReadingsDialog.vue';
import ReasonDialog from '../src/features/day/ReasonDialog.vue';
import StopDialog from '../src/features/day/StopDialog.vue';
import ZeroDialog from '../src/features/day/ZeroDialog.vue';
import { useDay, type DayDialog } from '../src/features/day/day-store.js';
import { useDayActions } from '../src/features/day/use-day-actions.js';
import { useProgramme } from '../src/model/programme-store.js';
import ChoiceInput from '../src/shared/form/ChoiceInput.vue';
import { useUnits } from '../src/shared/units/units-store.js';
import { alerts, button, field, IMPERIAL, METRIC, press, put, type } from './support/mounting.js';
import { ended, pull } from './support/day-happenings.js';
import { direct, LiveEnd, newProgramme, page, refusal } from './support/page.js';

const at = page();
let wrapper: VueWrapper | null = null;
afterEach(async () => {
  useDay().close();
  await flushPromises();
  wrapper?.unmount();
  wrapper = null;
});
const PLAN = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']) });
const clock = (ms: number) => new Date(ms).toISOString().slice(11, 16);
/** A day that runs with one pull driven. */
async function running(title: string) {
  const id = await newProgramme(title);
  const programme = useProgramme();
  await programme.open(id);
  const day = useDay();
  day.open(id);
  const tell = async (readings: LiveReading[] = []) => {
    const view = (await direct('GET', `/api/programmes/${id}/day`)) as { clock: { nowMs: number } };
    LiveEnd.last!.tell({ type: 'view', view: { ...view, readings } });
  };
  await tell();
  await day.act({ kind: 'begun', day: '2026-06-11', pulls: PLAN.pulls, fitted: 'A' });
  const items = checklist(day.bundle, 'beforeDay').flatMap(({ id: item, safety }) => (safety ? item : []));
  await day.act({ kind: 'checked', list: 'beforeDay', of: '2026-06-11', items, done: true });
  await day.act(pull('p01'), ended('p01'));
  return { id, day, programme, tell };
}
/** Opens a dialog of the day in the given units. */
async function open(component: Component, name: DayDialog, props: Record<string, unknown> = {}, units = METRIC): Promise<void> {
  wrapper = put(component, props, units);
  useDay().dialog = name;
  await flushPromises();
}
const choose = async (label: string, key: string): Promise<void> => {
  const choice = wrapper!.findAllComponents(ChoiceInput).find((entry) => entry.props('label') === label)!;
  choice.vm.$emit('update:modelValue', key);
  await flushPromises();
};
const last = () => useDay().events.at(-1)!.what;
const said = () => document.querySelector('[role=dialog]')!.textContent;

describe('the line above the day', () => {
  it('shows the weather that a pull would carry, and names a sensor that reads what no weather is', async () => {
    const { day, tell } = await running('A sensor that is off');
    await day.act({ kind: 'weather', weather: { temperatureC: 21, pressureKPa: 98.4, relativeHumidityPct: 45 } });
    const reading = (quantity: LiveReading['quantity'], value: number): LiveReading => ({ quantity, value, atMs: 0 });
    wrapper = put(DayLine, { planned: 4, clock });
    await flushPromises();
    expect(wrapper.text()).toMatch(/21\.0 °C.*98\.4\d* kPa.*45 %/);
    await tell([reading('ambientPressure', 99_000)]);
    await flushPromises();
    expect(wrapper.text()).toMatch(/99\.0\d* kPa/);
    expect(wrapper.findAll('[role=status]')).toEqual([]);
    await tell([reading('ambientPressure', 990_000), reading('ambientTemperature', 24)]);
    await flushPromises();
    expect(wrapper.text()).toMatch(/24\.0 °C.*98\.4\d* kPa/);
    expect(wrapper.findAll('[role=status]').map((part) => part.text())).toEqual(['Ambient pressure reads what no weather is: not used']);
  });
});

describe('readings typed from instruments', () => {
  it('are taken in the chosen units, with the weather, and the dialog closes', async () => {
    const { day } = await running('Readings');
    await open(ReadingsDialog, 'readings', {}, IMPERIAL);
    await type('Coolant', '190.4');
    await type('Intake air above ambient', '18');
    await type('Air speed at the opening', '72 km/h');
    await type('Air temperature', '68');
    await type('Air pressure', '14.5');
    await type('Humidity', '45');
    await press('Keep the readings');
    await expect.poll(() => day.dialog).toBeNull();
    const read = (gate: string) => day.events.map(({ what }) => what).find((what) => what.kind === 'reading' && what.gate === gate);
    expect((read('coolant') as { value: number }).value).toBeCloseTo(88, 6);
    expect((read('intake') as { value: number }).value).toBeCloseTo(10, 6);
    expect((read('fan') as { value: number }).value).toBeCloseTo(72, 6);
    const weather = last() as Extract<DayHappening, { kind: 'weather' }>;
    expect(weather.weather.temperatureC).toBeCloseTo(20, 6);
    expect(weather.weather.pressureKPa).toBeCloseTo(99.97, 1);
    expect(weather.weather.relativeHumidityPct).toBe(45);
  });

  it('that are not understood keep the dialog open with the field focused: nothing is passed over', async () => {
    const { day } = await running('Nonsense readings');
    const before = day.events.length;
    await open(ReadingsDialog, 'readings');
    await type('Coolant', 'warm');
    await type('Oil', '96');
    await type('Humidity', '140');
    await press('Keep the readings');
    await flushPromises();
    expect(day.dialog).toBe('readings');
    expect(day.events).toHaveLength(before);
    expect(document.activeElement).toBe(field('Coolant'));
    expect(alerts().join()).toContain('Type at most 100');
    await type('Coolant', '');
    await type('Humidity', '');
    await press('Keep the readings');
    await expect.poll(() => day.dialog).toBeNull();
    expect(last()).toMatchObject({ kind: 'reading', gate: 'oil', value: 96 });
  });
});

describe('files that are brought', () => {
  /** Chooses files in the dialog, as a hand does. */
  async function bring(...names: string[]): Promise<void> {
    const input = document.querySelector<HTMLInputElement>('input[type=file]')!;
    const files = names.map((name) => new File(['Time [s],Engine speed [rpm]\n0,2000\n'], name));
    Object.defineProperty(input, 'files', { configurable: true, value: files });
    input.dispatchEvent(new Event('change'));
    await flushPromises();
  }
  const asked = () => at.line.of(/POST .*day\/files/).length;

  it('before a day has begun are refused with one sentence, and no second one is tried', async () => {
    const id = await newProgramme('Files before the day');
    await useProgramme().open(id);
    useDay().open(id);
    await open(FilesDialog, 'files', { clock });
    await bring('a.csv', 'b.csv', 'c.csv');
    await expect.poll(() => alerts().join()).toContain('No day has begun');
    expect(alerts()).toHaveLength(1);
    expect(asked()).toBe(1);
  });

  it('and cannot be read are each named, while the others are taken', async () => {
    await running('Files that cannot be read');
    await open(FilesDialog, 'files', { clock });
    at.line.answer(/POST .*day\/files/, 422, refusal('not-a-table', 'No table of values was found in this text.'));
    await bring('bad.csv', 'good.csv');
    await expect.poll(asked).toBe(2);
    await expect.poll(() => alerts().join()).toContain('bad.csv: No table of values');
    expect(alerts().join()).not.toContain('good.csv');
  });
});

describe('figures typed from a screen', () => {
  it('are kept in kilowatts whatever is typed, with their points, and come back when it is opened again', async () => {
    const { day } = await running('Figures');
    await open(FiguresDialog, 'figures', { pull: 'p01' }, IMPERIAL);
    expect(button('Keep the figures').disabled).toBe(true);
    await type('Peak power', '150');
    await type('Engine speed of the peak', '6100');
    await type('Mean power over the band', '98 kW');
    await press('Point of the curve');
    await type('Engine speed of point 1', '4000');
    expect(alerts()).toEqual(['A point of the curve needs its engine speed and its power.']);
    expect(button('Keep the figures').disabled).toBe(true);
    await type('Power of point 1', '90 kW');
    // Most sheets are corrected: it is asked, never assumed.
    expect(button('Keep the figures').disabled).toBe(true);
    expect(said()).toContain('Say what the figures are corrected by');
    expect(said()).toContain('The questions need mean power');
    await choose('What the figures are corrected by', 'DIN_70020');
    await type('Peak torque', '150');
    await press('Keep the figures');
    await expect.poll(() => day.dialog).toBeNull();
    const { typed } = last() as Extract<DayHappening, { kind: 'pull-amended' }>;
    expect(typed!.peakPowerKW).toBeCloseTo(111.85, 2);
    expect(typed!.corrected).toBe('DIN_70020');
    expect(typed!.peakTorqueNm).toBeCloseTo(203.37, 1);
    expect(typed!.bandMeanPowerKW).toBeCloseTo(98, 6);
    expect(typed!.points![0]!.powerKW).toBeCloseTo(90, 6);
    day.dialog = 'figures';
    await flushPromises();
    expect(field('Peak power').value).toBe('150');
    expect(field('Power of point 1').value).toBe('120.69');
  });

  it('that are nonsense are not kept without the rest', async () => {
    const { day } = await running('Nonsense figures');
    await open(FiguresDialog, 'figures', { pull: 'p01' });
    await type('Peak power', '-3');
    await type('Mean power over the band', '98');
    await choose('What the figures are corrected by', 'NONE');
    await press('Keep the figures');
    await flushPromises();
    expect(day.dialog).toBe('figures');
    expect(document.activeElement).toBe(field('Peak power'));
  });
});

describe('something changed', () => {
  it('becomes a setup of its own, also twice while nothing answers, each from the one before', async () => {
    const { id, day } = await running('Changed twice');
    at.line.cut = true;
    await open(ChangedDialog, 'changed', {}, IMPERIAL);
    expect(button('It is setup C now').disabled).toBe(true);
    await type('Tune', 'file 12');
    await type('Tyre pressure', '32');
    await press('It is setup C now');
    await flushPromises();
    expect(day.state.fitted).toBe('C');
    expect(day.bundle.setups.find((setup) => setup.id === 'C')!.state).toMatchObject({ tune: 'file 12', tyrePressureKPa: 220.632 });
    day.dialog = 'changed';
    await flushPromises();
    expect([field('Tune').value, field('Tyre pressure').value]).toEqual(['file 12', '32.00 psi']);
    await type('Fan', 'second one');
    await press('It is setup D now');
    await flushPromises();
    expect(day.bundle.setups.map((setup) => setup.id)).toEqual(['A', 'B', 'C', 'D']);
    expect(day.setupById.get('D')!.setup.state).toMatchObject({ tune: 'file 12', fan: 'second one' });
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => day.outbox.length).toBe(0);
    const held = (await direct('GET', `/api/programmes/${id}`)) as { bundle: { setups: { id: string }[] } };
    expect(held.bundle.setups.map((setup) => setup.id)).toEqual(['A', 'B', 'C', 'D']);
  });

  it('can be chosen for an inserted pull at once', async () => {
    const { day } = await running('Changed, then inserted');
    at.line.cut = true;
    const setup = { ...day.bundle.setups[0]!, id: 'C', name: 'stock, other fan', reference: false };
    await day.act({ kind: 'setup-changed', setup, restOfDay: false });
    await open(InsertDialog, 'insert');
    expect(said()).toContain('C stock, other fan');
    await press('Insert it');
    await flushPromises();
    expect(last()).toEqual({ kind: 'inserted', setup: 'C', pullKind: 'measured', count: 1 });
    expect(day.dialog).toBeNull();
  });
});

describe('a pull', () => {
  it('shows what was stamped on it in the chosen units, and what can still be said of it', async () => {
    const { day } = await running('Stamped');
    await open(PullDialog, 'pull', { pull: 'p01', clock }, IMPERIAL);
    const rows = () => said().replace(/\s+/g, ' ');
    expect(rows()).toContain('Coolant190 °F, asked 190 ± 5');
    expect(rows()).toContain('Oil203 °F, asked');
    expect(rows()).toContain('Air speed at the openingnot read');
    expect(rows()).toContain('tune map 4');
    useUnits().chosen.temperature = '°C';
    await flushPromises();
    expect(rows()).toContain('Coolant88 °C, asked 88 ± 3');
    await press('It was aborted');
    await flushPromises();
    expect(day.state.pulls[0]!.aborted).toBe(true);
    await press('It was not aborted');
    await flushPromises();
    expect(day.state.pulls[0]!.aborted).toBe(false);
  });
});

describe('a note', () => {
  it('is kept, stands in the list, and stays in its field where it cannot be kept', async () => {
    const { day } = await running('Notes');
    await open(NoteDialog, 'note', { clock, pull: 'p01' });
    await type('Note', 'whistle at 4500');
    await press('Keep the note');
    await expect.poll(() => day.dialog).toBeNull();
    expect(last()).toMatchObject({ kind: 'note', text: 'whistle at 4500', pull: null });
    day.dialog = 'note';
    await flushPromises();
    expect(said()).toContain('whistle at 4500');
    expect(field('Note').value).toBe('');
    await type('Note', '   ');
    expect(button('Keep the note').disabled).toBe(true);
    await type('Note', 'smell of fuel');
    at.line.answer(/POST .*events/, 409, refusal('not-now', 'Not now.'));
    await press('Keep the note');
    await expect.poll(() => alerts().join()).toContain('Not now.');
    expect([day.dialog, field('Note').value]).toEqual(['note', 'smell of fuel']);
  });
});

describe('a stop and a pull against the gates', () => {
  it('need words, and say the limits in the chosen units', async () => {
    const { day } = await running('Stopped');
    await open(StopDialog, 'stop', {}, IMPERIAL);
    expect(said()).toContain('Coolant above 230 °F');
    expect(said()).toContain('The emergency stop is the cell’s own button');
    expect(button('Stop').disabled).toBe(true);
    await type('What was seen or heard', 'smoke');
    await press('Stop');
    await expect.poll(() => day.dialog).toBeNull();
    expect(day.instruction.kind).toBe('stop');
    wrapper!.unmount();
    wrapper = put(NowPanel, { planned: PLAN.pulls.length, clock });
    await flushPromises();
    expect(wrapper.text()).toContain('Stop');
    expect(wrapper.text()).toContain('smoke');
  });

  it('a pull anyway hands its reason over, and none without', async () => {
    await running('Anyway');
    await open(ReasonDialog, 'anyway');
    expect(button('The pull starts').disabled).toBe(true);
    await type('Reason', 'the last one of the day');
    await press('The pull starts');
    expect(wrapper!.emitted('pull')).toEqual([['the last one of the day']]);
  });
});

describe('a car that leaves the rollers for another one', () => {
  it('stands by until it is brought back, and its bar offers that first', async () => {
    const { day } = await running('Standing by');
    const WithActions = {
      components: { DayBar, NowPanel },
      setup: () => ({
        actions: useDayActions(
          { dayName: () => '2026-06-11' } as never,
          () => null,
          () => {},
        ),
        clock,
        PLAN,
      }),
      template: '<NowPanel :planned="PLAN.pulls.length" :clock="clock" /><DayBar :actions="actions" />',
    };
    wrapper = put(WithActions);
    LiveEnd.last!.tell({ type: 'view', view: { ...day.view!, others: [] } });
    await flushPromises();
    expect(wrapper.text()).not.toContain('Off the rollers');
    const view = { ...day.view!, others: [{ id: 'x', title: 'The other car', sameCar: false, running: true }] };
    LiveEnd.last!.tell({ type: 'view', view });
    await flushPromises();
    expect(wrapper.find('a').text()).toBe('Day under way too: The other car');
    await press('Off the rollers');
    await expect.poll(() => day.instruction.kind).toBe('away');
    await expect.poll(() => wrapper!.text()).toContain('Standing by');
    expect(wrapper.text()).toContain('Nothing is taken from the devices');
    expect(await day.act(pull('p02'))).toBe(false);
    expect(day.failure!.nextStep).toBe('Bring it back on the rollers first.');
    await press('Back on the rollers');
    await expect.poll(() => day.state.away).toBeNull();
    expect(day.instruction.kind).not.toBe('away');
  });
});

describe('the end of a day', () => {
  it('is not reached with an item open and no reason given', async () => {
    const { day } = await running('Ended');
    await open(ChecklistDialog, 'end', { name: 'end', list: 'atEnd' });
    const end = () => button('End the day');
    expect(end().disabled).toBe(true);
    for (const box of document.querySelectorAll<HTMLInputElement>('[role=dialog] input[type=checkbox]')) {
      box.click();
      await flushPromises();
    }
    await expect.poll(() => end().disabled).toBe(false);
    await press('End the day');
    await flushPromises();
    await expect.poll(() => day.instruction.kind).toBe('ended');
  });
});

describe('the zero of the pressure channels', () => {
  it('says what each channel is and how far it drifted, and is not stored while the engine runs', async () => {
    const { day, tell } = await running('Zeros');
    const nowMs = Date.now();
    const reading = (quantity: LiveReading['quantity'], value: number): LiveReading => ({ quantity, value, atMs: nowMs });
    await tell([
      reading('manifoldPressure', 101_300),
      reading('pressureDrop', 40),
      reading('ambientPressure', 101_200),
      reading('engineSpeed', 850),
    ]);
    await open(ZeroDialog, 'zero', {}, METRIC);
    expect(button('Store the zero').disabled).toBe(true);
    expect(said()).toContain('switch it off first');
    await tell([
      reading('manifoldPressure', 101_300),
      reading('pressureDrop', 40),
      reading('ambientPressure', 101_200),
      reading('engineSpeed', 0),
    ]);
    await flushPromises();
    await press('Store the zero');
    await flushPromises();
    expect(day.state.zeros).toHaveLength(1);
    expect(said()).toMatch(/Manifold pressure.*absolute/);
    expect(said()).toMatch(/Pressure drop.*gauge/);
  });

  it('asks for a device where no pressure is streamed', async () => {
    await running('No channel');
    await open(ZeroDialog, 'zero');
    expect(said()).toContain('No pressure channel is streamed. Add a device first.');
    expect(button('Store the zero').disabled).toBe(true);
  });
});

describe('a dialog of the cell screen', () => {
  it('gives its first field the focus at once, and leaves it where the hand has gone since', async () => {
    const { day } = await running('Focus');
    await open(ReadingsDialog, 'readings');
    expect(document.activeElement).toBe(field('Coolant'));
    field('Oil').focus();
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect(document.activeElement).toBe(field('Oil'));
    day.dialog = null;
  });
});

describe('devices', () => {
  it('are added and taken off, and one that cannot be reached says so', async () => {
    const { day } = await running('Devices');
    await open(DevicesDialog, 'devices');
    expect(said()).toContain('Nothing is listened to');
    await type('Path of the folder', '/nowhere/at/all');
    await press('Watch it');
    await expect.poll(() => day.view!.devices.length).toBe(1);
    await expect.poll(() => said()).toContain('Watched folder');
    await type('Address of the stream', 'tcp://192.0.2.7:99');
    await press('Listen');
    await expect.poll(() => day.failure?.nextStep ?? '').not.toBe('');
    expect(day.view!.devices).toHaveLength(1);
    await press('Stop listening to folder-1');
    await expect.poll(() => day.view!.devices.length).toBe(0);
  });
});

describe('the gates as read-outs', () => {
  it('follow the units, say the standing in words, and the road speed that an air speed stands for', async () => {
    const { day } = await running('Read-outs');
    await day.act({ kind: 'reading', gate: 'coolant', value: 88 }, { kind: 'reading', gate: 'fan', value: 60 });
    wrapper = put(GateReadouts, { gates: day.instruction.gates, held: new Set<string>() }, IMPERIAL);
    const of = (gate: string) => wrapper!.find(`[data-gate=${gate}]`).text();
    expect(of('coolant')).toContain('190°F');
    expect(of('coolant')).toContain('met');
    expect(of('fan')).toContain('road at 60 km/h');
    expect(of('oil')).toContain('no reading');
  });
});
