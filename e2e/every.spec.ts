import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { drawn, expect, programmeId, test, TITLES } from './support.js';

/** Every view of Gezeit: its address and the charts that stand on it. */
const VIEWS: { name: string; path: (id: string) => string; charts: string[] }[] = [
  { name: 'Programmes', path: () => '/', charts: ['board'] },
  { name: 'Question', path: (id) => `/programmes/${id}/question`, charts: [] },
  { name: 'Bench', path: (id) => `/programmes/${id}/bench`, charts: ['path'] },
  { name: 'Bench, a section', path: (id) => `/programmes/${id}/bench?section=duct`, charts: ['path'] },
  { name: 'Bench, flow bench', path: (id) => `/programmes/${id}/bench?instrument=flow-bench`, charts: ['path', 'flow-bench'] },
  { name: 'Bench, air demand', path: (id) => `/programmes/${id}/bench?instrument=air-demand`, charts: ['path', 'air-demand'] },
  { name: 'Bench, condensation', path: (id) => `/programmes/${id}/bench?instrument=condensation`, charts: ['path', 'condensation-risk'] },
  { name: 'Plan', path: (id) => `/programmes/${id}/plan`, charts: ['plan'] },
  { name: 'Day', path: (id) => `/programmes/${id}/day`, charts: ['day-tide'] },
  { name: 'Logs', path: (id) => `/programmes/${id}/logs?pull=p02`, charts: ['tide', 'traces'] },
  { name: 'Verdict', path: (id) => `/programmes/${id}/verdict?pull=p02`, charts: ['estimates', 'tide', 'curves'] },
  { name: 'Not found', path: () => '/nothing-here', charts: [] },
];
const PLOTTED = ['traces', 'curves', 'flow-bench', 'air-demand', 'condensation-risk'];

for (const theme of ['light', 'dark'] as const) {
  for (const view of VIEWS) {
    test(`axe finds nothing serious on ${view.name}, ${theme}`, async ({ page }) => {
      await page.addInitScript((chosen) => localStorage.setItem('gezeit.theme', chosen), theme);
      await page.goto(view.path(await programmeId(page, TITLES.airbox)));
      await expect(page.locator('h1')).toBeAttached();
      for (const chart of view.charts.filter((name) => PLOTTED.includes(name))) await drawn(page, chart);
      expect(await page.locator('html').getAttribute('data-theme')).toBe(theme);
      const { violations } = await new AxeBuilder({ page })
        .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'])
        .analyze();
      const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
      expect(serious.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`)).toEqual([]);
    });
  }
}

test('every route of the application is one of the views walked here', async ({ page }) => {
  const source = readFileSync(new URL('../web/src/app/steps.ts', import.meta.url), 'utf8');
  const steps = [...source.matchAll(/name: '(\w+)',\n\s+title/g)].map(([, name]) => name);
  expect(steps).toEqual(['question', 'bench', 'plan', 'day', 'logs', 'verdict']);
  const id = await programmeId(page, TITLES.airbox);
  for (const step of steps) expect(VIEWS.some(({ path }) => path(id).includes(`/${step}`))).toBe(true);
});

for (const view of VIEWS.filter(({ charts }) => charts.length > 0)) {
  test(`every chart of ${view.name} is saved as SVG and its data as CSV`, async ({ page }) => {
    await page.goto(view.path(await programmeId(page, TITLES.airbox)));
    await expect(page.locator('[data-chart]')).toHaveCount(view.charts.length);
    for (const chart of view.charts) {
      if (PLOTTED.includes(chart)) await drawn(page, chart);
      const frame = page.locator(`[data-chart="${chart}"]`);
      const save = async (kind: 'SVG' | 'CSV') => {
        const [download] = await Promise.all([
          page.waitForEvent('download'),
          frame.getByRole('button', { name: new RegExp(`as ${kind}$`) }).click(),
        ]);
        expect(download.suggestedFilename()).toBe(`${chart}.${kind.toLowerCase()}`);
        return readFileSync((await download.path())!, 'utf8');
      };
      const svg = await save('SVG');
      expect(svg, chart).toMatch(/^<svg/);
      expect(svg.length, chart).toBeGreaterThan(500);
      const rows = (await save('CSV')).trim().split('\n');
      expect(rows.length, chart).toBeGreaterThan(1);
      expect(rows[1]!.split(',').length, chart).toBeGreaterThan(1);
    }
  });
}

for (const view of VIEWS) {
  test(`every text of ${view.name} is at least 13 px, every button has a name, and nothing is cut off when narrow`, async ({ page }) => {
    await page.goto(view.path(await programmeId(page, view.name.startsWith('Bench') ? TITLES.airbox : TITLES.trumpets)));
    await expect(page.locator('h1')).toBeAttached();
    for (const chart of view.charts.filter((name) => PLOTTED.includes(name))) await drawn(page, chart);
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('body *')]
        .filter((element) => [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent!.trim() !== ''))
        .filter(
          (element) => !['SCRIPT', 'STYLE', 'TITLE'].includes(element.tagName) && (element as HTMLElement).checkVisibility?.() !== false,
        )
        .filter((element) => Number.parseFloat(getComputedStyle(element).fontSize) < 12.99)
        .map((element) => `${element.tagName} ${element.textContent!.trim().slice(0, 30)} ${getComputedStyle(element).fontSize}`),
    );
    expect(small).toEqual([]);
    const nameless = await page.evaluate(() =>
      [...document.querySelectorAll('button, [role=button], a')]
        .filter((element) => !(element.getAttribute('aria-label') || element.textContent?.trim()))
        .map((element) => element.outerHTML.slice(0, 120)),
    );
    expect(nameless).toEqual([]);
    await page.setViewportSize({ width: 480, height: 800 });
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth))
      .toBeLessThanOrEqual(1);
  });
}
