import { mkdtempSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { type Page } from '@playwright/test';
import { boardSchema, type DayHappening } from '@gezeit/contract';
import { dayState } from '../core/src/index.js';
import { driveDay, ecuDevice, record, scheduleOf, STOCK_TURBO, TURBO_ESTATE, writeLog } from '../core/src/simulate/index.js';
import { axeOn, beginProgramme, chooseByKey, expect, goTo, settled, test, typeInto } from './support.js';

import { PERSON, MIRRORED, setPlan, dayOf, SAFE, saysWithin, tickAll, pressButton, key } from './day-support.js';

const happen = async (page: Page, id: string, events: { atMs: number; what: DayHappening }[]) => {
  const response = await page.request.post(`/api/programmes/${id}/day/events`, {
    headers: PERSON,
    data: { events: events.map(({ atMs, what }) => ({ id: randomUUID(), at: new Date(atMs).toISOString(), what })) },
  });
  expect(response.ok(), await response.text()).toBe(true);
};

test('40 pulls, one file missing, the logger’s clock an hour off and its date wrong: asked about, never shifted', async ({ page }) => {
  test.setTimeout(180_000);
  const id = await beginProgramme(page, 'Memory stick at noon', 'question');
  const order = 'AABBBBAABBAABBBBAAAABBAABBBBAA';
  let changing = 0;
  const day = driveDay({
    seed: 8,
    engine: { ...TURBO_ESTATE, startRpm: 3000 },
    setups: { A: STOCK_TURBO, B: STOCK_TURBO },
    schedule: scheduleOf(
      order,
      () => 4 + ((changing += 1) % 7) * 0.4,
      () => 11 + ((changing += 1) % 5),
      true,
    ).slice(0, 40),
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0.005,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 1, pressurePa: 50, humidity: 0.02 },
    },
    weather: { temperatureC: 20, pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 5,
  });
  expect(day).toHaveLength(40);
  const startMs = Date.parse('2026-03-04T07:00:00Z');
  const pulls = day.map(({ setup, kind }) => ({ setup, kind, atMin: 0 }));
  await happen(page, id, [{ atMs: startMs, what: { kind: 'begun', day: '2026-03-04', pulls, fitted: 'A' } }]);
  const key40 = (i: number) => `p${String(i + 1).padStart(2, '0')}`;
  for (const [i, pull] of day.entries()) {
    const atMs = startMs + Math.round(pull.timeH * 3_600_000);
    const begun: DayHappening = {
      kind: 'pull-started',
      pull: key40(i),
      setup: pull.setup,
      pullKind: pull.kind,
      place: i,
      stamp: {},
      weather: null,
      start: { coolantC: null, intakeAirC: null, oilC: null },
      anyway: null,
      cause: 'stream',
    };
    await happen(page, id, [
      { atMs, what: begun },
      { atMs: atMs + 9000, what: { kind: 'pull-ended', pull: key40(i), aborted: false, cause: 'stream' } },
    ]);
  }
  const GONE = 16;
  const WRONG_S = 3600 - 86_400;
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-stick-'));
  const files = day.flatMap((pull, i) => {
    if (i === GONE) return [];
    const path = join(folder, `log-${String(i + 1).padStart(2, '0')}.csv`);
    writeFileSync(path, writeLog(record(ecuDevice(0, true), pull, 300 + i), 'comma-mark'));
    const madeAt = (startMs + pull.timeH * 3_600_000) / 1000 + 12 + WRONG_S;
    utimesSync(path, madeAt, madeAt);
    return [path];
  });
  await goTo(page, `/programmes/${id}/day`);
  await expect(page.locator('[data-instruction]')).toBeVisible();
  await key(page, 'f');
  let judged = 0;
  page.on('request', (request) => {
    if (request.method() === 'GET' && new URL(request.url()).pathname === `/api/programmes/${id}`) judged += 1;
  });
  await page.getByLabel(/Bring files/).setInputFiles(files);
  const question = page.getByRole('region', { name: 'Files of ecu' });
  await expect(question).toContainText(`by the gaps it is ${key40(GONE)} that has no file`, { timeout: 60_000 });
  await expect(question).toContainText(/1 day less 1 h behind|23 h behind/);
  // What follows from all of them is judged once, and not after every file.
  expect(judged).toBeLessThan(4);
  const before = await dayOf(page, '', id);
  expect(dayState(before.events).matches.size).toBe(0);
  await pressButton(page, 'So it is, for ecu');
  await expect(question).toHaveCount(0);
  const { matches, offsetS, asked } = dayState((await dayOf(page, '', id)).events).matches.get('ecu')!;
  expect(asked).toBe(true);
  expect(offsetS! / WRONG_S).toBeCloseTo(1, 3);
  expect(matches).toHaveLength(39);
  for (const { file, pull } of matches) expect(`log-${pull!.slice(1)}.csv`).toBe(file.split('/').at(-1));
});

