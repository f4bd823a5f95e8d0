import { beginProgramme, chooseByKey, expect, goTo, openStep, settled, test, TITLES, typeInto, viewOf } from './support.js';

const figure = (text: string | null) => Number(/([\d.]+)\s%/.exec(text ?? '')?.[1]);

test('a day is planned with the keyboard only, every move told at once, and undone after a reload', async ({ page }) => {
  const id = await beginProgramme(page, 'Planned by keys', 'question');
  await goTo(page, `/programmes/${id}/plan`);
  await expect(page.getByText('No pull is planned yet')).toBeVisible();
  const report = page.getByRole('region', { name: 'What this plan can recognise' });
  await page.getByRole('button', { name: 'Reference, then change' }).focus();
  await page.keyboard.press('Enter');
  await expect(report).toContainText('Every A comes before every B');
  const block = figure(await report.locator('.lead').textContent());
  await page.getByRole('button', { name: /: 1 of 6,/ }).focus();
  await page.keyboard.press('End');
  await expect(page.getByRole('button', { name: /: 6 of 6,/ })).toBeFocused();
  await page.keyboard.press('i');
  await page.keyboard.press('1');
  await expect(page.getByRole('button', { name: /^A 7: 7 of 7, Stock, measured/ })).toBeVisible();
  await expect(report).not.toContainText('Every A comes before');
  const balanced = figure(await report.locator('.lead').textContent());
  expect(balanced).toBeLessThan(block);
  await expect(report).toContainText('No conditioning pull before the first measured one of A');
  await page.getByRole('button', { name: /: 7 of 7,/ }).focus();
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: /: 8 of 8,/ })).toBeVisible();
  await page.getByRole('button', { name: /: 7 of 8,/ }).focus();
  await page.keyboard.press('m');
  await expect(report).toContainText('Nothing is wrong with this order');
  await page.getByRole('button', { name: /: 8 of 8,/ }).focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(page.getByRole('button', { name: /^A 7: 7 of 8, Stock, measured/ })).toBeFocused();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(page.getByRole('button', { name: /^A 8: 8 of 8, Stock, measured/ })).toBeFocused();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(page.getByRole('button', { name: /^A 7: 7 of 8, Stock, measured/ })).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('button', { name: /: 7 of 7,/ })).toBeVisible();
  await settled(page);
  expect((await viewOf(page, id)).bundle.plan!.pulls).toHaveLength(7);
  await page.reload();
  await expect(page.getByRole('button', { name: /: 7 of 7,/ })).toBeVisible();
  await page.locator('body').press('z');
  await expect(page.getByRole('button', { name: /: 8 of 8,/ })).toBeVisible();
  // What the keys do to the selected pull is in the palette as well.
  await page.getByRole('button', { name: /: 8 of 8,/ }).focus();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('pull 8');
  await expect(page.getByRole('option')).toHaveText([
    'Insert a measured pull behind pull 8i',
    'Insert a conditioning pull behind pull 8c',
    'Make pull 8 of the plan measuredm',
    'Repeat pull 8 of the pland',
    'Repeat the block of pull 8 of the planb',
    'Remove pull 8 of the planDelete',
  ]);
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /: 9 of 9,/ })).toBeVisible();
});

test('a post and a block are dragged to another place', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'plan');
  const letters = async () => (await page.locator('[data-place] .letter').allTextContents()).map((letter) => letter.trim()).join('');
  await expect(page.locator('[data-place="6"] .head')).toBeVisible();
  const before = await letters();
  const from = (await page.locator('[data-place="2"] .head').boundingBox())!;
  const to = (await page.locator('[data-place="6"] .head').boundingBox())!;
  await page.mouse.move(from.x + 9, from.y + 9);
  await page.mouse.down();
  await page.mouse.move(to.x - 30, to.y + 9, { steps: 4 });
  await page.mouse.move(to.x + 30, to.y + 9, { steps: 4 });
  await page.mouse.up();
  await expect.poll(letters).not.toBe(before);
  expect((await letters()).slice(0, 7)).toBe('AABBBBA');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(letters).toBe(before);
  const block = (await page.locator('.block').nth(1).boundingBox())!;
  const next = (await page.locator('.block').nth(2).boundingBox())!;
  await page.mouse.move(block.x + block.width / 2, block.y + block.height / 2);
  await page.mouse.down();
  await page.mouse.move(next.x, next.y + next.height / 2, { steps: 4 });
  await page.mouse.move(next.x + next.width + 30, next.y + next.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(letters).toBe('AAAAAABBBBBBBAAA');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(letters).toBe(before);
});

