import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, type Page } from '@playwright/test';
import { createdSchema, dayViewSchema, programmeViewSchema, type DayView, type Plan } from '@gezeit/contract';
import { scheduled, withConditioning } from '../core/src/index.js';
import { served, type Served } from './served.js';
import { expect, SEAT, sitDown } from './support.js';

/** The test asks beside its page, from the same seat: that of the browser that holds the day. */
export const PERSON = { 'x-gezeit-person': 'BT%20Browser%20Test', 'x-gezeit-seat': SEAT };
export const MIRRORED: Plan = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']), restMin: 5, swapMin: 10 });

export async function setPlan(page: Page, address: string, id: string, plan: Plan): Promise<void> {
  const view = programmeViewSchema.parse(await (await page.request.get(`${address}/api/programmes/${id}`)).json());
  const response = await page.request.patch(`${address}/api/programmes/${id}`, {
    headers: PERSON,
    data: { part: 'plan', before: view.bundle.plan ?? null, value: plan, what: 'plan' },
  });
  expect(response.ok()).toBe(true);
}
export const dayOf = async (page: Page, address: string, id: string): Promise<DayView> =>
  dayViewSchema.parse(await (await page.request.get(`${address}/api/programmes/${id}/day`)).json());
export const SAFE = ['straps', 'tyres', 'exhaust', 'people', 'stop', 'criteria'];
export const says = (page: Page) => page.locator('[data-instruction]').getAttribute('data-instruction');
export const saysWithin = (page: Page, kind: string, timeout = 30_000) => page.locator(`[data-instruction="${kind}"]`).waitFor({ timeout });

/** Nothing moves any more: what opens has opened. */
export const still = (page: Page) =>
  page.evaluate(async () => {
    await new Promise(requestAnimationFrame);
    await Promise.all(document.getAnimations().map(({ finished }) => finished.catch(() => undefined)));
    await new Promise(requestAnimationFrame);
  });
/** Ticks every box of the open dialog by keys. */
export async function tickAll(page: Page): Promise<void> {
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
export async function pressButton(page: Page, name: string | RegExp): Promise<void> {
  const button = page.getByRole('dialog').getByRole('button', { name });
  await expect(button).toBeEnabled();
  await button.focus();
  await page.keyboard.press('Enter');
}
/** So many pulls are driven: at 60 times its speed a pull is over before it can be looked at. */
export const driven = (page: Page, count: number) =>
  expect
    .poll(async () => Number(/(\d+) of \d+ driven/.exec((await page.locator('header.line').textContent()) ?? '')?.[1]), { timeout: 40_000 })
    .toBeGreaterThanOrEqual(count);
/** Waits until so many minutes of the day's own clock have passed. */
export async function pass(page: Page, address: string, id: string, minutes: number): Promise<void> {
  const now = async () => (await dayOf(page, address, id)).clock.nowMs;
  const until = (await now()) + 60_000 * minutes;
  await expect.poll(now, { timeout: 30_000 }).toBeGreaterThan(until);
}
/** The worker of the page has kept the programme: from here on the server may go. It first fetches every file of the build, which can take a while. */
export const isKept = (page: Page, id: string) =>
  expect
    .poll(() => page.evaluate(async (path) => (await caches.match(path)) !== undefined, `/api/programmes/${id}`), { timeout: 60_000 })
    .toBe(true);
/** A key of the screen: with nothing open over it. */
export async function key(page: Page, name: string): Promise<void> {
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.locator('body').press(name);
  // Whatever opens takes the focus once it stands.
  await still(page);
}

/** A Gezeit of its own that can be killed and started again on the same data, where it was. */
export class OwnServer {
  #served: Served | null = null;
  readonly #folder = mkdtempSync(join(tmpdir(), 'gezeit-day-'));
  address = '';
  async start(): Promise<void> {
    const before = this.address;
    this.#served = await served(this.#folder, { port: before ? Number(new URL(before).port) : 0 });
    this.address = this.#served.address;
    if (before && before !== this.address) throw new Error(`the server was at ${before} and is at ${this.address} now`);
  }
  async kill(): Promise<void> {
    await this.#served?.stop('SIGKILL');
  }
}

/** Begins a swap: what safety asks before the hands go in is ticked first. */
export async function beginSwap(page: Page): Promise<void> {
  await key(page, 's');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'The swap begins' })).toBeDisabled();
  await tickAll(page);
  await pressButton(page, 'The swap begins');
}

/** Says that the swap is done: everything ticked, and whether the engine control was reset. */
export async function finishSwap(page: Page, reset: 'Yes' | 'No'): Promise<void> {
  await key(page, 's');
  await tickAll(page);
  await page.getByRole('radio', { name: reset }).focus();
  await page.keyboard.press('Space');
  await pressButton(page, 'Swap done');
}

export interface OwnDay {
  server: OwnServer;
  page: Page;
  id: string;
}

/** A programme with a plan on a Gezeit of its own, that may be killed; pages are kept by the worker. */
export async function onOwnServer(
  browser: Browser,
  programme: { title: string; aspiration: 'na' | 'turbo' },
  run: (own: OwnDay) => Promise<void>,
): Promise<void> {
  const server = new OwnServer();
  await server.start();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'allow' });
  await sitDown(context);
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
