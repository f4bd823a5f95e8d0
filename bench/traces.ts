// The trace desk in a real browser: a log of a million rows opened and looked at closer, and channels of any two pulls of a day of 40 pulls by
// four devices laid over each other. Milliseconds until the picture stands still, to be read on an idle machine beside the fixed calculation.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import type { Bundle } from '@gezeit/contract';
import {
  bundleOfDay,
  dataBoxDevice,
  driveDay,
  dynoDevice,
  ecuDevice,
  filesOf,
  scheduleOf,
  STOCK_TURBO,
  TURBO_ESTATE,
  type Device,
} from '../core/src/simulate/index.js';
import { served } from '../e2e/served.js';
import { sitDown } from '../e2e/support.js';
import { importAll } from '../server/test/support.js';
import { fixedCalculationMs } from './fixed-calculation.js';
import { median } from '../core/src/numeric/means.js';

const ROWS = 1_000_000;
const STEPS = 15;
/** The picture stands still once nothing was drawn for so long, ms. */
const STILL_MS = 250;

const FRAME = {
  vehicle: { name: 'Estate', aspiration: 'turbo' as const },
  cell: { name: 'Cell', kind: 'inertia' as const, powerAt: 'wheel' as const },
  startedAt: '2026-03-04T08:00:00Z',
};
const programme = (title: string): Bundle['programme'] => ({
  title,
  question: '',
  metric: 'meanPower',
  bandRpm: [3500, 6200],
  smallestGainPct: 1,
  correction: 'NONE',
});
const setups: Bundle['setups'] = ['A', 'B'].map((id) => ({ id, name: id, reference: id === 'A', parts: [], state: {} }));

/** One log of a whole day, 50 rows a second, with one pull in its middle. */
function longBundle(): Map<string, Uint8Array> {
  const rows = ['Time [s],Engine speed [rpm],Throttle [%],Power [kW],Intake air temperature [°C]'];
  const middleS = ROWS / 100;
  for (let i = 0; i < ROWS; i += 1) {
    const at = i / 50;
    const inPull = at - middleS;
    const open = inPull >= 0 && inPull < 9;
    const rpm = open ? 2000 + 520 * inPull : 1500 + 300 * Math.sin(at / 7);
    rows.push(
      `${at.toFixed(2)},${rpm.toFixed(0)},${open ? 100 : (8 + 5 * Math.sin(at / 3)).toFixed(1)},${open ? (20 + 12 * inPull).toFixed(2) : (2 + Math.sin(at)).toFixed(2)},${(25 + 8 * Math.sin(at / 300)).toFixed(1)}`,
    );
  }
  const bundle: Bundle = {
    format: 'gezeit-bundle',
    version: 1,
    programme: programme('A million rows'),
    vehicle: FRAME.vehicle,
    cell: FRAME.cell,
    setups,
    pulls: [{ id: 'p01', setup: 'A', kind: 'measured', startedAt: FRAME.startedAt, logs: [{ file: 'logs/day.csv', device: 'dyno' }] }],
  };
  return new Map([
    ['gezeit.json', Buffer.from(JSON.stringify(bundle))],
    ['logs/day.csv', Buffer.from(`${rows.join('\n')}\n`)],
  ]);
}

function dayBundle(): Map<string, Uint8Array> {
  const driven = driveDay({
    seed: 6,
    engine: TURBO_ESTATE,
    setups: { A: STOCK_TURBO, B: STOCK_TURBO },
    schedule: scheduleOf(
      'AABB'.repeat(10),
      () => 5,
      () => 15,
      false,
    ),
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0.003,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 0.5, pressurePa: 40, humidity: 0.01 },
    },
    weather: { temperatureC: 19, pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 4,
  });
  const second = (): Device => ({ ...dataBoxDevice(9, ['box', 'filter'], false, false), id: 'probe' as 'daq' });
  const simulated = bundleOfDay(
    { ...FRAME, programme: programme('Forty pulls'), setups },
    driven,
    [
      { dialect: 'bracketed', device: () => ecuDevice(3, true) },
      { dialect: 'two-storey', device: () => dynoDevice(5) },
      { dialect: 'comma-mark', device: () => dataBoxDevice(7, ['duct', 'filter'], true, false) },
      { dialect: 'bracketed', device: second },
    ],
    6,
  );
  return new Map([...filesOf(simulated), ['gezeit.json', Buffer.from(JSON.stringify(simulated.bundle))]]);
}

