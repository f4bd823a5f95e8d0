import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import AxeBuilder from '@axe-core/playwright';
import { test as plain, type Browser, type Page } from '@playwright/test';
import {
  boardSchema,
  createdSchema,
  dayViewSchema,
  programmeViewSchema,
  rigTruthSchema,
  type DayHappening,
  type DayView,
  type Plan,
} from '@gezeit/contract';
import { dayState, scheduled, withConditioning } from '../core/src/index.js';
import { driveDay, ecuDevice, record, scheduleOf, STOCK_TURBO, TURBO_ESTATE, writeLog } from '../core/src/simulate/index.js';
import { beginProgramme, chooseByKey, expect, settled, test, typeInto } from './support.js';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const PERSON = { 'x-gezeit-person': 'BT%20Browser%20Test' };
const MIRRORED: Plan = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']), restMin: 5, swapMin: 10 });

async function setPlan(page: Page, address: string, id: string, plan: Plan): Promise<void> {
  const view = programmeViewSchema.parse(await (await page.request.get(`${address}/api/programmes/${id}`)).json());
  const response = await page.request.patch(`${address}/api/programmes/${id}`, {
    headers: PERSON,
    data: { part: 'plan', before: view.bundle.plan ?? null, value: plan, what: 'plan' },
  });
  expect(response.ok()).toBe(true);
}
const dayOf = async (page: Page, address: string, id: string): Promise<DayView> =>
  dayViewSchema.parse(await (await page.request.get(`${address}/api/programmes/${id}/day`)).json());
const SAFE = ['straps', 'tyres', 'exhaust', 'people', 'stop', 'criteria'];
const says = (page: Page) => page.locator('[data-instruction]').getAttribute('data-instruction');
const saysWithin = (page: Page, kind: string, timeout = 30_000) =>
  expect(page.locator(`[data-instruction="${kind}"]`)).toBeVisible({ timeout });

/** Nothing moves any more: what opens has opened. */
const still = (page: Page) =>
  page.evaluate(async () => {
    await new Promise(requestAnimationFrame);
    await Promise.all(document.getAnimations().map(({ finished }) => finished.catch(() => undefined)));
    await new Promise(requestAnimationFrame);
  });
/** Ticks every box of the open dialog by keys. */
async function tickAll(page: Page): Promise<void> {
  const dialog = page.getByRole('dialog');
  await expect(dialog).toBeVisible();
  // It takes the focus once it stands.
  await expect(page.locator('.p-dialog-enter-active')).toHaveCount(0);
  await expect(dialog.locator(':focus')).toHaveCount(1);
  await still(page);
  for (const box of await dialog.getByRole('checkbox').all()) {
    if (await box.isChecked()) continue;
    await box.focus();
    await page.keyboard.press('Space');
    await expect(box).toBeChecked();
  }
}
async function pressButton(page: Page, name: string | RegExp): Promise<void> {
  const button = page.getByRole('dialog').getByRole('button', { name });
  await expect(button).toBeEnabled();
  await button.focus();
  await page.keyboard.press('Enter');
}
/** So many pulls are driven: at 60 times its speed a pull is over before it can be looked at. */
const driven = (page: Page, count: number) =>
  expect
    .poll(async () => Number(/(\d+) of \d+ driven/.exec((await page.locator('header.line').textContent()) ?? '')?.[1]), { timeout: 40_000 })
    .toBeGreaterThanOrEqual(count);
/** Waits until so many minutes of the day's own clock have passed. */
async function pass(page: Page, address: string, id: string, minutes: number): Promise<void> {
  const now = async () => (await dayOf(page, address, id)).clock.nowMs;
  const until = (await now()) + 60_000 * minutes;
  await expect.poll(now, { timeout: 30_000 }).toBeGreaterThan(until);
}
/** A key of the screen: with nothing open over it. */
async function key(page: Page, name: string): Promise<void> {
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.locator('body').press(name);
  // Whatever opens takes the focus once it stands.
  await still(page);
}

