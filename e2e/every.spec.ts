import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { stagedSchema } from '@gezeit/contract';
import { STEP_NAMES } from '../web/src/model/step-names.js';
import { ROOT } from './seed.mjs';
import { axeOn, choicesShown, drawn, expect, programmeId, test, TITLES } from './support.js';
import type { Page } from '@playwright/test';

/** Drops two runs of the loose day and a file that is none; the address where they wait to be sorted. */
async function dropped(page: Page): Promise<string> {
  const files = ['run_001.csv', 'run_002.csv', 'box-1.txt'].map((name) => ({
    name,
    mimeType: 'text/csv',
    buffer: readFileSync(join(ROOT, 'demo/loose', name)),
  }));
  const odd = { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('Dear diary') };
  const multipart = Object.fromEntries([...files, odd].map((file) => [file.name, file]));
  const answer = await page.request.post('/api/staged', { headers: { 'x-gezeit-person': 'BT%20Browser%20Test' }, multipart });
  return `/sort/${stagedSchema.parse(await answer.json()).id}`;
}

/** Every view of Gezeit: its address and the charts that stand on it. */
const VIEWS: { name: string; path: (id: string, page: Page) => string | Promise<string>; charts: string[] }[] = [
  { name: 'Programmes', path: () => '/', charts: ['board'] },
  { name: 'Question', path: (id) => `/programmes/${id}/question`, charts: [] },
  { name: 'Bench', path: (id) => `/programmes/${id}/bench`, charts: ['path'] },
  { name: 'Bench, a section', path: (id) => `/programmes/${id}/bench?section=duct`, charts: ['path'] },
  { name: 'Bench, flow bench', path: (id) => `/programmes/${id}/bench?instrument=flow-bench`, charts: ['path', 'flow-bench'] },
  { name: 'Bench, air demand', path: (id) => `/programmes/${id}/bench?instrument=air-demand`, charts: ['path', 'air-demand'] },
  { name: 'Bench, condensation', path: (id) => `/programmes/${id}/bench?instrument=condensation`, charts: ['path', 'condensation-risk'] },
  { name: 'Plan', path: (id) => `/programmes/${id}/plan`, charts: ['plan'] },
  { name: 'Day', path: (id) => `/programmes/${id}/day`, charts: ['day-tide'] },
  { name: 'Logs', path: (id) => `/programmes/${id}/logs?pull=p02`, charts: ['tide', 'traces', 'heat', 'restriction'] },
  {
    name: 'Logs, drives',
    path: async (_, page) => `/programmes/${await programmeId(page, TITLES.airfield)}/logs?pull=p13`,
    charts: ['tide', 'traces', 'heat', 'track'],
  },
  {
    name: 'Verdict',
    path: (id) => `/programmes/${id}/verdict?pull=p02`,
    charts: ['estimates', 'tide', 'levelling', 'curves', 'choices', 'split'],
  },
  { name: 'Sheet', path: (id) => `/programmes/${id}/sheet`, charts: [] },
  { name: 'Sort', path: (_, page) => dropped(page), charts: [] },
  { name: 'Not found', path: () => '/nothing-here', charts: [] },
];
const PLOTTED = [
  'traces',
  'track',
  'heat',
  'restriction',
  'curves',
  'levelling',
  'choices',
  'flow-bench',
  'air-demand',
  'condensation-risk',
];

/** Only looks, and asks every view alike: the views stand beside each other. */
test.describe.configure({ mode: 'parallel' });

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'];

/** Those that another theme can break: all others look at what both have in common. */
const COLOUR_RULES = ['color-contrast', 'link-in-text-block'];

