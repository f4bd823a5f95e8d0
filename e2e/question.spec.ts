import type { Page } from '@playwright/test';
import { beginProgramme, expect, goTo, openStep, settled, test, TITLES, viewOf, programmeId } from './support.js';

test('a draft names what is open, proposes by the kind of engine, and keeps what is half filled', async ({ page }) => {
  const id = await beginProgramme(page, 'Half filled', 'question');
  const open = page.getByRole('region', { name: 'Still open' });
  await expect(open).toContainText('The car has no name yet');
  await page.getByRole('combobox', { name: 'Aspiration' }).click();
  await page.getByRole('option', { name: 'turbo' }).click();
  await settled(page);
  await page.getByRole('combobox', { name: 'Boost control' }).click();
  await page.getByRole('option', { name: 'holds an absolute pressure' }).click();
  await expect(page.getByText('a standard factor would correct what the weather never did').first()).toBeVisible();
  await page.getByRole('button', { name: 'Propose none: uncorrected' }).click();
  await expect(page.getByRole('combobox', { name: 'Weather correction' })).toHaveText('none: uncorrected');
  await page.getByLabel('Band from').fill('9000');
  await page.getByLabel('Band from').press('Tab');
  await expect(page.getByText('The first engine speed must be below the second.')).toBeVisible();
  await settled(page);
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'Weather correction' })).toHaveText('none: uncorrected');
  expect((await viewOf(page, id)).bundle.programme.bandRpm[0]).toBeLessThan(9000);
});

test('setups are duplicated, marked as a bound with its warnings, archived, and the one between is offered', async ({ page }) => {
  await beginProgramme(page, 'Setups', 'question');
  const parts = async (setup: string, text: string) => {
    await page.getByLabel(`Parts of ${setup}`, { exact: true }).fill(text);
    await page.getByLabel(`Parts of ${setup}`, { exact: true }).press('Tab');
    await settled(page);
  };
  await parts('A', 'stock box, stock duct');
  await parts('B', 'new box, new duct');
  await expect(page.getByText('several parts differ')).toBeVisible();
  await page.getByRole('button', { name: 'Stock with new box' }).click();
  await expect(page.getByLabel('Parts of C')).toHaveValue('new box, stock duct');
  await page.getByLabel('Bonnet of A').fill('closed');
  await page.getByLabel('Bonnet of A').press('Tab');
  await page.getByLabel('Bonnet of B').fill('open');
  await page.getByLabel('Bonnet of B').press('Tab');
  await expect(page.getByText('Bonnet differs').or(page.getByText('bonnet differs'))).toBeVisible();
  await expect(page.getByText('No verdict on power and temperature can be given.')).toBeVisible();
  await page.getByRole('button', { name: 'Stock, bonnet open' }).click();
  await expect(page.getByLabel('Bonnet of D')).toHaveValue('open');
  await page.getByRole('button', { name: 'Duplicate B' }).click();
  await page.getByRole('button', { name: 'Setup E is a bound' }).click();
  await expect(page.getByRole('note').filter({ hasText: 'E is a bound, never for sale' })).toContainText('Debris');
  await page.getByRole('button', { name: 'Archive C' }).click();
  await expect(page.getByLabel('Parts of C')).toBeHidden();
  await page.getByRole('button', { name: 'Move B left' }).click();
  await expect(page.getByLabel(/^Name of setup/).first()).toHaveValue('New part');
});

test('claims are read as they are written and come back on Verdict', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  const claims = page.getByRole('region', { name: 'Claims' });
  await expect(claims).toContainText('+3.5 kW at 6,000 rpm');
  await expect(claims).toContainText(/measured \+\d\.\d\skW\s\(/);
  await expect(claims).toContainText('Expected before the day: 1 to 4 %');
  await openStep(page, TITLES.airbox, 'question');
  await page.getByLabel('A claim', { exact: true }).fill('no loss in the band');
  await expect(page.getByText('Understood: no loss in the band.')).toBeVisible();
  await page.getByRole('button', { name: 'Add the claim' }).click();
  await expect(page.locator('.claim', { hasText: 'no loss in the band' })).toContainText('afterwards');
  await openStep(page, TITLES.airbox, 'verdict');
  await expect(claims.locator('li', { hasText: 'no loss in the band' })).toContainText('holds');
  await page.keyboard.press('z');
  await expect(claims.locator('li', { hasText: 'no loss in the band' })).toBeHidden();
});

test('the condition check stamps who and when, and an open one is a gap', async ({ page }) => {
  await beginProgramme(page, 'Condition', 'question');
  const check = page.getByRole('region', { name: 'Condition before the first pull' });
  await expect(page.getByRole('region', { name: 'Still open' })).toContainText('8 of 8 not answered');
  await check.getByRole('group', { name: 'No leaks in the intake' }).getByRole('button', { name: 'no' }).click();
  await expect(page.getByRole('region', { name: 'Still open' })).toContainText('Not in order: no leaks in the intake');
  await expect(check.locator('li', { hasText: 'No leaks' })).toContainText('BT');
});