test('an order is suggested in a worker, keeps to its limits, and another one is taken from the curve', async ({ page }) => {
  const id = await beginProgramme(page, 'Suggested', 'question');
  await goTo(page, `/programmes/${id}/plan`);
  await typeInto(page, 'Longest day', '2,5');
  await typeInto(page, 'Most swaps', '3');
  await typeInto(page, 'Most measured pulls', '10');
  const panel = page.getByRole('region', { name: 'Suggest an order' });
  await panel.getByRole('button', { name: 'Suggest an order' }).click();
  await panel.getByRole('button', { name: 'Take it' }).click({ timeout: 20_000 });
  await expect(page.getByRole('region', { name: 'What this plan can recognise' })).toContainText(/This day of [12] h \d\d min recognises/);
  await settled(page);
  const { plan } = (await viewOf(page, id)).bundle;
  expect(plan!.pulls.at(-1)!.atMin).toBeLessThanOrEqual(150);
  const length = plan!.pulls.length;
  await panel.getByText('Every order on the curve').click();
  await panel.locator('.orders button').first().click();
  await settled(page);
  expect((await viewOf(page, id)).bundle.plan!.pulls.length).toBeLessThan(length);
});

test('a swap without a way back is never gone back over without being said', async ({ page }) => {
  const id = await beginProgramme(page, 'One way', 'question');
  await goTo(page, `/programmes/${id}/plan`);
  await page.getByRole('button', { name: 'Reference, change, reference' }).click();
  await chooseByKey(page, 'Way back from B to A', 'cannot be undone');
  await expect(page.getByRole('status').filter({ hasText: 'Every pull of A now comes before the swap' })).toContainText(
    /recognises \d\.\d\d\s% instead of \d\.\d\d\s%/,
  );
  await expect(page.getByRole('region', { name: 'What this plan can recognise' })).toContainText('Every A comes before every B');
  // An order that goes back over it is not offered, and says why.
  const mirrored = page.locator('li', { has: page.getByRole('button', { name: 'Mirrored' }) });
  await expect(mirrored.getByRole('button')).toBeDisabled();
  await expect(mirrored).toContainText('It goes back to A after B: that cannot be undone.');
  await typeInto(page, 'A swap takes', '1 h');
  await expect(page.getByRole('region', { name: 'What this plan can recognise' })).toContainText('This day of 1 h 30 min');
});

test('a plan is rehearsed in a worker with progress, and stopped', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'plan');
  const panel = page.getByRole('region', { name: 'Rehearse' });
  await typeInto(page, 'Days to rehearse', '10');
  await panel.getByRole('button', { name: 'Rehearse this plan' }).click();
  await expect(panel.getByText('Of 10 days')).toBeVisible({ timeout: 30_000 });
  await expect(panel.getByRole('button', { name: 'Rehearse this plan' })).toBeVisible();
  await expect(panel.getByRole('row', { name: /its interval holds the truth/ })).toContainText('%');
  await typeInto(page, 'Days to rehearse', '2000');
  await panel.getByRole('button', { name: 'Rehearse this plan' }).click();
  await expect(panel.getByText(/Of \d+ days/)).toBeVisible({ timeout: 30_000 });
  await panel.getByRole('button', { name: 'Stop' }).click();
  await expect(panel.getByRole('button', { name: 'Rehearse this plan' })).toBeVisible();
});

test('nonsense in any number of the plan is told beside it, and the plan stays as it was', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'plan');
  const id = page.url().split('/').at(-2)!;
  const before = (await viewOf(page, id)).bundle.plan;
  await page.getByRole('button', { name: /: 2 of \d+,/ }).focus();
  const fields = page.locator('main input[inputmode=decimal]');
  const count = await fields.count();
  expect(count).toBeGreaterThan(25);
  // Nothing fades in: while something does, the whole page is drawn sixty times a second.
  await page.evaluate(() => addEventListener('transitionrun', () => document.documentElement.setAttribute('data-faded', '')));
  for (const nonsense of ['much', '1,234.5'])
    for (let i = 0; i < count; i++) {
      const field = fields.nth(i);
      await field.focus();
      await page.keyboard.press('Control+A');
      await page.keyboard.insertText(nonsense);
      await page.keyboard.press('Tab');
      const name = await field.getAttribute('aria-label');
      await expect(field, `${name}: ${nonsense}`).toHaveClass(/p-invalid/);
      // What was typed is still there, with what to do instead.
      await expect(field).toHaveValue(nonsense);
      const message = await field.getAttribute('aria-describedby');
      await expect(page.locator(`[id="${message!.split(' ').at(-1)}"]`), `${name}: ${nonsense}`).toContainText(/is no number|thousands/);
    }
  await typeInto(page, 'A swap takes', '-5');
  await expect(page.getByText('Type at least 0.5 min.')).toBeVisible();
  await settled(page);
  await expect(page.locator('html')).not.toHaveAttribute('data-faded');
  expect((await viewOf(page, id)).bundle.plan).toEqual(before);
});