async function seriousFaults(page: Page, rules: 'all' | 'colours'): Promise<string[]> {
  const axe = axeOn(page);
  const { violations } = await (rules === 'all' ? axe.withTags(RULES) : axe.withRules(COLOUR_RULES)).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  return serious.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`);
}

/** Texts under 13 px, as they are laid out. */
const smallTexts = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('body *')]
      .filter((element) => [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent!.trim() !== ''))
      .filter(
        (element) => !['SCRIPT', 'STYLE', 'TITLE'].includes(element.tagName) && (element as HTMLElement).checkVisibility?.() !== false,
      )
      .filter((element) => Number.parseFloat(getComputedStyle(element).fontSize) < 12.99)
      .map((element) => `${element.tagName} ${element.textContent!.trim().slice(0, 30)} ${getComputedStyle(element).fontSize}`),
  );

const namelessButtons = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('button, [role=button], a')]
      .filter((element) => !(element.getAttribute('aria-label') || element.textContent?.trim()))
      .map((element) => element.outerHTML.slice(0, 120)),
  );

/** The browser lets a page save ten files in a second, and drops the eleventh without a word. */
const BURST = { files: 10, ms: 1000 };

async function savesAsSvgAndCsv(page: Page, charts: readonly string[]): Promise<void> {
  const savedAt: number[] = [];
  const save = async (chart: string, kind: 'SVG' | 'CSV') => {
    const tenth = savedAt.at(-BURST.files);
    if (tenth !== undefined) await page.waitForTimeout(Math.max(0, tenth + BURST.ms - Date.now()));
    const coming = page.waitForEvent('download', { timeout: 30_000 });
    // By its key: what is below a chart may still move under a mouse.
    await page
      .locator(`[data-chart="${chart}"]`)
      .getByRole('button', { name: new RegExp(`as ${kind}$`) })
      .press('Enter');
    const download = await coming;
    savedAt.push(Date.now());
    expect(download.suggestedFilename()).toBe(`${chart}.${kind.toLowerCase()}`);
    return readFileSync((await download.path())!, 'utf8');
  };
  for (const chart of charts) {
    const svg = await save(chart, 'SVG');
    expect(svg, chart).toMatch(/^<svg/);
    expect(svg.length, chart).toBeGreaterThan(500);
    const rows = (await save(chart, 'CSV')).trim().split('\n');
    expect(rows.length, chart).toBeGreaterThan(1);
    expect(rows[1]!.split(',').length, chart).toBeGreaterThan(1);
  }
}

for (const view of VIEWS) {
  test(`${view.name}: nothing serious for axe in light and dark, texts of 13 px, names on buttons, charts saved, nothing cut off when narrow`, async ({
    page,
  }) => {
    test.setTimeout(240_000);
    await page.goto(await view.path(await programmeId(page, TITLES.airbox), page));
    await expect(page.locator('h1')).toBeAttached();
    if (view.charts.includes('choices')) await choicesShown(page);
    await expect(page.locator('[data-chart]')).toHaveCount(view.charts.length, { timeout: 90_000 });
    for (const chart of view.charts.filter((name) => PLOTTED.includes(name))) await drawn(page, chart);

    expect(await page.locator('html').getAttribute('data-theme')).toBe('light');
    expect(await seriousFaults(page, 'all')).toEqual([]);
    expect(await smallTexts(page)).toEqual([]);
    expect(await namelessButtons(page)).toEqual([]);
    // What is still being computed would move the buttons away under the mouse.
    await expect(page.locator('main [aria-busy="true"]')).toHaveCount(0);
    await savesAsSvgAndCsv(page, view.charts);

    await page.getByRole('button', { name: 'Switch to the dark theme' }).click();
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
    await page.mouse.move(0, 0);
    await page.evaluate(() => Promise.all(document.getAnimations().map(({ finished }) => finished.catch(() => undefined))));
    for (const chart of view.charts.filter((name) => PLOTTED.includes(name))) await drawn(page, chart);
    expect(await seriousFaults(page, 'colours')).toEqual([]);

    await page.setViewportSize({ width: 320, height: 800 });
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth))
      .toBeLessThanOrEqual(1);
  });
}

test('every step of a programme is one of the views walked here', ({ page }) => {
  const steps = VIEWS.filter(({ name }) => name !== 'Sort' && name !== 'Logs, drives').map(({ path }) => String(path('x', page)));
  for (const step of STEP_NAMES) expect(steps.some((path) => path.includes(`/${step}`))).toBe(true);
});

/** What the board may load of scripts until it is drawn, bytes as they are run. */
const MOST_FIRST_SCRIPT_BYTES = 350_000;

test('the board is drawn from at most 350 kB of scripts, which are sent compressed', async ({ page }) => {
  await page.addInitScript(() => {
    const seen = new MutationObserver(() => {
      if (!document.querySelector('[data-chart="board"] svg')) return;
      seen.disconnect();
      const scripts = performance.getEntriesByType('resource').filter(({ name }) => name.endsWith('.js')) as PerformanceResourceTiming[];
      (window as unknown as { firstScripts: object[] }).firstScripts = scripts.map(({ name, decodedBodySize, encodedBodySize }) => ({
        name,
        decodedBodySize,
        encodedBodySize,
      }));
    });
    seen.observe(document, { subtree: true, childList: true });
  });
  await page.goto('/');
  await expect(page.locator('[data-chart="board"] svg')).toBeVisible();
  const scripts = await page.evaluate(
    () => (window as unknown as { firstScripts: { name: string; decodedBodySize: number; encodedBodySize: number }[] }).firstScripts,
  );
  expect(scripts.length).toBeGreaterThan(1);
  const total = scripts.reduce((sum, { decodedBodySize }) => sum + decodedBodySize, 0);
  expect(total, scripts.map(({ name, decodedBodySize }) => `${name} ${decodedBodySize}`).join(', ')).toBeLessThanOrEqual(
    MOST_FIRST_SCRIPT_BYTES,
  );
  for (const { name, decodedBodySize, encodedBodySize } of scripts.filter((script) => script.decodedBodySize > 5000))
    expect(encodedBodySize, name).toBeLessThan(decodedBodySize / 2);
});