test('a programme is repeated with the old answer beside, put away, and brought back', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'question');
  await page.getByRole('button', { name: 'Re-validate' }).click();
  await expect(page.getByLabel('Title of the programme')).toHaveValue(`${TITLES.trumpets}, re-validation`);
  await expect(page.getByRole('region', { name: 'Earlier answers' })).toContainText('then: no difference that matters');
  await expect(page.getByLabel('Name of setup D')).toHaveValue('Printed trumpet');
  await page.getByRole('button', { name: 'Put away' }).click();
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
  await expect(page.getByRole('link', { name: `${TITLES.trumpets}, re-validation` })).toBeHidden();
  await page.getByRole('button', { name: /Show \d+ put away/ }).click();
  await page.getByRole('button', { name: `Bring back ${TITLES.trumpets}, re-validation` }).click();
  await expect(page.getByRole('link', { name: `${TITLES.trumpets}, re-validation` })).toBeVisible();
});

test('what is written anywhere is found from the command palette', async ({ page }) => {
  await goTo(page, '/');
  await page.keyboard.press('Control+k');
  const palette = page.getByRole('combobox', { name: 'Type a command' });
  await palette.fill('drain hole');
  const hit = page.getByRole('option', { name: /Note: duct: drain hole/ });
  await expect(hit).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(new RegExp(`${await programmeId(page, TITLES.airbox)}/bench`));
});

test('two windows do not overwrite each other', async ({ page, context }) => {
  const id = await beginProgramme(page, 'Two windows', 'question');
  // This window does not follow the other one: what it shows is old when it is changed.
  await page.route('**/stamp', (route) => route.fulfill({ status: 404, json: {} }));
  const other = await context.newPage();
  await other.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'OT', name: 'Other' })));
  await other.goto(`/programmes/${id}/question`);
  await other.getByLabel('The question').fill('asked in the second window');
  await other.getByLabel('The question').press('Tab');
  await expect.poll(async () => (await viewOf(page, id)).bundle.programme.question).toBe('asked in the second window');
  await page.getByLabel('The question').fill('asked in the first window');
  await page.getByLabel('The question').press('Tab');
  await expect(page.getByRole('alert')).toContainText('changed in another window');
  expect((await viewOf(page, id)).bundle.programme.question).toBe('asked in the second window');
  await other.close();
});

/** Stays whenever the browser asks; what it has asked so far. */
function staysWhenAsked(page: Page): string[] {
  const asked: string[] = [];
  page.on('dialog', (dialog) => {
    asked.push(dialog.type());
    void dialog.dismiss();
  });
  return asked;
}

test('who leaves the page out of a field is asked too, and who stays finds it stored and goes on in the field', async ({ page }) => {
  const id = await beginProgramme(page, 'Left in a field', 'question');
  const asked = staysWhenAsked(page);
  await page.evaluate(() => setTimeout(() => location.reload()));
  await page.waitForEvent('load');
  expect(asked, 'where nothing was written nobody is asked').toEqual([]);
  const smallest = page.getByLabel('Smallest difference that matters');
  await smallest.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('2.75');
  await page.evaluate(() => setTimeout(() => location.reload()));
  await expect.poll(() => asked).toEqual(['beforeunload']);
  await expect(smallest).toBeFocused();
  await expect.poll(async () => (await viewOf(page, id)).bundle.programme.smallestGainPct).toBe(2.75);
  await settled(page);
  await page.reload();
  await expect(smallest).toHaveValue(/^2\.75/);
  expect(asked).toHaveLength(1);
});

test('who leaves the page while changes wait to be stored is asked, and who stays loses none', async ({ page }) => {
  const id = await beginProgramme(page, 'Left at once', 'question');
  const asked = staysWhenAsked(page);
  const answers: (() => void)[] = [];
  await page.route(`**/api/programmes/${id}`, async (route) => {
    if (route.request().method() === 'PATCH') await new Promise<void>((resolve) => answers.push(resolve));
    await route.continue();
  });
  await page.getByLabel('The question').focus();
  await page.keyboard.type('first');
  await page.keyboard.press('Tab');
  await page.getByLabel('Name of the car').focus();
  await page.keyboard.type('second');
  await page.keyboard.press('Tab');
  await expect.poll(() => answers.length).toBe(1);
  await page.evaluate(() => setTimeout(() => location.reload()));
  await expect.poll(() => asked).toEqual(['beforeunload']);
  answers[0]!();
  await expect.poll(() => answers.length).toBe(2);
  answers[1]!();
  await settled(page);
  await page.unroute(`**/api/programmes/${id}`);
  await page.reload();
  await expect(page.getByLabel('The question')).toHaveValue('first');
  await expect(page.getByLabel('Name of the car')).toHaveValue('second');
  expect(asked).toHaveLength(1);
});
