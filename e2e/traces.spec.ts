import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { chooseByKey, drawn, expect, openStep, programmeId, seriesNames, settled, test, TITLES, viewOf } from './support.js';

/** What is seen of the axis. */
const span = (page: Page): Promise<[number, number]> =>
  page
    .locator('[data-chart="traces"] .plot')
    .evaluate(
      (plot) =>
        (plot as unknown as { _fullLayout: { xaxis: { range: [number, number] } } })._fullLayout.xaxis.range.map(Number) as [
          number,
          number,
        ],
    );
const width = async (page: Page) => (await span(page)).reduce((from, to) => to - from);
const wide = (page: Page) => expect.poll(() => width(page));
const unitsOf = (page: Page) =>
  page
    .getByRole('complementary', { name: /reads at the cursor/ })
    .getByRole('heading')
    .allTextContents();

/** Takes entries of a list by the keyboard. */
async function takeByKey(page: Page, label: string, entries: string[]): Promise<void> {
  const list = page.getByRole('combobox', { name: label, exact: true });
  await list.focus();
  await page.keyboard.press('ArrowDown');
  const filter = page.locator('.p-multiselect-overlay').getByRole('searchbox');
  await expect(filter).toBeVisible();
  for (const entry of entries) {
    await filter.fill(entry);
    await filter.press('ArrowDown');
    await page.keyboard.press('Enter');
    await filter.focus();
  }
  await page.keyboard.press('Escape');
  await expect(filter).toBeHidden();
}

test('one looks closer by wheel, by a stretch drawn, and by keys; the data is fetched anew for what is seen, and all of it comes back', async ({
  page,
}) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p03');
  await drawn(page, 'traces');
  // All of it is there once every channel is.
  await wide(page).toBeGreaterThan(10);
  const whole = await width(page);
  // The window and two seconds on either side.
  expect(whole).toBeGreaterThan(10);
  const asked: string[] = [];
  page.on('request', (request) => request.url().includes('/traces?') && asked.push(request.url()));
  const chart = page.getByRole('application', { name: /^Traces of p03 over time/ });
  const box = (await chart.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 60);
  await page.mouse.wheel(0, -300);
  await wide(page).toBeLessThan(0.85 * whole);
  const after = await width(page);
  await page.mouse.move(box.x + 300, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 420, box.y + 80, { steps: 4 });
  await page.mouse.up();
  await wide(page).toBeLessThan(0.4 * after);
  await expect.poll(() => asked.some((url) => /fromS=/.test(url))).toBe(true);
  // The Shift key moves along instead.
  const [from] = await span(page);
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 300, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + 60, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await span(page))[0]).toBeGreaterThan(from);
  await chart.dblclick({ position: { x: 400, y: 60 } });
  await wide(page).toBeCloseTo(whole, 1);
});

test('keys alone: closer, farther, along, the cursor through every panel, and all of it', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p03');
  await drawn(page, 'traces');
  // All of it is there once every channel is.
  await wide(page).toBeGreaterThan(10);
  const whole = await width(page);
  const chart = page.getByRole('application', { name: /^Traces/ });
  await chart.focus();
  for (let i = 0; i < 4; i += 1) await page.keyboard.press('+');
  await wide(page).toBeLessThan(0.5 * whole);
  const [from] = await span(page);
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(async () => (await span(page))[0]).toBeGreaterThan(from);
  await page.keyboard.press('ArrowRight');
  const readout = page.getByRole('complementary', { name: /reads at the cursor/ });
  await expect(readout.getByRole('status')).toContainText('s from full throttle');
  const values = await readout.locator('.value').allTextContents();
  expect(values).toHaveLength(4);
  for (const value of values) expect(value).toMatch(/^−?\d/);
  expect(await unitsOf(page)).toEqual(['rpm', 'kW', '%', 'kPa']);
  await page.keyboard.press('-');
  await page.keyboard.press('0');
  await wide(page).toBeCloseTo(whole, 1);
  // The pull that is selected has not moved with the arrows.
  expect(new URL(page.url()).searchParams.get('pull')).toBe('p03');
});

test('over a stretch that is seen the cooler’s effectiveness and heat are told, with what is missing for it', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p03');
  await drawn(page, 'traces');
  await page.getByRole('application', { name: /^Traces/ }).focus();
  for (let i = 0; i < 4; i += 1) await page.keyboard.press('+');
  await expect(page.getByText(/Draw .*Compressor outlet temperature.* too: then the cooler’s effectiveness is told/)).toBeVisible();
  await takeByKey(page, 'Channels that are drawn', ['Compressor outlet', 'Cooler outlet', 'Ambient temperature']);
  const told = page.getByText(/p03: effectiveness 0\.\d\d \(0\.\d\d to \d\.\d\d\) against Ambient temperature/);
  await expect(told).toContainText('with the air mass flow drawn, the heat too');
  await takeByKey(page, 'Channels that are drawn', ['Air mass flow']);
  await expect(told).toContainText(/the charge gives up \d+\.\d\skW \(\d+\.\d to \d+\.\d\)/);
});

