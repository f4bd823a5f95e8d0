import { execFileSync, spawn } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Browser, BrowserContext, Page } from '@playwright/test';
import { generate } from 'selfsigned';
import { expect, test, TITLES } from './support.js';
import { ROOT } from './seed.mjs';

const COMMAND = join(ROOT, 'server/bin/gezeit.js');

interface Shop {
  machine: string;
  network: string;
  key: (...options: string[]) => string;
  stop: () => Promise<void>;
}

/** A Gezeit that answers on the machine and, by TLS or plainly, on another address of it. */
async function shop(plain: boolean): Promise<Shop> {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-shop-'));
  cpSync(process.env['GEZEIT_E2E_SEED']!, folder, { recursive: true });
  const file = join(folder, 'access-keys.json');
  const key = (...options: string[]) =>
    execFileSync(process.execPath, [COMMAND, 'key', 'new', '--access-keys', file, ...options], { encoding: 'utf8', stdio: 'pipe' }).trim();
  key();
  const made = await generate([{ name: 'commonName', value: 'cell.example' }]);
  writeFileSync(join(folder, 'cell.pem'), made.cert);
  writeFileSync(join(folder, 'cell-key.pem'), made.private);
  const tls = ['--tls-certificate', join(folder, 'cell.pem'), '--tls-key', join(folder, 'cell-key.pem')];
  const server = spawn(
    process.execPath,
    [COMMAND, 'serve', '--host', '127.0.0.2', '--port', '0', '--access-keys', file, ...(plain ? ['--plain'] : tls)],
    { env: { ...process.env, GEZEIT_DATA: folder, GEZEIT_LOG: 'warn' }, stdio: ['ignore', 'pipe', 'inherit'] },
  );
  const ended = new Promise<void>((resolve) => server.once('exit', () => resolve()));
  let machine = '';
  for await (const line of createInterface({ input: server.stdout })) {
    machine ||= /Gezeit is ready: (\S+)\/$/.exec(line)?.[1] ?? '';
    const network = /by access key: (\S+)\/$/.exec(line)?.[1];
    if (network)
      return {
        machine,
        network,
        key,
        stop: async () => {
          server.kill();
          await ended;
          rmSync(folder, { recursive: true, force: true });
        },
      };
  }
  throw new Error('the server ended before it was ready');
}

/** Somebody with a browser of their own. */
async function somebody(browser: Browser, initials: string): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({ ignoreHTTPSErrors: true });
  await context.addInitScript(
    (who) => localStorage.setItem('gezeit.person', JSON.stringify({ initials: who, name: `Person ${who}` })),
    initials,
  );
  return { context, page: await context.newPage() };
}

async function comeIn(page: Page, key: string): Promise<void> {
  await page.getByLabel('Access key').fill(key);
  await page.keyboard.press('Enter');
}

test('upstairs: the door, back to where one was, no device to set, and out again; a key that reads changes nothing', async ({
  browser,
}) => {
  const { machine, network, key, stop } = await shop(false);
  const { context, page } = await somebody(browser, 'UP');
  try {
    const board = (await (await page.request.get(`${machine}/api/programmes`)).json()) as { programmes: { id: string; title: string }[] };
    const { id } = board.programmes.find(({ title }) => title === TITLES.airbox)!;
    await page.goto(`${network}/programmes/${id}/day`);
    await comeIn(page, 'gz_nothing');
    await expect(page.getByRole('alert')).toContainText('opens nothing');
    await comeIn(page, key('--name', 'desk'));
    await expect(page).toHaveURL(`${network}/programmes/${id}/day`);
    await page.getByRole('button', { name: /Devices/ }).click();
    await expect(page.getByRole('dialog')).toContainText('on the machine in the cell itself');
    await expect(page.getByRole('dialog').getByRole('button', { name: /Watch it|Listen|Start the rig/ })).toHaveCount(0);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Leave/ }).click();
    await expect(page.getByLabel('Access key')).toBeVisible();
    await page.goto(`${network}/`);
    await comeIn(page, key('--read-only'));
    await expect(page.getByRole('banner')).toContainText('reads alone');
    await page.goto(`${network}/programmes/${id}/question`);
    await page.getByLabel('The question').fill('changed by a reader');
    await page.keyboard.press('Tab');
    await expect(page.getByText('lets you read alone')).toBeVisible();
    const view = (await (await page.request.get(`${machine}/api/programmes/${id}`)).json()) as {
      bundle: { programme: { question?: string } };
    };
    expect(view.bundle.programme.question).not.toBe('changed by a reader');
  } finally {
    await context.close();
    await stop();
  }
});

