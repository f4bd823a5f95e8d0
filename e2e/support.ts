import { boardSchema, createdSchema, programmeViewSchema, type ProgrammeView } from '@gezeit/contract';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test as base, type BrowserContext, type Page } from '@playwright/test';
import { ROOT } from './seed.mjs';
import { housed } from './housed.js';

/** Titles of the demo's programmes. */
export const TITLES = {
  airbox: 'Sealed airbox, Skudde estate',
  trumpets: 'Four inlet trumpets, Racka pick-up',
  cooler: 'Water-cooled charge cooler, Ouessant hatchback',
  coupe: 'Water-to-air cooler, Bentheim coupe',
  twin: 'Twin-mouth airbox, Herdwick wagon',
  airfield: 'Cold feed on the airfield, Coburg roadster',
};

/** What the tests' browser calls itself. */
export const SEAT = 'browser-test';

/** Says in every page to come who is working, and from which seat. */
export const sitDown = (pages: Pick<Page, 'addInitScript'>): ReturnType<Page['addInitScript']> =>
  pages.addInitScript((seat) => {
    localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'BT', name: 'Browser Test' }));
    localStorage.setItem('gezeit.seat', seat);
  }, SEAT);

/** The page of a worker, on which its tests follow one another. */
interface Kept {
  page: Page | null;
}

/** Takes away what a test has left on a page and in its browser: nothing of it runs any more, and nothing of it is remembered. */
async function clearUp(page: Page): Promise<void> {
  for (const other of page.context().pages()) if (other !== page) await other.close();
  page.removeAllListeners();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.emulateMedia({ media: null, colorScheme: null });
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.mouse.move(0, 0);
  // What leaves a view may still write: the storage is emptied from a page of the same server that runs nothing.
  await page.goto('/api/health');
  await page.evaluate(async () => {
    localStorage.clear();
    sessionStorage.clear();
    for (const { name } of await indexedDB.databases()) indexedDB.deleteDatabase(name!);
  });
  await page.context().clearCookies();
}

/** What a page asks its server from now on, each line by when it was asked and how it was answered; what is not answered yet stands open. */
function listenIn(page: Page): Map<unknown, string> {
  const began = Date.now();
  const heard = new Map<unknown, string>();
  const now = () => `${((Date.now() - began) / 1000).toFixed(1)} s`;
  page.on('request', (request) => {
    const { pathname, search } = new URL(request.url());
    if (pathname.startsWith('/api/')) heard.set(request, `${now()} ${request.method()} ${pathname}${search}`);
  });
  page.on('response', (response) => {
    const line = heard.get(response.request());
    if (line) heard.set(response.request(), `${line} -> ${response.status()} at ${now()}`);
  });
  const ended = (how: string) => (request: unknown) => {
    const line = heard.get(request);
    if (line) heard.set(request, `${line}, ${how} at ${now()}`);
  };
  page.on('requestfinished', ended('whole'));
  page.on('requestfailed', ended('given up'));
  return heard;
}

/** Says where a test that has failed stood: a machine that nobody sees may be the only one on which it does. */
async function tellState(page: Page, heard: Map<unknown, string>): Promise<void> {
  const state = await page
    .evaluate(() => ({
      address: location.href,
      stored: document.querySelector('[data-stored]')?.getAttribute('data-stored') ?? null,
      focus: document.activeElement?.outerHTML.slice(0, 200),
      notes: [...document.querySelectorAll('[role=alert], [role=status]')].map((note) => note.textContent?.trim().slice(0, 300)),
    }))
    .catch((error: Error) => error.message);
  console.log(JSON.stringify(state, null, 1));
  console.log(
    [...heard.values()]
      .filter((line) => !/\/stamp -> 200 .*whole/.test(line))
      .slice(-25)
      .join('\n'),
  );
}