test('pulls together, less one of them, over engine speed, against a channel, and as a formula: by keys alone', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p03');
  await drawn(page, 'traces');
  await takeByKey(page, 'Pulls that are drawn', ['p06', 'p09']);
  await expect.poll(async () => (await seriesNames(page, 'traces')).length).toBe(12);
  await chooseByKey(page, 'Drawn over', 'over engine speed');
  // Engine speed over itself is nothing.
  await expect.poll(async () => (await seriesNames(page, 'traces')).filter((name) => /Engine speed/.test(name))).toEqual([]);
  await chooseByKey(page, 'As they are, or less one pull', 'less p03');
  await expect.poll(async () => (await seriesNames(page, 'traces')).some((name) => name.startsWith('p03'))).toBe(false);
  const powers = await page.locator('[data-chart="traces"] .plot').evaluate((plot) => {
    const data = (plot as unknown as { data: { name: string; y: ArrayLike<number> }[] }).data;
    return data.filter(({ name }) => / Power$/.test(name)).map(({ y }) => Math.max(...Array.from(y).map(Math.abs)));
  });
  expect(powers).toHaveLength(2);
  // Two pulls of one engine lie within a few kW of each other wherever both are at full throttle.
  for (const most of powers) expect(most).toBeLessThan(15);
  await chooseByKey(page, 'Drawn over', 'against a channel');
  await expect(page.getByText('Choose the channel to draw against.')).toBeVisible();
  await chooseByKey(page, 'Against which channel', 'Air mass flow');
  await expect(page.getByText(/kW per g\/s; scatter/).first()).toBeVisible();
  await chooseByKey(page, 'Drawn over', 'over time');
  await page.getByRole('button', { name: 'Formula', exact: true }).press('Enter');
  const dialog = page.getByRole('dialog');
  const formula = dialog.getByRole('textbox', { name: 'Formula' });
  await formula.fill('pressureDrop_filter + torque');
  await expect(dialog.getByRole('button', { name: 'Draw it' })).toBeDisabled();
  await expect(dialog.getByText('There is no channel torque')).toBeVisible();
  await formula.fill('power + manifoldPressure');
  await expect(dialog.getByText('cannot be put together')).toBeVisible();
  await formula.fill('power / airMassFlow');
  await expect(dialog.getByText('It gives m²·s⁻².')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Power of air');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await seriesNames(page, 'traces')).filter((name) => name.endsWith('Power of air'))).toHaveLength(2);
  expect(await unitsOf(page)).toContain('m²·s⁻²');
});

test('views are kept by name with the programme, opened again after a reload, and taken back; the verdict is not judged anew', async ({
  page,
}) => {
  const id = await programmeId(page, TITLES.airbox);
  await openStep(page, TITLES.airbox, 'logs', '?pull=p03');
  await drawn(page, 'traces');
  const before = (await viewOf(page, id)).findings;
  await takeByKey(page, 'Pulls that are drawn', ['p12']);
  await chooseByKey(page, 'Drawn over', 'over engine speed');
  await page.getByRole('button', { name: 'Views' }).press('Enter');
  await page.getByLabel('Name of the view').fill('A beside B');
  await page.keyboard.press('Enter');
  await settled(page);
  expect((await viewOf(page, id)).bundle.traceViews?.map(({ name, pulls }) => [name, pulls])).toEqual([['A beside B', ['p12']]]);
  expect((await viewOf(page, id)).findings).toEqual(before);
  await page.reload();
  await drawn(page, 'traces');
  await page.getByRole('button', { name: 'Views (1)' }).press('Enter');
  await page.getByRole('button', { name: 'A beside B', exact: true }).press('Enter');
  await expect(page.getByRole('application', { name: 'Traces of p03, p12 over engine speed' })).toBeVisible();
  await expect(page.getByLabel('Name of the view')).toBeHidden();
  await page.locator('body').press('z');
  await expect(page.getByRole('button', { name: 'Views', exact: true })).toBeVisible();
});

test('the table of the data holds every sample of what is seen, once over what was logged together', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p03');
  await drawn(page, 'traces');
  const id = await programmeId(page, TITLES.airbox);
  const { logs } = await viewOf(page, id);
  const save = async () => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save the data of Traces as CSV' }).press('Enter'),
    ]);
    return readFileSync((await download.path())!, 'utf8')
      .trim()
      .split('\n');
  };
  const everything = await save();
  const rows = Math.max(...logs.filter(({ pulls }) => pulls.includes('p03')).map(({ rowCount }) => rowCount));
  expect(everything.length - 1).toBe(rows);
  expect(everything[0]).toMatch(/^time from full throttle \[s\],"p03 .*\[rpm\]/);
  expect(everything[0]!.match(/time from full throttle/g)!.length).toBeLessThanOrEqual(3);
  await page.getByRole('application', { name: /^Traces/ }).focus();
  for (let i = 0; i < 6; i += 1) await page.keyboard.press('+');
  await wide(page).toBeLessThan(6);
  const closer = await save();
  expect(closer.length).toBeLessThan(0.6 * everything.length);
  const [from, to] = await span(page);
  const times = closer
    .slice(1)
    .map((line) => line.split(',')[0]!)
    .filter(Boolean)
    .map(Number);
  expect(times.length).toBeGreaterThan(20);
  expect(Math.min(...times)).toBeGreaterThanOrEqual(from);
  expect(Math.max(...times)).toBeLessThanOrEqual(to);
});
