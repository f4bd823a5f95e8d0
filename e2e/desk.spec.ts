import { expect, type Page } from '@playwright/test';
import { beginProgramme, drawn, openStep, programmeId, seriesNames, settled, test, TITLES, typeInto, viewOf } from './support.js';

/** Amber rectangles of the traces: how many, and from where to where the first one reaches. */
const marks = (page: Page) =>
  page.evaluate(() => {
    const plot = document.querySelector('[data-chart="traces"] .plot') as unknown as {
      _fullLayout?: { shapes: { yref: string; x0: number; x1: number }[]; xaxis: { range: number[] } };
    } | null;
    const shapes = plot?._fullLayout?.shapes.filter(({ yref }) => yref.endsWith('domain')) ?? [];
    return { count: shapes.length, first: shapes[0] ?? null, range: plot?._fullLayout?.xaxis.range.map(Number) ?? [] };
  });

test('what a check found is said in a sentence, looked at by keys, and drawn where it is', async ({ page }) => {
  await openStep(page, TITLES.twin, 'logs', '?pull=p05');
  await drawn(page, 'traces');
  const found = page.getByRole('list', { name: 'What the checks found' });
  await expect(found).toContainText(/Drop does not follow flow squared: the drop over the box changes by −\d+\s%\s?at 4\d{3}\srpm/);
  await expect(found).toContainText('Touches restriction.');
  expect((await marks(page)).count).toBe(0);
  await found.getByRole('button', { name: /^Look at/ }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await seriesNames(page, 'traces')).some((name) => name?.includes('Pressure drop box'))).toBe(true);
  await expect.poll(async () => (await marks(page)).count).toBe(1);
  const { first, range } = await marks(page);
  expect(first!.x0).toBeGreaterThan(range[0]!);
  expect(first!.x1).toBeLessThan(range[1]!);
  expect(range[1]! - range[0]!).toBeLessThan(4);
  // Of what is seen closely mean and drift are told, as of a steady load.
  await expect(page.locator('aside[aria-label^="What every line reads"]')).toContainText(
    /mean [\d.]+ \([\d.]+ to [\d.]+\); drift −?[\d.]+/,
  );
  // Over engine speed nothing of it is drawn, and it is there again over time.
  await page.getByRole('combobox', { name: 'Drawn over' }).click();
  await page.getByRole('option', { name: 'over engine speed' }).click();
  await expect.poll(async () => (await marks(page)).count).toBe(0);
});

test('a section’s law is drawn over flow, its step said and fitted on both sides, the other sections chosen', async ({ page }) => {
  await openStep(page, TITLES.twin, 'logs', '?pull=p05');
  await drawn(page, 'restriction');
  const table = page.getByRole('table', { name: 'Restriction by setup' });
  await expect(table.getByRole('row')).toHaveCount(3);
  const view = await viewOf(page, await programmeId(page, TITLES.twin));
  const [a, b] = ['A', 'B'].map((setup) => view.findings.restriction.find((entry) => entry.setup === setup && entry.section === 'box')!);
  await expect(table.getByRole('row').nth(1)).toContainText(a!.effectiveAreaCm2!.toFixed(1));
  await expect(table.getByRole('row').nth(2)).toContainText(b!.effectiveAreaCm2!.toFixed(1));
  const { step } = b!;
  await expect(page.getByRole('region', { name: 'Restriction' })).toContainText(
    `B changes at ${Math.round(step!.atRpm)} rpm: the drop by −${Math.abs(step!.changePct).toFixed(0)}`,
  );
  await expect(page.getByRole('region', { name: 'Restriction' })).toContainText(`from ${step!.below!.areaCm2.toFixed(1)} cm²`);
  await page.getByRole('combobox', { name: 'Section' }).click();
  await page.getByRole('option', { name: 'filter' }).click();
  await expect(page.getByRole('region', { name: 'Restriction' })).not.toContainText('changes at');
  const filter = view.findings.restriction.find(({ setup, section }) => setup === 'A' && section === 'filter')!;
  await expect(table.getByRole('row').nth(1)).toContainText(filter.effectiveAreaCm2!.toFixed(1));
});

test('the heat of the pulls is drawn and told by setup, from the same start, and a pull is chosen in it', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p02');
  await drawn(page, 'heat');
  const heat = page.getByRole('region', { name: 'Heat' });
  const view = await viewOf(page, await programmeId(page, TITLES.airbox));
  const rise = view.findings.comparisons[0]!.riseAtEqualStartK!;
  await expect(heat).toContainText(
    `From the same start the intake air of B rises less than that of A: −${Math.abs(rise.value).toFixed(1)}`,
  );
  const [cooling] = view.findings.chargeCooling;
  await expect(heat.getByRole('table')).toContainText(cooling!.effectiveness.toFixed(2));
  await expect(heat).toContainText('too little is logged between the pulls');
});

test('runs on the road stand gear by gear with their caution, and only what they have in common is compared', async ({ page }) => {
  await openStep(page, TITLES.airfield, 'logs', '?pull=p02');
  const road = page.getByRole('region', { name: 'Road', exact: true });
  await expect(road).toContainText('On a closed road or track only');
  const { findings } = await viewOf(page, await programmeId(page, TITLES.airfield));
  const rows = page.getByRole('region', { name: 'Runs on the road' }).getByRole('row');
  await expect(rows).toHaveCount(findings.road.runs.length + 1);
  await expect(rows.nth(1)).toContainText(`≈ ${findings.road.runs[0]!.wheelPower!.meanKW.toFixed(0)}`);
  for (const { gear } of findings.road.pairs) await expect(road).toContainText(`Gear ${gear}, `);
  await rows.nth(5).getByRole('button').focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/pull=p03/);
});

test('response and fade are asked with their own terms, and answered or told what is missing', async ({ page }) => {
  await beginProgramme(page, 'Asked of response', 'question');
  for (const kind of ['Does it respond quicker?', 'Does it fade less?']) {
    await page.getByRole('combobox', { name: 'Ask something more' }).click();
    await page.getByRole('option', { name: kind }).click();
    await expect(page.getByRole('button', { name: `Remove ${kind}` })).toBeVisible();
  }
  await page.getByRole('combobox', { name: 'What responds' }).click();
  await page.getByRole('option', { name: 'until torque is there' }).click();
  await page.getByRole('combobox', { name: 'Response in' }).click();
  await page.getByRole('option', { name: 'as engine speed' }).click();
  await typeInto(page, 'Level, per cent of the reference’s own', '80');
  await page.getByRole('combobox', { name: 'What fades' }).click();
  await page.getByRole('option', { name: 'of charge temperature' }).click();
  await typeInto(page, 'Pull of the series at which fade is read', '4');
  await settled(page);
  const id = page.url().match(/programmes\/([^/]+)/)![1]!;
  const { questions } = (await viewOf(page, id)).bundle.programme;
  expect(questions!.find(({ kind }) => kind === 'quicker-response')).toMatchObject({
    unit: 'rpm',
    smallest: 100,
    response: { of: 'torque', levelPct: 80 },
  });
  expect(questions!.find(({ kind }) => kind === 'fades-less')).toMatchObject({ unit: 'K', smallest: 3, nth: 4 });
  await openStep(page, TITLES.airfield, 'verdict');
  await expect(page.getByRole('listitem').filter({ hasText: 'Quicker response' })).toContainText(/−0\.\d\d\ss/);
});
