import { readFileSync } from 'node:fs';
import { allTakenBack, drawn, expect, goTo, openStep, seriesNames, test, TITLES, typeInto } from './support.js';

test('a pull selected on the tide strip is followed by every chart, and stands in the address', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  await drawn(page, 'curves');
  expect(await seriesNames(page, 'curves')).not.toContain('pull p06');
  await page.locator('[data-pull="p06"]').click();
  await expect(page.locator('[data-selected-pull="p06"]')).toBeVisible();
  await expect.poll(() => seriesNames(page, 'curves')).toContain('pull p06');
  await expect(page).toHaveURL(/pull=p06/);
  await page.getByRole('link', { name: 'its log' }).click();
  await expect(page.locator('[data-row="p06"]')).toHaveClass(/selected/);
  await expect(page.locator('[data-pull="p06"]')).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('link', { name: 'logs/p06-dyno.txt' })).toBeVisible();
  await drawn(page, 'traces');
  await page.locator('[data-row="p09"]').click();
  await expect(page.getByRole('link', { name: 'logs/p09-dyno.txt' })).toBeVisible();
  await expect(page.locator('[data-pull="p09"]')).toHaveAttribute('aria-pressed', 'true');
  await page.reload();
  await expect(page.locator('[data-row="p09"]')).toHaveClass(/selected/);
});

test('the keyboard steps along the pulls, by keys and on the strip', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs');
  await expect(page.locator('[data-row="p01"]')).toBeVisible();
  await page.keyboard.press('.');
  await expect(page).toHaveURL(/pull=p01/);
  await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/pull=p02/);
  await page.keyboard.press(',');
  await expect(page).toHaveURL(/pull=p01/);
  await page.locator('[data-pull="p01"]').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/pull=p03/);
  await expect(page.locator('[data-pull="p03"]')).toBeFocused();
});

test('a digit chooses the setup to compare, and so does the palette', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'verdict');
  await drawn(page, 'curves');
  await page.keyboard.press('3');
  await expect(page).toHaveURL(/candidate=C/);
  await expect.poll(() => seriesNames(page, 'curves')).toContain('C Flared trumpet');

  // The one that is compared already is not offered, nor is the reference.
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('compare');
  await expect(page.getByRole('option')).toHaveText([/^Compare B: .+2$/, /^Compare D: .+4$/]);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/candidate=D/);
});

test('a pull is left out with a reason, everything follows, and it comes back, also by undo after a reload', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict', '?pull=p12');
  const heading = page.getByRole('heading', { level: 1 });
  const before = await heading.textContent();
  await expect(page.locator('[data-selected-pull="p12"]')).toBeVisible();
  await page.keyboard.press('x');
  const dialog = page.getByRole('dialog', { name: 'Leave pull p12 out?' });
  await expect(dialog.getByRole('button', { name: 'Leave it out' })).toBeDisabled();
  await dialog.getByLabel('Reason').fill('strap came loose');
  await dialog.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(heading).not.toHaveText(before!);
  await expect(page.getByText('10 of 16 pulls counted, 5 conditioning, 1 left out.')).toBeVisible();
  await expect(page.locator('[data-pull="p12"] .strike')).toBeVisible();

  await page.keyboard.press('x');
  await page.getByRole('dialog').getByRole('button', { name: 'Take it back' }).click();
  await expect(heading).toHaveText(before!);

  await page.reload();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('10 of 16 pulls counted')).toBeVisible();
  await page.keyboard.press('z');
  await expect(heading).toHaveText(before!);
});

test('a driven pull is corrected with a reason, says so on every screen, and the undo brings it back', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'verdict', '?pull=p05');
  const heading = page.getByRole('heading', { level: 1 });
  const card = page.locator('[data-selected-pull="p05"]');
  await card.getByRole('button', { name: 'Correct' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Correct pull p05' });
  await expect(dialog.getByRole('status')).toContainText('Nothing is changed yet.');
  await typeInto(page, 'Air temperature', 'warm');
  await expect(dialog.getByRole('button', { name: 'Correct it' })).toBeDisabled();
  await typeInto(page, 'Air temperature', '31');
  await expect(dialog.getByRole('status')).toContainText('Say why it is corrected.');
  await typeInto(page, 'Why', 'the sheet has 31 °C');
  await dialog.getByRole('button', { name: 'Correct it' }).press('Enter');
  await expect(dialog).toHaveCount(0);
  await expect(card).toContainText(/Corrected afterwards \(weather\) by .*: the sheet has 31 °C/);
  await expect(page.getByText(/Corrected after they were driven: p05\./)).toBeVisible();
  await goTo(page, page.url().replace('/verdict', '/logs'));
  await expect(page.locator('[data-row="p05"]')).toContainText('corrected');
  await page.keyboard.press('z');
  await expect(page.locator('[data-row="p05"]')).not.toContainText('corrected');
  await goTo(page, page.url().replace('/logs', '/verdict'));
  await expect(heading).toContainText('No difference that matters');
});

