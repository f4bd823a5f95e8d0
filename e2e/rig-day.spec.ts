import { readFileSync } from 'node:fs';
import { test as plain } from '@playwright/test';
import { programmeViewSchema, rigTruthSchema } from '@gezeit/contract';
import { dayState } from '../core/src/index.js';
import { chooseByKey, expect } from './support.js';

import {
  PERSON,
  dayOf,
  isKept,
  says,
  saysWithin,
  tickAll,
  pressButton,
  driven,
  pass,
  key,
  beginSwap,
  finishSwap,
  onOwnServer,
} from './day-support.js';

plain(
  'a whole day on the rig at 60 times its speed, by keys, with a mishap, a killed server and a verdict that holds the truth',
  async ({ browser }) => {
    plain.setTimeout(400_000);
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
      await isKept(page, id);
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

      // A mishap on the next measured pull is told when it closes, and repeated at once. Slower: other tests may stand beside this one.
      const rig = (data: object) => page.request.post(`${server.address}/api/programmes/${id}/day/rig`, { headers: PERSON, data });
      await rig({ do: 'speed', speed: 20 });
      await chooseByKey(page, 'Mishap of the next pull', 'slip on the roller');
      // The driver waits for what is said of this pull, as one would who is told that it slipped.
      await driven(page, 4);
      await rig({ do: 'follow', follows: false });
      await expect(page.getByText(/Pull p04 is no good: roller speed/)).toBeVisible({ timeout: 20_000 });
      await expect(page.getByText('Repeat it now (r)')).toBeVisible();
      // Out of the list, in which single keys are letters.
      await page.keyboard.press('Tab');
      await page.keyboard.press('r');
      const repeated = async () =>
        dayState((await dayOf(page, server.address, id)).events).steps.filter(({ inserted, kind }) => inserted && kind === 'measured')
          .length;
      await expect.poll(() => repeated()).toBe(1);
      await rig({ do: 'speed', speed: 60 });
      await rig({ do: 'follow', follows: true });
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

      // Put back, closed, judged. On a slow machine a rest is overrun while the test looks on, and the driver settles the car again: at least eight.
      const filesOf = async () => {
        const { events, questions, devices } = await dayOf(page, server.address, id);
        const state = dayState(events);
        const matched = [...state.matches].map(([device, { matches }]) => {
          const files = state.files.filter((file) => file.device === device).length;
          return `${device} ${matches.length === files && files === state.pulls.length ? 'all' : `${matches.length} of ${files}`}`;
        });
        return {
          matched: matched.sort(),
          asked: questions.map(({ why }) => why),
          failed: devices.filter((device) => device.state === 'failed').map(({ detail }) => detail),
        };
      };
      await expect.poll(filesOf, { timeout: 20_000 }).toEqual({ matched: ['daq all', 'dyno all', 'ecu all'], asked: [], failed: [] });
      await key(page, 'e');
      await tickAll(page);
      await pressButton(page, 'End the day');
      await saysWithin(page, 'ended');
      const view = await dayOf(page, server.address, id);
      expect(view.questions).toEqual([]);
      expect(dayState(view.events).pulls.length).toBeGreaterThanOrEqual(8);
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
