import type { Page } from '@playwright/test';
import { boardSchema } from '@gezeit/contract';
import { expect, openStep, test, TITLES } from './support.js';

/** Programmes that are planned and not driven: the coupe of the demo, and what tests before this one have left on the board. */
async function plannedOnBoard(page: Page): Promise<number> {
  const { programmes } = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const planned = programmes.filter(({ plannedResolvablePct }) => plannedResolvablePct !== null);
  expect(planned.map(({ title }) => title)).toContain(TITLES.coupe);
  return planned.length;
}

test('the board shows the demo’s programmes with their verdicts and opens one', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
  for (const title of Object.values(TITLES)) await expect(page.getByRole('link', { name: title })).toBeVisible();
  await expect(page.locator('.answer.gain', { hasText: 'real gain' })).toHaveCount(1);
  await expect(page.locator('.answer.no-difference', { hasText: 'no difference that matters' })).toHaveCount(3);
  await expect(page.locator('.answer.withheld', { hasText: 'withheld' })).toHaveCount(1);
  await expect(page.locator('p', { hasText: /planned: could recognise [\d.]+ %/ })).toHaveCount(await plannedOnBoard(page));
  await page.getByRole('link', { name: TITLES.airbox }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Real gain: +1.9 % (+0.5 to +3.2)');
  await page.goBack();
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
});

test('each verdict says its sentence', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'verdict');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No difference that matters');
  await openStep(page, TITLES.cooler, 'verdict');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No verdict on the power');
  await expect(page.locator('li', { hasText: 'Cooler charge' })).toContainText('yes');
  await expect(page.getByText('Withholds: power.').first()).toBeVisible();
});

test('the question shows what differs and what will cloud the verdict', async ({ page }) => {
  await openStep(page, TITLES.cooler, 'question');
  await expect(page.getByRole('row', { name: /^Tune/ })).toContainText('differs');
  await expect(page.getByText('No verdict on power can be given.')).toBeVisible();
  await openStep(page, TITLES.airbox, 'question');
  await expect(page.getByText('differ in nothing but the part under test')).toBeVisible();
});

test('an unknown address and an unknown programme say what to do', async ({ page }) => {
  await page.goto('/nowhere/at/all');
  await expect(page.getByText('There is nothing at this address.')).toBeVisible();
  await page.goto('/programmes/none/verdict');
  await expect(page.getByRole('alert')).toContainText('Go back to the board');
});