test('shortcuts stay quiet in a field, are listed by ?, and can be switched off', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict', '?pull=p02');
  await expect(page.locator('[data-selected-pull="p02"]')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).pressSequentially('x.z');
  await expect(page).toHaveURL(/pull=p02/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('?');
  const help = page.getByRole('dialog', { name: 'Shortcuts of this screen' });
  await expect(help).toContainText('undo the last change');
  await help.getByLabel('Single-key shortcuts are on').uncheck();
  await page.keyboard.press('Escape');
  await expect(help).toBeHidden();
  await page.keyboard.press('.');
  await expect(page).toHaveURL(/pull=p02/);
});

test('the palette goes anywhere', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('trumpets');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No difference that matters');
});

test('what the keys of the screen do is in the palette as well, where it does something', async ({ page }) => {
  await allTakenBack(page, TITLES.airbox);
  await openStep(page, TITLES.airbox, 'verdict');
  const options = async () => {
    await page.keyboard.press('Control+k');
    await page.getByRole('combobox', { name: 'Type a command' }).fill('pull p06');
    await expect(page.getByRole('option').first()).toBeVisible();
    return page.getByRole('option').allTextContents();
  };
  // Nothing is selected yet, and nothing has been changed.
  expect((await options()).map((text) => text.trim())).toEqual(['Select pull p06']);
  await page.getByRole('combobox', { name: 'Type a command' }).fill('undo');
  await expect(page.getByText('Nothing is called that.')).toBeVisible();
  await page.getByRole('combobox', { name: 'Type a command' }).fill('select pull p06');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-selected-pull="p06"]')).toBeVisible();
  expect((await options()).map((text) => text.trim())).toEqual(['Leave out pull p06x', 'Correct pull p06c', 'Select pull p06']);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Correct pull p06' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('c');
  await expect(page.getByRole('dialog', { name: 'Correct pull p06' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);

  // With the screen's keys switched off it is the way that is left.
  await page.keyboard.press('?');
  await page.getByLabel('Single-key shortcuts are on').uncheck();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await options();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox').fill('by the palette');
  await page.keyboard.press('Enter');
  const card = page.locator('[data-selected-pull="p06"]');
  await expect(card).toContainText('Not counted:');
  await expect(dialog).toHaveCount(0);
  expect((await options())[0]).toContain('Take back pull p06');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('undo');
  await page.keyboard.press('Enter');
  await expect(card).not.toContainText('Not counted:');
});

test('an assumption is changed where it stands, the verdict follows and says so, and it comes back', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'verdict');
  const levelled = page.getByRole('heading', { level: 1 });
  const before = await levelled.textContent();
  await page.getByText(/assumptions and thresholds behind it/).press('Enter');
  await typeInto(page, 'Noise of one pull', '90 %');
  await expect(page.getByText('Type at most 5 %.')).toBeVisible();
  expect(await levelled.textContent()).toBe(before);
  await typeInto(page, 'Noise of one pull', '2');
  await expect(page.getByText(/Assumptions changed by hand: noise of one pull 2 % instead of [\d.]+ %\./)).toBeVisible();
  await expect(levelled).not.toHaveText(before!);
  await page.reload();
  await expect(levelled).not.toHaveText(before!);
  await page.getByText(/assumptions and thresholds behind it/).press('Enter');
  await page.getByRole('button', { name: 'All as usual' }).press('Enter');
  await expect(page.getByText(/Assumptions changed by hand/)).toHaveCount(0);
  await expect(levelled).toHaveText(before!);
});

test('the pulls’ table: columns chosen and sorted by keys, saved as they stand, and who left what out', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'logs');
  const table = page.getByRole('region', { name: 'Pulls with their figures and flags' });
  const firstPull = () => table.getByRole('row').nth(1).getByRole('button').first().textContent();
  await expect(table).toBeVisible();
  const before = await firstPull();
  await page.getByRole('combobox', { name: 'Columns of the table' }).focus();
  await page.keyboard.press('ArrowDown');
  const filter = page.locator('.p-multiselect-overlay').getByRole('searchbox');
  await filter.fill('density');
  await filter.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  const head = table.getByRole('columnheader', { name: /^Density altitude, m/ });
  await expect(head).toBeVisible();
  await head.getByRole('button').press('Enter');
  await expect(head).toHaveAttribute('aria-sort', 'ascending');
  await head.getByRole('button').press('Enter');
  await expect(head).toHaveAttribute('aria-sort', 'descending');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the pulls as CSV' }).press('Enter'),
  ]);
  const rows = readFileSync((await download.path())!, 'utf8')
    .trim()
    .split('\n');
  expect(rows[0]).toContain('"Density altitude, m"');
  expect(rows).toHaveLength(1 + (await table.getByRole('row').count()) - 1);
  await head.getByRole('button').press('Enter');
  expect(await firstPull()).toBe(before);
  await page.reload();
  await expect(head).toBeVisible();
});
