import type { Page } from '@playwright/test';
import { boardSchema } from '@gezeit/contract';
import { expect, goTo, openStep, test, TITLES } from './support.js';

/** Programmes that are planned and not driven: the coupe of the demo, and what tests before this one have left on the board. */
async function plannedOnBoard(page: Page): Promise<number> {
  const { programmes } = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const planned = programmes.filter(({ plannedResolvablePct }) => plannedResolvablePct !== null);
  expect(planned.map(({ title }) => title)).toContain(TITLES.coupe);
  return planned.length;
}

test('the board shows the demo’s programmes with their verdicts and opens one', async ({ page }) => {
  await goTo(page, '/');
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
  for (const title of Object.values(TITLES)) await expect(page.getByRole('link', { name: title })).toBeVisible();
  // Every question of every programme that was driven, as the server answers it.
  const { programmes } = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const answers = programmes.flatMap((entry) => (entry.pullsDriven > 0 ? entry.answers : []));
  for (const [answer, word] of Object.entries({ gain: 'yes', 'no-difference': 'no difference', withheld: 'withheld' })) {
    const count = answers.filter((entry) => entry.answer === answer && !entry.bound).length;
    expect(count).toBeGreaterThan(0);
    await expect(page.locator(`.answer.${answer}`, { hasText: word })).toHaveCount(count);
  }
  await expect(page.locator('p', { hasText: /planned: could recognise [\d.]+\s%/ })).toHaveCount(await plannedOnBoard(page));
  await page.getByRole('link', { name: TITLES.airbox }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Sealed box gains +1.9 % (95 %: +0.5 to +3.2) on Stock airbox');
  await page.goBack();
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
});

test('each verdict says its sentence', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'verdict');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No difference that matters');
  await openStep(page, TITLES.cooler, 'verdict');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('The charge is cooler: −15.6 K (95 %: −16.0 to −15.2)');
  await expect(page.locator('li', { hasText: 'Gain' }).first()).toContainText('withheld');
  await expect(page.locator('li', { hasText: 'Cooler charge' })).toContainText('yes');
  await expect(page.getByText('Withholds: power.').first()).toBeVisible();
});

test('the question shows what differs and what will cloud the verdict', async ({ page }) => {
  await openStep(page, TITLES.cooler, 'question');
  await expect(page.getByRole('row', { name: /^Fuel/ })).toContainText('differs');
  await expect(page.getByText('No verdict on power can be given.')).toBeVisible();
  await openStep(page, TITLES.airbox, 'question');
  await expect(page.getByText('differ in nothing but the part under test')).toBeVisible();
});

test('an unknown address and an unknown programme say what to do', async ({ page }) => {
  await goTo(page, '/nowhere/at/all');
  await expect(page.getByText('There is nothing at this address.')).toBeVisible();
  await goTo(page, '/programmes/none/verdict');
  await expect(page.getByRole('alert')).toContainText('Go back to the board');
});
