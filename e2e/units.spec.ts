import { drawn, expect, openStep, test, TITLES } from './support.js';

async function choose(page: import('@playwright/test').Page, units: string[]): Promise<void> {
  await page.getByRole('button', { name: /^Units:/ }).click();
  for (const unit of units) await page.getByRole('dialog', { name: 'Units' }).getByRole('button', { name: unit, exact: true }).click();
  await page.keyboard.press('Escape');
}

test('the units switch reaches tables, read-outs and charts everywhere at once, and other tabs', async ({ page, context }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p02');
  const row = page.locator('[data-row="p02"]');
  const kW = Number(await row.locator('td.number').first().textContent());
  const other = await context.newPage();
  await other.goto(page.url());
  await choose(page, ['hp', 'lb·ft', '°F', 'inH2O']);
  const hp = Number(await row.locator('td.number').first().textContent());
  expect(hp / kW).toBeCloseTo(1.341, 2);
  await expect(page.getByRole('columnheader', { name: /^Mean/ })).toContainText('hp');
  await expect(page.locator('.pull-table').getByRole('columnheader', { name: /^Start/ })).toContainText('°F');
  await drawn(page, 'traces');
  await expect(page.locator('[data-chart="traces"]')).toContainText('hp');
  await expect(page.locator('[data-chart="tide"]')).toContainText('°F');
  await expect(other.getByRole('columnheader', { name: /^Mean/ })).toContainText('hp');
  await page.getByRole('link', { name: /Verdict/ }).click();
  await drawn(page, 'curves');
  await expect(page.locator('[data-chart="curves"]')).toContainText('power, hp');
  await expect(page.locator('[data-chart="curves"]')).toContainText('torque, lb·ft');
  await expect(page.locator('[data-selected-pull="p02"]')).toContainText('hp');
  await page.getByRole('link', { name: /Question/ }).click();
  await expect(page.getByLabel('Tyre pressure of A')).toHaveValue(/inH2O/);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Units: hp · lb·ft · °F · inH2O. Change' })).toBeVisible();
  await choose(page, ['PS', 'bar']);
  await expect(page.getByLabel('Tyre pressure of A')).toHaveValue('2.30 bar');
});