/** Counts every drawing of the traces, from now on. */
const watchDrawings = (page: Page) =>
  page.locator('[data-chart="traces"] .plot').evaluate((plot) => {
    const seen = window as unknown as { drawnAt: number[]; begunAt: number };
    seen.drawnAt = [];
    (plot as unknown as { on(event: string, run: () => void): void }).on('plotly_afterplot', () => seen.drawnAt.push(performance.now()));
  });

/** Does something, and says after how long the picture was first drawn and when it stood still, ms. */
async function timed(page: Page, action: () => Promise<void>): Promise<{ first: number; still: number }> {
  await page.evaluate(() => {
    const seen = window as unknown as { drawnAt: number[]; begunAt: number };
    seen.drawnAt.length = 0;
    window.addEventListener('keydown', () => (seen.begunAt = performance.now()), { once: true, capture: true });
  });
  await action();
  return page.evaluate(async (stillMs) => {
    const seen = window as unknown as { drawnAt: number[]; begunAt: number };
    for (;;) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      const last = seen.drawnAt.at(-1);
      if (last !== undefined && performance.now() - last > stillMs) break;
    }
    return { first: seen.drawnAt[0]! - seen.begunAt, still: seen.drawnAt.at(-1)! - seen.begunAt };
  }, STILL_MS);
}

const say = (what: string, values: { first: number; still: number }[]) =>
  console.log(
    `${what}: first drawn after ${median(values.map(({ first }) => first)).toFixed(0)} ms, whole after ${median(values.map(({ still }) => still)).toFixed(0)} ms (median of ${values.length})`,
  );

const folder = mkdtempSync(join(tmpdir(), 'gezeit-traces-'));
const server = await served(folder);
const browser = await chromium.launch({ executablePath: process.env['GEZEIT_CHROMIUM'] ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
try {
  const ids: string[] = [];
  for (const files of [longBundle(), dayBundle()]) {
    const outcome = await importAll(`${server.address}/`, files);
    if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
    ids.push(outcome.programmeId);
  }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await sitDown(page);
  console.log(`a million square roots: ${fixedCalculationMs().toFixed(2)} ms`);

  const opened: number[] = [];
  for (let round = 0; round < 5; round += 1) {
    await page.goto(`${server.address}/programmes/${ids[0]}/question`);
    const logs = page.getByRole('navigation', { name: 'Steps of the programme' }).getByRole('link', { name: 'Logs' });
    await logs.waitFor();
    await page.waitForTimeout(1500);
    const begun = performance.now();
    await logs.click();
    await page.waitForFunction(() => {
      const plot = document.querySelector('[data-chart="traces"] .plot') as unknown as { data?: { y?: ArrayLike<number> }[] } | null;
      return (plot?.data ?? []).some(({ y }) => (y?.length ?? 0) > 100);
    });
    opened.push(performance.now() - begun);
  }
  console.log(`a million rows, opened: ${median(opened).toFixed(0)} ms (median of ${opened.length}; under 1000 wanted)`);
  await watchDrawings(page);
  const chart = page.getByRole('application', { name: /^Traces/ });
  await chart.focus();
  const all: { first: number; still: number }[] = [];
  for (let i = 0; i < 60; i += 1) all.push(await timed(page, () => page.keyboard.press(i < 40 ? '-' : '+')));
  say('a million rows, one step farther, out to the whole day', all.slice(0, 40));
  say('a million rows, one step closer (under 100 wanted)', all.slice(40));

  await page.goto(`${server.address}/programmes/${ids[1]}/logs?pull=p03`);
  await page.waitForFunction(
    () => (document.querySelector('[data-chart="traces"] .plot') as unknown as { data?: unknown[] } | null)?.data?.length,
  );
  await watchDrawings(page);
  const overlays: { first: number; still: number }[] = [];
  for (let round = 0; round < STEPS; round += 1) {
    const list = page.getByRole('combobox', { name: 'Pulls that are drawn', exact: true });
    await list.focus();
    await page.keyboard.press('ArrowDown');
    const filter = page.locator('.p-multiselect-overlay').getByRole('searchbox');
    await filter.waitFor();
    await filter.fill(`p${String(5 + 2 * round).padStart(2, '0')}`);
    await filter.press('ArrowDown');
    overlays.push(await timed(page, () => page.keyboard.press('Enter')));
    // One pull over the other: the new one is taken out again.
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await filter.waitFor({ state: 'hidden' });
    await page.waitForTimeout(STILL_MS);
  }
  say('forty pulls by four devices, another pull laid over (under 300 wanted)', overlays);
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
}
