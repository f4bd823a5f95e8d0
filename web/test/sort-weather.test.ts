import { stagedSchema, type StagedDecisions } from '@gezeit/contract';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, expect, inject, it } from 'vitest';
import { createMemoryHistory, createRouter } from 'vue-router';
import SortView from '../src/features/sort/SortView.vue';
import { useStaged } from '../src/model/staged-store.js';
import { alerts, field, IMPERIAL, METRIC, put, type } from './support/mounting.js';
import { page, pageOf } from './support/page.js';

// The air of dropped files, typed where no file tells it: a correction rests on it.

const at = page();
let id: string;
beforeEach(() => {
  pageOf(inject('randomServer'));
});

/** A run whose file says nothing of the air. */
let airless: string | null = null;
async function dropAirless(): Promise<string> {
  const rows = Array.from({ length: 400 }, (_, i) => `${(i / 20).toFixed(2)},${1800 + Math.max(0, i - 40) * 13}`);
  const form = new FormData();
  form.append('a.csv', new File([`Time [s],Engine speed [rpm]\n${rows.join('\n')}\n`], 'a.csv'));
  const answer = await fetch('/api/staged?title=Airless', { method: 'POST', headers: { 'x-gezeit-person': 'PT' }, body: form });
  return stagedSchema.parse(await answer.json()).id;
}

/** Dropped files in front of whoever sorts them, without anything decided about the air. */
async function sort(units = METRIC, dropped: string | null = null): Promise<void> {
  id = dropped ?? (airless ??= await dropAirless());
  await useStaged().open(id);
  await useStaged().decide({ weather: null });
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/sort/:id', component: SortView }] });
  await router.push(`/sort/${id}`);
  put(SortView, {}, units, router);
  await says(dropped ? 'as the files say' : 'no file tells');
}
const sent = () =>
  at.line.of(/PATCH .*staged/).flatMap(({ body }) => ('weather' in (body as StagedDecisions) ? [(body as StagedDecisions).weather] : []));
const held = async () => stagedSchema.parse(await (await fetch(`/api/staged/${id}`)).json()).decisions.weather;
const says = (words: string) => expect.poll(() => document.body.textContent).toContain(words);

it.each([
  ['Air temperature', '-400', 'Type at least -50 °C.'],
  ['Air temperature', '295', 'Type at most 60 °C.'],
  ['Air temperature', '99 kPa', /°C/],
  ['Air temperature', 'mild', /number/],
  // In another unit than the field's, and as gauge pressure.
  ['Air pressure', '1.013', 'Type at least 50 kPa.'],
  ['Air pressure', '994', 'Type at most 110 kPa.'],
  ['Air pressure', '0', 'Type at least 50 kPa.'],
  ['Air pressure', '-3', 'Type at least 50 kPa.'],
  ['Humidity', '145', 'Type at most 100 %.'],
  ['Humidity', '-1', 'Type at least 0 %.'],
])('%s of “%s” is refused beside it, kept in its field, and goes nowhere', async (label, text, words) => {
  await sort();
  const before = sent().length;
  await type(label, text);
  await flushPromises();
  expect(alerts()).toHaveLength(1);
  expect(alerts()[0]).toMatch(words);
  expect(field(label).value).toBe(text);
  expect(sent().slice(before)).toEqual([]);
});

it.each([
  ['metric', METRIC, ['20,5', '994 hPa', '45'], { temperatureC: 20.5, pressureKPa: 99.4, relativeHumidityPct: 45 }],
  ['imperial', IMPERIAL, ['68', '29.36 inHg', ''], { temperatureC: 20, pressureKPa: 99.42, relativeHumidityPct: null }],
] as const)('is taken in %s units once temperature and pressure stand, and neither counts alone', async (_, units, texts, weather) => {
  await sort(units);
  const before = sent().length;
  await type('Air temperature', texts[0]);
  await says('neither counts alone');
  expect(sent().slice(before).filter(Boolean)).toEqual([]);
  await type('Air pressure', texts[1]);
  if (texts[2]) await type('Humidity', texts[2]);
  await expect.poll(async () => (await held())?.relativeHumidityPct).toBe(weather.relativeHumidityPct);
  const stored = await held();
  expect(stored!.temperatureC).toBeCloseTo(weather.temperatureC, 6);
  expect(stored!.pressureKPa).toBeCloseTo(weather.pressureKPa, 1);
  await says('as typed');
});

it.each([
  ['no file tells', null],
  ['as the files say', 'dropped'],
] as const)('that is taken out of its field counts no more (%s), and comes back by undo', async (words, dropped) => {
  await sort(METRIC, dropped && inject(dropped));
  const texts = () => ['Air temperature', 'Air pressure', 'Humidity'].map((label) => field(label).value);
  const said = texts();
  if (dropped === null) {
    await type('Humidity', '40');
    // What is typed first stays, though it counts for nothing yet.
    await useStaged().decide({});
    expect(texts()).toEqual(['', '', '40']);
  } else await type('Humidity', '40');
  await type('Air temperature', '20');
  await type('Air pressure', '99.4');
  await expect.poll(held).toEqual({ temperatureC: 20, pressureKPa: 99.4, relativeHumidityPct: 40 });
  await type('Air pressure', '');
  await expect.poll(held).toBeNull();
  await says('neither counts alone');
  await type('Air temperature', '');
  await type('Humidity', '');
  await says(words);
  await expect.poll(texts).toEqual(said);
  await useStaged().undo();
  expect(useStaged().decisions.weather).toEqual({ temperatureC: 20, pressureKPa: 99.4, relativeHumidityPct: 40 });
  await says('as typed');
  expect(texts()).toEqual(['20', '99.4', '40']);
});