/**
 * A page of somebody who has said who is working; it must not complain nor ask anything of another host. Every worker has a server of its own (all in
 * one process), with the demo's programmes as they were imported, and a page of its own, cleared up after every test: a browser that knows the scripts from the
 * test before opens the next view with half the work.
 */
export const test = base.extend<{ context: BrowserContext; page: Page }, { server: string; kept: Kept }>({
  server: [
    // eslint-disable-next-line no-empty-pattern -- the runner wants the pattern
    async ({}, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'gezeit-worker-'));
      cpSync(process.env['GEZEIT_E2E_SEED']!, folder, { recursive: true });
      const { address, stop } = await housed(process.env['GEZEIT_E2E_HOUSE']!, folder);
      await use(address);
      await stop();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 60_000 },
  ],
  baseURL: async ({ server }, use) => use(server),
  kept: [
    // eslint-disable-next-line no-empty-pattern -- the runner wants the pattern
    async ({}, use) => {
      const kept: Kept = { page: null };
      await use(kept);
      await kept.page?.context().close();
    },
    { scope: 'worker' },
  ],
  context: async ({ browser, baseURL, kept }, use) => {
    kept.page ??= await (await browser.newContext({ baseURL })).newPage();
    await use(kept.page.context());
  },
  page: async ({ context, baseURL, kept }, use, testInfo) => {
    const page = context.pages()[0]!;
    const complaints: string[] = [];
    page.on('console', (message) => {
      if (message.type() === 'error' && !/status of 4\d\d/.test(message.text())) complaints.push(message.text());
    });
    page.on('pageerror', (error) => complaints.push(error.message));
    page.on('request', (request) => {
      if (!/^(blob|data):/.test(request.url()) && !request.url().startsWith(baseURL!)) complaints.push(`asked ${request.url()}`);
    });
    const heard = listenIn(page);
    const seated = await sitDown(page);
    await use(page);
    if (testInfo.status !== testInfo.expectedStatus) await tellState(page, heard);
    await seated.dispose();
    kept.page = null;
    await clearUp(page);
    kept.page = page;
    expect(complaints).toEqual([]);
  },
});
export { expect };

const PERSON = { 'x-gezeit-person': 'BT%20Browser%20Test', 'x-gezeit-seat': SEAT };

/** Address part of a demo programme. */
export async function programmeId(page: Page, title: string): Promise<string> {
  const board = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const entry = board.programmes.find((programme) => programme.title === title);
  if (!entry) throw new Error(`${title} is not on the board`);
  return entry.id;
}

/** Goes to an address: where Gezeit does not run yet the page is loaded, and where it does as by a link in it. */
export async function goTo(page: Page, address: string): Promise<void> {
  const isThere = await page.evaluate(async (path) => {
    type Root = Element & { __vue_app__?: { config: { globalProperties: { $router: { push: (to: string) => Promise<unknown> } } } } };
    const router = document.querySelector<Root>('#app')?.__vue_app__?.config.globalProperties.$router;
    if (!router) return false;
    const { pathname, search } = new URL(path, location.href);
    await router.push(pathname + search);
    return true;
  }, address);
  if (!isThere) await page.goto(address);
}

const steps = (page: Page): Promise<void> => page.getByRole('navigation', { name: 'Steps of the programme' }).waitFor();

export async function openStep(
  page: Page,
  title: string,
  step: 'question' | 'bench' | 'plan' | 'day' | 'logs' | 'verdict' | 'sheet',
  query = '',
): Promise<void> {
  await goTo(page, `/programmes/${await programmeId(page, title)}/${step}${query}`);
  await steps(page);
}

/** Names of the series that a Plotly chart shows. */
export async function seriesNames(page: Page, chart: string): Promise<string[]> {
  return page
    .locator(`[data-chart="${chart}"] .plot`)
    .evaluate((plot) => ((plot as unknown as { data?: { name?: string }[] }).data ?? []).map(({ name }) => name ?? ''));
}