test('a pull that nobody recorded is inserted from its file with one press, where it was driven', async ({ page }) => {
  const id = await beginProgramme(page, 'Missed pull', 'question');
  const day = driveDay({
    seed: 5,
    engine: { ...TURBO_ESTATE, startRpm: 3000 },
    setups: { A: STOCK_TURBO },
    schedule: scheduleOf(
      'AAAA',
      () => 5,
      () => 20,
      true,
    ),
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0,
      walkAtSwap: 0,
      weatherPerHour: { temperatureK: 0, pressurePa: 0, humidity: 0 },
    },
    weather: { temperatureC: 20, pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 5,
  });
  const startMs = Date.parse('2026-03-05T07:00:00Z');
  const atMs = (i: number) => startMs + Math.round(day[i]!.timeH * 3_600_000);
  await happen(page, id, [{ atMs: startMs, what: { kind: 'begun', day: '2026-03-05', pulls: MIRRORED.pulls, fitted: 'A' } }]);
  const MISSED = 2;
  const recorded = day.map((_, i) => i).filter((i) => i !== MISSED);
  for (const [n, i] of recorded.entries()) {
    const begun: DayHappening = {
      kind: 'pull-started',
      pull: `p0${n + 1}`,
      setup: 'A',
      pullKind: 'measured',
      place: null,
      stamp: {},
      weather: null,
      start: { coolantC: null, intakeAirC: null, oilC: null },
      anyway: null,
      cause: 'stream',
    };
    await happen(page, id, [
      { atMs: atMs(i), what: begun },
      { atMs: atMs(i) + 9000, what: { kind: 'pull-ended', pull: `p0${n + 1}`, aborted: false, cause: 'key' } },
    ]);
  }
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-missed-'));
  const files = day.map((pull, i) => {
    const path = join(folder, `log-${i + 1}.csv`);
    writeFileSync(path, writeLog(record(ecuDevice(0, true), pull, 500 + i), 'bracketed'));
    const madeAt = atMs(i) / 1000 + 12;
    utimesSync(path, madeAt, madeAt);
    return path;
  });
  await goTo(page, `/programmes/${id}/day`);
  await expect(page.locator('[data-instruction]')).toBeVisible();
  await key(page, 'f');
  // One that is no log stops none of the others, and is named.
  const bad = join(folder, 'holiday.csv');
  writeFileSync(bad, 'no table at all');
  utimesSync(bad, atMs(1) / 1000, atMs(1) / 1000);
  const air = join(folder, 'air.csv');
  const at = (i: number) => (atMs(i) / 1000).toFixed(0);
  writeFileSync(
    air,
    ['Time [s],Ambient temperature [°C],Barometric pressure [kPa]', `${at(0)},21.5,99.1`, `${at(2)},22.5,99.0`, `${at(4)},23.5,98.9`].join(
      '\n',
    ),
  );
  utimesSync(air, atMs(4) / 1000, atMs(4) / 1000);
  await page.getByLabel(/Bring files/).setInputFiles([bad, ...files, air]);
  await expect(page.getByRole('region', { name: 'Files of ecu' })).toContainText('One pull in the files was never recorded', {
    timeout: 30_000,
  });
  await expect(page.getByRole('alert')).toContainText(/holiday\.csv: .+/);
  await expect(page.getByRole('list', { name: 'Matched files' })).toContainText(/air\.csv: the air from/);
  await pressButton(page, 'Insert the missed pull');
  await expect(page.getByRole('region', { name: 'Files of ecu' })).toHaveCount(0, { timeout: 20_000 });
  const state = dayState((await dayOf(page, '', id)).events);
  expect(state.pulls).toHaveLength(5);
  const inserted = state.pulls[MISSED]!;
  expect(inserted.begun.cause).toBe('file');
  expect(Math.abs(inserted.startedMs - atMs(MISSED))).toBeLessThan(5000);
  const { matches } = state.matches.get('ecu')!;
  expect(matches.find(({ pull }) => pull === inserted.id)!.file).toContain(`log-${MISSED + 1}.csv`);
  expect(matches.every(({ pull }) => pull !== null)).toBe(true);
});