/** A Gezeit of its own that can be killed and started again on the same data. */
class OwnServer {
  #process: ChildProcess | null = null;
  readonly #folder = mkdtempSync(join(tmpdir(), 'gezeit-day-'));
  constructor(readonly port: number) {}
  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }
  async start(): Promise<void> {
    const env = { ...process.env, GEZEIT_DATA: this.#folder, GEZEIT_LOG: 'warn' };
    this.#process = spawn(process.execPath, [join(root, 'server/bin/gezeit.js'), 'serve', '--port', String(this.port)], {
      env,
      stdio: 'ignore',
    });
    for (let i = 0; i < 150; i++) {
      const isUp = await fetch(`${this.address}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      );
      if (isUp) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the server did not start');
  }
  async kill(): Promise<void> {
    const ending = new Promise((resolve) => this.#process?.once('exit', resolve));
    this.#process?.kill('SIGKILL');
    await ending;
  }
}

/** Begins a swap: what safety asks before the hands go in is ticked first. */
async function beginSwap(page: Page): Promise<void> {
  await key(page, 's');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'The swap begins' })).toBeDisabled();
  await tickAll(page);
  await pressButton(page, 'The swap begins');
}

/** Says that the swap is done: everything ticked, and whether the engine control was reset. */
async function finishSwap(page: Page, reset: 'Yes' | 'No'): Promise<void> {
  await key(page, 's');
  await tickAll(page);
  await page.getByRole('radio', { name: reset }).focus();
  await page.keyboard.press('Space');
  await pressButton(page, 'Swap done');
}

interface OwnDay {
  server: OwnServer;
  page: Page;
  id: string;
}

/** A programme with a plan on a Gezeit of its own, that may be killed; pages are kept by the worker. */
async function onOwnServer(
  browser: Browser,
  programme: { title: string; aspiration: 'na' | 'turbo' },
  run: (own: OwnDay) => Promise<void>,
): Promise<void> {
  const server = new OwnServer(4796);
  await server.start();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'allow' });
  await context.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'BT', name: 'Browser Test' })));
  const page = await context.newPage();
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  try {
    const made = await page.request.post(`${server.address}/api/programmes`, { headers: PERSON, data: programme });
    const { id } = createdSchema.parse(await made.json());
    await setPlan(page, server.address, id, MIRRORED);
    await run({ server, page, id });
    expect(broken).toEqual([]);
  } finally {
    await context.close();
    await server.kill();
  }
}

plain(
  'a whole day on the rig at 60 times its speed, by keys, with a mishap, a killed server and a verdict that holds the truth',
  async ({ browser }) => {
    plain.setTimeout(300_000);
    await onOwnServer(browser, { title: 'Rig day', aspiration: 'turbo' }, async ({ server, page, id }) => {
      await page.request.post(`${server.address}/api/programmes/${id}/day/devices`, {
        headers: PERSON,
        data: { id: 'rig-1', kind: 'rig', speed: 60, follows: true, seed: 20, clockWrongS: 0 },
      });
      await page.goto(`${server.address}/programmes/${id}/day`);
      await saysWithin(page, 'begin');
      await key(page, 'Enter');
      await saysWithin(page, 'check');
      await key(page, 'Enter');
      await tickAll(page);
      await pressButton(page, 'Done');

      // Warm-up, the first pulls, and a second window that follows.
      const second = await page.context().newPage();
      await second.goto(`${server.address}/programmes/${id}/day`);
      await driven(page, 1);
      await driven(second, 1);
      await driven(page, 2);
      await saysWithin(page, 'swap');
      await expect.poll(() => says(second)).toBe('swap');
      await expect(page.getByText('Pull p02 counts.')).toBeVisible();

      // The server is killed in the middle; what is done meanwhile is kept here and sent when it is there again.
      await server.kill();
      await expect(page.getByText(/No answer from Gezeit/)).toBeVisible();
      await key(page, 'n');
      await page.getByRole('textbox', { name: 'Note' }).fill('written while the server was down');
      await page.keyboard.press('Enter');
      await expect(page.getByText('No answer from Gezeit: 1 kept here')).toBeVisible();
      // Not even a reload needs it: pages, programme and day are in the browser.
      await page.reload();
      await saysWithin(page, 'swap');
      await expect(page.getByText('No answer from Gezeit: 1 kept here')).toBeVisible();
      await expect(page.getByText(/Gezeit does not answer: shown from this browser, as it was at \d/)).toBeVisible();
      await expect(page.locator('header.line')).toContainText('2 of 7 driven');
      await server.start();
      await expect(page.getByText(/No answer from Gezeit/)).toHaveCount(0, { timeout: 20_000 });
      const restarted = await dayOf(page, server.address, id);
      expect(dayState(restarted.events).notes.map(({ text }) => text)).toEqual(['written while the server was down']);
      expect(dayState(restarted.events).pulls).toHaveLength(2);
      expect(restarted.rig!.pulls).toBe(2);

      await beginSwap(page);
      await saysWithin(page, 'swapping');
      await page.reload();
      await saysWithin(page, 'swapping');
      await pass(page, server.address, id, 6);
      await finishSwap(page, 'No');
      await driven(page, 3);

      // A mishap on the next measured pull is told when it closes, and repeated at once.
      await chooseByKey(page, 'Mishap of the next pull', 'slip on the roller');
      // The driver waits for what is said of this pull, as one would who is told that it slipped.
      await driven(page, 4);
      const follow = (follows: boolean) =>
        page.request.post(`${server.address}/api/programmes/${id}/day/rig`, { headers: PERSON, data: { do: 'follow', follows } });
      await follow(false);
      await expect(page.getByText(/Pull p04 is no good: roller speed/)).toBeVisible({ timeout: 20_000 });
      await expect(page.getByText('Repeat it now (r)')).toBeVisible();
      // Out of the list, in which single keys are letters.
      await page.keyboard.press('Tab');
      await page.keyboard.press('r');
      await expect.poll(async () => dayState((await dayOf(page, server.address, id)).events).steps.length).toBe(8);
      await follow(true);
      await driven(page, 6);
      await saysWithin(page, 'swap');
      await expect(page.locator('[data-chart="day-says"]')).toContainText(/[+−][\d.]+ % \([+−\d.]+ to [+−\d.]+\)/);
      await beginSwap(page);
      await pass(page, server.address, id, 6);
      await finishSwap(page, 'No');
      await saysWithin(page, 'finish', 120_000);
      await expect(page.getByText(/If you stop now, you can recognise/)).toBeVisible();

      for (const chart of ['day-tide', 'last-pull', 'day-says'])
        for (const kind of ['SVG', 'CSV']) {
          const [download] = await Promise.all([
            page.waitForEvent('download', { timeout: 10_000 }),
            page
              .locator(`[data-chart="${chart}"]`)
              .getByRole('button', { name: new RegExp(`as ${kind}$`) })
              .press('Enter'),
          ]);
          expect(download.suggestedFilename()).toBe(`${chart}.${kind.toLowerCase()}`);
          expect(readFileSync((await download.path())!, 'utf8').length).toBeGreaterThan(60);
        }

      // Put back, closed, judged.
      const filesOf = async () => {
        const { events, questions, devices } = await dayOf(page, server.address, id);
        const state = dayState(events);
        const matched = [...state.matches].map(
          ([device, { matches }]) => `${device} ${matches.length} of ${state.files.filter((file) => file.device === device).length}`,
        );
        return {
          matched: matched.sort(),
          asked: questions.map(({ why }) => why),
          failed: devices.filter((device) => device.state === 'failed').map(({ detail }) => detail),
        };
      };
      await expect
        .poll(filesOf, { timeout: 20_000 })
        .toEqual({ matched: ['daq 8 of 8', 'dyno 8 of 8', 'ecu 8 of 8'], asked: [], failed: [] });
      await key(page, 'e');
      await tickAll(page);
      await pressButton(page, 'End the day');
      await saysWithin(page, 'ended');
      const view = await dayOf(page, server.address, id);
      expect(view.questions).toEqual([]);
      expect(dayState(view.events).pulls).toHaveLength(8);
      await page.getByRole('button', { name: 'See the verdict' }).press('Enter');
      await expect(page).toHaveURL(/verdict/);
      const { findings, bundle, logs } = programmeViewSchema.parse(
        await (await page.request.get(`${server.address}/api/programmes/${id}`)).json(),
      );
      expect(bundle.pulls.every((pull) => pull.logs.length === 3)).toBe(true);
      expect(new Set(logs.map(({ report }) => report.delimiter)).size).toBe(3);
      expect(findings.pulls.filter(({ status }) => status === 'used')).toHaveLength(4);
      const truth = rigTruthSchema.parse(await (await page.request.get(`${server.address}/api/programmes/${id}/day/rig/truth`)).json())
        .pairs[0]!;
      const { levelled } = findings.comparisons[0]!;
      expect(levelled!.low).toBeLessThan(truth.levelledPct);
      expect(levelled!.high).toBeGreaterThan(truth.levelledPct);
    });
  },
);

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
  await page.goto(`/programmes/${id}/day`);
  await expect(page.locator('[data-instruction]')).toBeVisible();
  await key(page, 'f');
  await page.getByLabel(/Bring files/).setInputFiles(files);
  const question = page.getByRole('region', { name: 'Files of ecu' });
  await expect(question).toContainText(`by the gaps it is ${key40(GONE)} that has no file`, { timeout: 60_000 });
  await expect(question).toContainText(/1 day less 1 h behind|23 h behind/);
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
  await page.goto(`/programmes/${id}/day`);
  await expect(page.locator('[data-instruction]')).toBeVisible();
  await key(page, 'f');
  await page.getByLabel(/Bring files/).setInputFiles(files);
  await expect(page.getByRole('region', { name: 'Files of ecu' })).toContainText('One pull in the files was never recorded', {
    timeout: 30_000,
  });
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
  await page.goto(`/programmes/${id}/day`);
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
  await typeInto(page, 'Air in the cell', '19,5');
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

plain('a day goes on for pulls and swaps while the server is down, over a reload, and is all there afterwards', async ({ browser }) => {
  plain.setTimeout(120_000);
  await onOwnServer(browser, { title: 'Without the server', aspiration: 'na' }, async ({ server, page, id }) => {
    await page.goto(`${server.address}/programmes/${id}/day`);
    await saysWithin(page, 'begin');
    await page.evaluate(() => navigator.serviceWorker.ready);
    // A worker that a browser kept for a year would keep the pages of a year ago.
    expect((await page.request.get(`${server.address}/service-worker.js`)).headers()['cache-control']).toBe('no-cache');
    await key(page, 'Enter');
    await key(page, 'l');
    await tickAll(page);
    await pressButton(page, 'Done');
    await server.kill();
    await expect(page.getByText(/No answer from Gezeit/)).toBeVisible();

    const drive = async (reason: string) => {
      await key(page, 'p');
      await page.getByRole('textbox', { name: 'Reason' }).fill(reason);
      await page.keyboard.press('Enter');
      await saysWithin(page, 'driving');
      await key(page, 'p');
      await expect(page.locator('[data-instruction="driving"]')).toHaveCount(0);
    };
    await drive('no readings, first');
    await drive('no readings, second');
    await saysWithin(page, 'swap');
    await beginSwap(page);
    await saysWithin(page, 'swapping');
    await page.reload();
    await saysWithin(page, 'swapping');
    await finishSwap(page, 'Yes');
    // A change out of plan makes a setup that only this window knows so far, and a pull of it.
    await key(page, 'c');
    await page.getByLabel('Fuel').fill('summer fuel');
    await pressButton(page, /It is setup C now/);
    await drive('no readings, third');
    await page.reload();
    await expect(page.locator('header.line')).toContainText('3 of 7 driven');
    await expect(page.getByText(/No answer from Gezeit: \d+ kept here/)).toBeVisible();

    await server.start();
    await expect(page.getByText(/No answer from Gezeit/)).toHaveCount(0, { timeout: 20_000 });
    await expect.poll(async () => dayState((await dayOf(page, server.address, id)).events).pulls.length).toBe(3);
    const state = dayState((await dayOf(page, server.address, id)).events);
    expect(state.pulls.map(({ setup, begun }) => `${setup}: ${begun.anyway}`)).toEqual([
      'A: no readings, first',
      'A: no readings, second',
      'C: no readings, third',
    ]);
    expect(state.swaps.map(({ to, ecuReset }) => [to, ecuReset])).toEqual([['B', true]]);
    const { bundle } = programmeViewSchema.parse(await (await page.request.get(`${server.address}/api/programmes/${id}`)).json());
    expect(bundle.pulls.map((pull) => pull.setup)).toEqual(['A', 'A', 'C']);
    expect(bundle.setups.find((setup) => setup.id === 'C')!.state.fuel).toBe('summer fuel');
  });
});

test('is readable from three metres, and every target is large enough', async ({ page }) => {
  const board = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const coupe = board.programmes.find(({ title }) => title.startsWith('Water-to-air'))!;
  await page.goto(`/programmes/${coupe.id}/day`);
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
  await page.goto(`/programmes/${id}/day`);
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
    const { violations } = await new AxeBuilder({ page }).include('[role=dialog]').withTags(['wcag2a', 'wcag2aa', 'wcag21aa']).analyze();
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
  expect((await dayOf(page, '', id)).events).toHaveLength(before);
});