/**
 * Axe on a page: without frames there is nothing to bring together, for which it would open a page more at every look. It names what is wrong;
 * to name the thousands of elements that are right as well took two thirds of its time.
 */
export const axeOn = (page: Page): AxeBuilder => new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });

/** Waits until a chart has drawn its series. */
export async function drawn(page: Page, chart: string): Promise<void> {
  await expect.poll(async () => (await seriesNames(page, chart)).filter(Boolean).length).toBeGreaterThan(0);
}

/** Brings the other choices into sight, where they are tried, and waits until they are drawn. */
export async function choicesShown(page: Page): Promise<void> {
  await page.getByRole('region', { name: 'Would another choice have changed it?' }).scrollIntoViewIfNeeded();
  await page.locator('[data-chart="choices"]').waitFor({ timeout: 90_000 });
}

/** Begins a programme through the interface of the server, and opens a step of it. */
export async function beginProgramme(page: Page, title: string, step: 'question' | 'bench' = 'bench'): Promise<string> {
  const response = await page.request.post('/api/programmes', { headers: PERSON, data: { title } });
  const { id } = createdSchema.parse(await response.json());
  await goTo(page, `/programmes/${id}/${step}`);
  await steps(page);
  return id;
}

/** A copy of a demo bundle's folder, changed. */
export function demoCopy(bundle: string, change: (folder: string) => void): string {
  const folder = join(mkdtempSync(join(tmpdir(), 'gezeit-bundle-')), 'bundle');
  cpSync(join(ROOT, 'demo/bundles', bundle), folder, { recursive: true });
  change(folder);
  return folder;
}

/** Brings a bundle's folder in by the folder picker. */
export async function pickFolder(page: Page, folder: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring files in' }).first().click();
  await page.locator('[data-test=pick-folder]').setInputFiles(folder);
}

/** Takes back every change that the tests before have made to a programme of the demo. */
export async function allTakenBack(page: Page, title: string): Promise<void> {
  const id = await programmeId(page, title);
  const undo = () => page.request.post(`/api/programmes/${id}/undo`, { headers: PERSON, data: {} });
  while ((await undo()).ok());
  expect((await viewOf(page, id)).changes.filter(({ undone }) => !undone)).toEqual([]);
}

/** A programme as the server holds it. */
export async function viewOf(page: Page, id: string): Promise<ProgrammeView> {
  return programmeViewSchema.parse(await (await page.request.get(`/api/programmes/${id}`)).json());
}

/** Chooses from a list by the keyboard: opens it, types the words, takes them. */
export async function chooseByKey(page: Page, label: string, words: string): Promise<void> {
  const list = page.getByRole('combobox', { name: label, exact: true });
  await list.focus();
  await page.keyboard.press('ArrowDown');
  const open = page.locator('.p-select-overlay');
  await expect(open).toBeVisible();
  const options = await open.getByRole('option').allTextContents();
  const wanted = options.findIndex((option) => option.trim() === words);
  expect(wanted, `${words} among ${options.join(', ')}`).toBeGreaterThanOrEqual(0);
  // Which one is marked is looked at before it is taken, as who works by keys does.
  await expect(async () => {
    await page.keyboard.press('Home');
    for (let i = 0; i < wanted; i++) await page.keyboard.press('ArrowDown');
    await expect(open.getByRole('option').nth(wanted)).toHaveAttribute('data-p-focused', 'true', { timeout: 1000 });
  }).toPass();
  await page.keyboard.press('Enter');
  await expect(open).toBeHidden();
}

/** Types into a field by the keyboard and leaves it. */
export async function typeInto(page: Page, label: string, text: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type(text);
  await page.keyboard.press('Tab');
}

/** Waits until everything that was changed is stored. */
export async function settled(page: Page): Promise<void> {
  await expect(page.locator('[data-stored]')).toHaveAttribute('data-stored', 'true');
}
