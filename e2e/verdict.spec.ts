import type { Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { choicesShown, chooseByKey, demoCopy, drawn, expect, goTo, openStep, pickFolder, test, TITLES } from './support.js';

/** Middle of a pull's levelled mark in the picture of the pulls: the last trace of the candidate holds them. */
async function levelledMark(page: Page): Promise<{ x: number; y: number }> {
  const mark = page.locator('[data-chart="levelling"] .plot .scatterlayer').first().locator('.trace').nth(6).locator('.point').first();
  const box = await mark.boundingBox();
  return { x: box!.x + box!.width / 2, y: box!.y + box!.height / 2 };
}

test('hovering a pull tells what was taken out of it, and by what; clicking selects it everywhere', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  await drawn(page, 'levelling');
  const { x, y } = await levelledMark(page);
  await page.mouse.move(x, y);
  const hover = page.locator('[data-chart="levelling"] .hoverlayer');
  await expect(hover).toContainText('taken out: heat at the start');
  await expect(hover).toContainText('levelled +');
  await page.mouse.click(x, y);
  await expect(page).toHaveURL(/pull=p05/);
  await expect(page.locator('[data-pull="p05"]')).toHaveAttribute('aria-pressed', 'true');
  await expect(page.locator('[data-selected-pull="p05"]')).toContainText(/As run .* taken out: heat at the start .* levelled/);
});

test('the second sentence comes after the first, and names what would flip the answer; that is taken, shown before and after, and undone', async ({
  page,
}) => {
  await openStep(page, TITLES.airbox, 'verdict');
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toContainText('Sealed box gains');
  const before = await heading.textContent();
  const second = page.getByText(/It rests on −0\.15\s%\sof power per kelvin at the start being about right/).first();
  await expect(second).toBeVisible();
  // They are not tried for nobody who looks, and the panel does not say that they are.
  await expect(page.locator('[data-chart="choices"]')).toHaveCount(0);
  const panel = page.getByRole('region', { name: 'Would another choice have changed it?' });
  await expect(panel).toContainText('tried when this comes into sight');
  await expect(panel).not.toHaveAttribute('aria-busy', 'true');
  await choicesShown(page);
  await expect(page.getByText(/\d+ of \d+ other choices read the same/)).toBeVisible();

  await page.getByText('Each choice by itself').press('Enter');
  const flips = page.locator('[data-chart="choices"] ~ details tr.flips').filter({ hasText: 'power per kelvin at the start' });
  await flips.first().getByRole('button', { name: /^Take/ }).press('Enter');
  const note = page.getByRole('status').filter({ hasText: 'Chosen otherwise' });
  await expect(note).toContainText('Before: Sealed box gains');
  await expect(heading).toContainText('cannot be told');
  await expect(note).toContainText(/Now: What Sealed box does/);
  await expect(page.getByText(/Assumptions changed by hand: start temperature/)).toBeVisible();

  await note.getByRole('button', { name: 'Undo' }).press('Enter');
  await expect(heading).toHaveText(before!);
  await expect(note).toHaveCount(0);
});

test('a choice of the band goes into the programme and can be kept: the note is dismissed, the undo key still takes it back', async ({
  page,
}) => {
  await openStep(page, TITLES.airbox, 'verdict');
  const terms = page.getByText(/4400\sto\s6600\srpm; 6 and 5 pulls/).first();
  await expect(terms).toBeVisible();
  await choicesShown(page);
  await page.getByText('Each choice by itself').press('Enter');
  await page.getByRole('button', { name: /Take: band from 4200\srpm/ }).press('Enter');
  await expect(page.getByText(/4200\sto\s6600\srpm; 6 and 5 pulls/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss' }).press('Enter');
  await expect(page.getByText('Chosen otherwise')).toHaveCount(0);
  await page.locator('h1').first().click();
  await page.keyboard.press('z');
  await expect(terms).toBeVisible();
});

test('the split names every cause with its interval, and what was not logged', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  const split = page.locator('[data-chart="split"]');
  for (const cause of ['heat at the start', 'drift', 'learning', 'breathing', 'ignition', 'mixture', 'unexplained']) {
    await expect(split.locator('svg')).toContainText(cause);
  }
  await expect(split).toContainText('No row for weather: No weather correction is used.');
  await expect(page.getByRole('heading', { name: 'Other witnesses' })).toBeVisible();
  await expect(page.getByRole('row', { name: /air mass flow/ })).toContainText('agrees with power');
});

test('another channel stands under the difference, with both bands; ranges that are real are named', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  await drawn(page, 'curves');
  await expect(page.getByText(/Real gain: 5500\sto\s6\d00\srpm\./)).toBeVisible();
  await chooseByKey(page, 'What stands in the lowest panel', 'ignition');
  await expect(page.locator('[data-chart="curves"]')).toContainText('ignition: B − A, plain means');
  await page.getByText(/In parts of the band, by other metrics/).press('Enter');
  await expect(page.getByRole('row', { name: /at the claimed 6000\srpm/ })).toBeVisible();
});

test('a withheld answer is withheld whatever is chosen, and nothing under it reads as a gain', async ({ page }) => {
  await openStep(page, TITLES.cooler, 'verdict');
  await drawn(page, 'levelling');
  await choicesShown(page);
  await expect(page.getByText('The answer is withheld whatever is chosen.')).toBeVisible();
  await expect(page.getByText(/Measured all the same, above zero/)).toBeVisible();
  await expect(page.getByText('Real gain')).toHaveCount(0);
  await expect(page.getByText('It rests on')).toHaveCount(0);
});

test('a loss is called one, on the verdict, the board and the sheet, and nothing is offered to be said as a gain', async ({ page }) => {
  const TITLE = 'Back to the open box';
  // The same day asked the other way round: the part that gains is the reference.
  const folder = demoCopy('sealed-airbox', (copy) => {
    const file = join(copy, 'gezeit.json');
    const bundle = JSON.parse(readFileSync(file, 'utf8')) as {
      programme: { title: string };
      setups: { id: string; reference?: boolean }[];
    };
    bundle.programme.title = TITLE;
    for (const setup of bundle.setups) setup.reference = setup.id === 'B';
    writeFileSync(file, JSON.stringify(bundle));
  });
  await pickFolder(page, folder);
  const dialog = page.getByRole('dialog', { name: 'Bring files in' });
  await expect(dialog.getByText('Imported, original files kept byte for byte.')).toBeVisible({ timeout: 60_000 });
  await dialog.getByRole('button', { name: 'Open the programme' }).click();
  const headline = page.getByRole('heading', { level: 1 });
  await expect(headline).toContainText(/loses against .+: −\d/);
  const figure = await headline.locator('.figures').textContent();
  await expect(headline.locator('.figures.loss')).toBeVisible();
  await choicesShown(page);
  await expect(page.locator('[data-chart="choices"] ~ p')).toContainText(/read the same( \(loss\)|: loss)/, { timeout: 90_000 });
  await drawn(page, 'curves');

  await goTo(page, '/');
  const loss = /−[\d.]+/.exec(figure!)![0];
  await expect(page.locator('.answers li').filter({ hasText: loss })).toHaveCount(1);
  await page.locator('.entries li').filter({ hasText: TITLE }).getByRole('link', { name: TITLE }).click();
  await expect(headline).toContainText(figure!);
  await page.getByRole('navigation', { name: 'Steps of the programme' }).getByRole('link', { name: /Sheet/ }).click();
  await expect(page.locator('main')).toContainText(figure!);
  await expect(page.locator('main')).toContainText('loses against');
  await expect(page.locator('main')).not.toContainText(/gains? [\d.]+/);
});