test('a day without any device is run by keys alone: readings typed, a pull missed, aborted, typed, and the plan left', async ({
  page,
}) => {
  const id = await beginProgramme(page, 'By keys alone', 'question');
  await setPlan(page, '', id, MIRRORED);
  await goTo(page, `/programmes/${id}/day`);
  await saysWithin(page, 'begin');
  await key(page, 'Enter');
  await key(page, 'l');
  await tickAll(page);
  await pressButton(page, 'Done');
  await saysWithin(page, 'wait');
  await expect(page.getByText(/Coolant: no reading.*type it/)).toBeVisible();
  await key(page, 't');
  await typeInto(page, 'Coolant', '190 °F');
  await typeInto(page, 'Intake air above ambient, idling', '5');
  await typeInto(page, 'Air temperature', '19,5');
  await typeInto(page, 'Air pressure', '992 hPa');
  await pressButton(page, 'Keep the readings');
  await saysWithin(page, 'pull');
  await expect(page.locator('[data-gate="coolant"]')).toContainText('88');
  await key(page, 'p');
  await saysWithin(page, 'driving');
  await key(page, 'a');
  await expect(page.getByText('Pull p01 aborted: kept, not counted')).toBeVisible();
  // The aborted one stands before the plan again.
  await saysWithin(page, 'pull');
  await key(page, 'p');
  await saysWithin(page, 'driving');
  await key(page, 'p');
  await saysWithin(page, 'wait');
  // Not ready, and driven all the same: it needs a reason.
  await key(page, 'p');
  await expect(page.getByRole('dialog')).toContainText('Pull although it is not ready');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'The pull starts' })).toBeDisabled();
  await page.getByRole('textbox', { name: 'Reason' }).fill('the cell closes at five');
  await page.keyboard.press('Enter');
  await saysWithin(page, 'driving');
  await key(page, 'p');
  await key(page, 'o');
  await expect(page.getByRole('dialog')).toContainText('although not ready: the cell closes at five');
  await pressButton(page, 'Type figures');
  await typeInto(page, 'Peak power', '118,4');
  await typeInto(page, 'Engine speed of the peak', '6100');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Keep the figures' })).toBeDisabled();
  await chooseByKey(page, 'What the figures are corrected by', 'uncorrected');
  await pressButton(page, 'Keep the figures');
  await expect(page.getByText('figures typed from the cell’s screen')).toBeVisible();
  await key(page, 'n');
  await page.getByRole('textbox', { name: 'Note' }).fill('belt squeals');
  await page.keyboard.press('Enter');
  await key(page, 'h');
  await page.getByLabel('What was seen or heard').fill('fault code for the boost sensor');
  await page.keyboard.press('Enter');
  await saysWithin(page, 'stop');
  await expect(page.locator('.reason')).toContainText('fault code for the boost sensor');
  await key(page, 'p');
  await saysWithin(page, 'stop');
  await key(page, 'Enter');
  await expect(page.locator('[data-instruction="stop"]')).toHaveCount(0);
  await key(page, 'k');
  await key(page, 'i');
  await chooseByKey(page, 'Kind of the inserted pull', 'tuning');
  await pressButton(page, 'Insert it');
  await expect(page.locator('[data-instruction="pull"]')).toHaveText('Tune');
  await key(page, 'c');
  await page.getByLabel('Fuel').fill('98 RON');
  await pressButton(page, /It is setup C now/);
  await expect(page.locator('header.line')).toContainText('C New part, fuel 98 RON'.slice(0, 2));
  await expect.poll(async () => dayState((await dayOf(page, '', id)).events).fitted).toBe('C');
  await page.reload();
  await saysWithin(page, 'swap');
  await key(page, 'z');
  await expect.poll(async () => dayState((await dayOf(page, '', id)).events).fitted).toBe('A');
  await key(page, 'e');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'End the day' })).toBeDisabled();
  await page.getByLabel(/say why the day closes so/).fill('the car stays on the rollers');
  await pressButton(page, 'End the day');
  await saysWithin(page, 'ended');
  await settled(page);
  const state = dayState((await dayOf(page, '', id)).events);
  expect(state.pulls.map(({ aborted, begun, typed }) => [aborted, begun.anyway, typed?.peakPowerKW ?? null])).toEqual([
    [true, null, null],
    [false, null, null],
    [false, 'the cell closes at five', 118.4],
  ]);
  expect(state.weather!.value).toEqual({ temperatureC: 19.5, pressureKPa: 99.2, relativeHumidityPct: null });
  expect(state.notes[0]!.text).toBe('belt squeals');
  expect(state.endReason).toBe('the car stays on the rollers');
});