test('without TLS every page says so, and keeps nothing in the browser', async ({ browser }) => {
  const { network, key, stop } = await shop(true);
  const { context, page } = await somebody(browser, 'PL');
  try {
    await page.goto(network);
    await expect(page.getByText('not encrypted')).toBeVisible();
    await comeIn(page, key());
    await expect(page.getByRole('banner')).toContainText('this network can read along');
    const board = (await (await page.request.get(`${network}/api/programmes`)).json()) as { programmes: { id: string }[] };
    for (const path of [
      '/',
      ...['question', 'bench', 'plan', 'day', 'logs', 'verdict'].map((step) => `/programmes/${board.programmes[0]!.id}/${step}`),
    ]) {
      await page.goto(`${network}${path}`);
      await expect(page.getByRole('banner')).toContainText('this network can read along');
    }
    expect(await page.evaluate(async () => (await navigator.serviceWorker?.getRegistrations())?.length ?? 0)).toBe(0);
  } finally {
    await context.close();
    await stop();
  }
});

test('two people: each sees within a second what the other has changed, and a day is held by one of them', async ({ browser }) => {
  const { machine, network, key, stop } = await shop(false);
  const cell = await somebody(browser, 'CE');
  const desk = await somebody(browser, 'DE');
  try {
    const board = (await (await cell.page.request.get(`${machine}/api/programmes`)).json()) as {
      programmes: { id: string; title: string }[];
    };
    const { id } = board.programmes.find(({ title }) => title === TITLES.trumpets)!;
    await desk.page.goto(`${network}/programmes/${id}/question`);
    await comeIn(desk.page, key());
    await cell.page.goto(`${machine}/programmes/${id}/question`);
    await expect(desk.page.getByLabel('The question')).toBeVisible();
    for (const [from, to, text] of [
      [cell.page, desk.page, 'asked in the cell'],
      [desk.page, cell.page, 'asked upstairs'],
    ] as const) {
      await from.getByLabel('The question').fill(text);
      await from.keyboard.press('Tab');
      await expect(from.locator('[data-stored=true]')).toBeVisible();
      const since = Date.now();
      await expect(to.getByLabel('The question')).toHaveValue(text);
      // A second, and what two browsers on a busy machine take to draw.
      expect(Date.now() - since).toBeLessThan(2500);
    }
    await cell.page.goto(`${machine}/programmes/${id}/day`);
    await desk.page.goto(`${network}/programmes/${id}/day`);
    const send = (page: Page, address: string, path: string, data: object, seat: string) =>
      page.request.post(`${address}/api/programmes/${id}/day/${path}`, {
        headers: { 'x-gezeit-person': 'CE', 'x-gezeit-seat': seat },
        data,
      });
    const seatOf = (page: Page) => page.evaluate(() => localStorage.getItem('gezeit.seat')!);
    const begun = { kind: 'begun', day: '2026-06-11', pulls: [{ setup: 'A', kind: 'measured', atMin: 0 }], fitted: 'A' };
    const event = { id: 'held-by-the-cell', at: new Date().toISOString(), what: begun };
    expect((await send(cell.page, machine, 'events', { events: [event] }, await seatOf(cell.page))).status()).toBe(200);
    await expect(desk.page.getByText('CE holds this day')).toBeVisible();
    await expect(desk.page.getByText('at the machine in the cell: here it can be followed')).toBeVisible();
    const acting = desk.page.getByRole('navigation', { name: 'What can be done' }).getByRole('button');
    const enabled = async () => (await acting.evaluateAll((all) => all.filter((button) => !(button as HTMLButtonElement).disabled))).length;
    expect(await acting.count()).toBeGreaterThan(8);
    // Nothing is driven yet, so there is no pull to look at either.
    expect(await enabled()).toBe(0);
    // Nor has its key anything to do: what would be typed could not be kept.
    await desk.page.locator('body').press('n');
    await desk.page.locator('body').press('f');
    await expect(desk.page.getByRole('dialog')).toHaveCount(1);
    await expect(desk.page.getByRole('dialog', { name: 'Files' })).toBeVisible();
    await desk.page.keyboard.press('Escape');
    await expect(desk.page.getByRole('dialog')).toHaveCount(0);
    await desk.page.getByRole('button', { name: 'Take the day over' }).click();
    await expect(desk.page.getByText(/DE Person DE has taken this day over from CE at .*: you act on it here/)).toBeVisible();
    expect(await enabled()).toBeGreaterThan(3);
    await expect(cell.page.getByText(/DE Person DE has taken this day over from CE/)).toBeVisible();
    await expect(cell.page.getByText('over the network: here it can be followed')).toBeVisible();
  } finally {
    await cell.context.close();
    await desk.context.close();
    await stop();
  }
});