test('is readable from three metres, and every target is large enough', async ({ page }) => {
  const board = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const coupe = board.programmes.find(({ title }) => title.startsWith('Water-to-air'))!;
  await goTo(page, `/programmes/${coupe.id}/day`);
  await saysWithin(page, 'begin');
  const size = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((element) => Number.parseFloat(getComputedStyle(element).fontSize));
  expect((await page.locator('[data-instruction]').boundingBox())!.height).toBeGreaterThanOrEqual(120);
  expect(await size('[data-instruction]')).toBeGreaterThanOrEqual(120);
  expect(await size('.reason')).toBeGreaterThanOrEqual(32);
  expect(await size('[data-gate] .value')).toBeGreaterThanOrEqual(44);
  expect(await size('.then p')).toBeGreaterThanOrEqual(28);
  const small: string[] = [];
  for (const button of await page.locator('.bar .p-button').all()) {
    const box = await button.boundingBox();
    if (box && (box.height < 48 || box.width < 48)) small.push(`${await button.textContent()} ${box.width}×${box.height}`);
  }
  expect(small).toEqual([]);
});

/** Every dialog of Day by its key. */
const DIALOGS: [string, string][] = [
  ['n', 'Note'],
  ['c', 'Something changed'],
  ['t', 'Read off the instruments'],
  ['0', 'Zero of the pressure channels'],
  ['i', 'Insert a pull'],
  ['h', 'Stop'],
  ['l', 'Before the day'],
  ['f', 'Files'],
  ['d', 'Devices'],
  ['o', 'Pull p01'],
  ['e', 'At the end'],
];

test('every dialog opens by its key and by its button, holds the focus, is large enough, and Esc closes it with nothing done', async ({
  page,
}) => {
  // Fourteen dialogs, each opened twice and looked at by axe.
  test.setTimeout(150_000);
  const id = await beginProgramme(page, 'Every dialog', 'question');
  await setPlan(page, '', id, MIRRORED);
  const atMs = Date.now() - 600_000;
  const noReadings = { coolantC: null, intakeAirC: null, oilC: null };
  await happen(page, id, [
    { atMs, what: { kind: 'begun', day: '2026-03-04', pulls: MIRRORED.pulls, fitted: null } },
    { atMs, what: { kind: 'checked', list: 'beforeDay', of: '2026-03-04', items: SAFE, done: true } },
    {
      atMs,
      what: {
        kind: 'pull-started',
        pull: 'p01',
        setup: 'A',
        pullKind: 'conditioning',
        place: 0,
        stamp: {},
        weather: null,
        start: noReadings,
        anyway: null,
        cause: 'key',
      },
    },
    { atMs: atMs + 12_000, what: { kind: 'pull-ended', pull: 'p01', aborted: false, cause: 'key' } },
  ]);
  await goTo(page, `/programmes/${id}/day`);
  await expect(page.locator('header.line')).toContainText('1 of 7 driven');
  const before = (await dayOf(page, '', id)).events.length;
  const told: string[] = [];
  for (const [letter, name] of DIALOGS) {
    await key(page, letter);
    const dialog = page.getByRole('dialog');
    await expect(dialog, letter).toHaveCount(1);
    told.push(`${letter} ${(await dialog.locator('.p-dialog-title').textContent())!.trim().slice(0, name.length)}`);
    await expect(dialog.locator(':focus'), letter).toHaveCount(1);
    const small: string[] = [];
    for (const button of await dialog.locator('.p-dialog-content .p-button, .p-dialog-footer .p-button').all()) {
      const box = await button.boundingBox();
      if (box && (box.height < 47.5 || box.width < 47.5)) small.push(`${await button.textContent()} ${box.width}×${box.height}`);
    }
    expect(small, name).toEqual([]);
    const { violations } = await axeOn(page).include('[role=dialog]').withTags(['wcag2a', 'wcag2aa', 'wcag21aa']).analyze();
    expect(
      violations
        .filter(({ impact }) => impact === 'serious' || impact === 'critical')
        .map(({ id: rule, nodes }) => `${rule}: ${nodes[0]!.html}`),
      name,
    ).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(dialog, letter).toHaveCount(0);
    // The button that stands for the key opens the same.
    const button = page.locator(`.bar .p-button[aria-keyshortcuts="${letter}"]`);
    if ((await button.count()) === 0) continue;
    await button.press('Enter');
    await expect(dialog.locator('.p-dialog-title'), letter).toContainText(told.at(-1)!.slice(2));
    await page.keyboard.press('Escape');
    await expect(dialog, letter).toHaveCount(0);
  }
  expect(told).toEqual(DIALOGS.map((entry) => entry.join(' ')));
  // And by the palette, which gives the dialog its place.
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('zero of');
  await expect(page.getByRole('option')).toHaveText(['Zero of the pressure channels0']);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Zero of the pressure channels' })).toBeVisible();
  await expect(page.getByRole('dialog').locator(':focus')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  expect((await dayOf(page, '', id)).events).toHaveLength(before);
});
