import type { Page } from '@playwright/test';
import { expect, goTo, openStep, sitDown, test, TITLES } from './support.js';

// Who writes the moment a dialog stands, writes into it: nothing is lost, and nothing takes the focus away again.

/** Every dialog that asks for words outside of a day's: where it is, and how it is opened by a key or a button. */
const DIALOGS: { name: string; at: (page: Page) => Promise<unknown>; open: (page: Page) => Promise<unknown>; title: string | RegExp }[] = [
  {
    name: 'who is working',
    at: (page) => goTo(page, '/'),
    open: (page) => page.getByRole('button', { name: /^Working: / }).press('Enter'),
    title: 'Who is working?',
  },
  {
    name: 'a new programme',
    at: (page) => goTo(page, '/'),
    open: (page) => page.getByRole('button', { name: 'New programme' }).first().press('Enter'),
    title: 'New programme',
  },
  {
    name: 'a pull that is left out',
    at: async (page) => {
      await openStep(page, TITLES.airbox, 'verdict', '?pull=p12');
      await expect(page.locator('[data-selected-pull="p12"]')).toBeVisible();
    },
    open: (page) => page.locator('body').press('x'),
    title: 'Leave pull p12 out?',
  },
  {
    name: 'a pull that is corrected',
    at: async (page) => {
      await openStep(page, TITLES.airbox, 'verdict', '?pull=p12');
      await expect(page.locator('[data-selected-pull="p12"]')).toBeVisible();
    },
    open: (page) => page.locator('body').press('c'),
    title: 'Correct pull p12',
  },
  {
    name: 'the command palette',
    at: (page) => goTo(page, '/'),
    open: (page) => page.locator('body').press('Control+k'),
    title: /palette|command/i,
  },
];

for (const { name, at, open, title } of DIALOGS)
  test(`${name}: what is written as soon as it stands is in its first field, and what comes after in the field it was written into`, async ({
    page,
  }) => {
    await at(page);
    await open(page);
    const dialog = page.getByRole('dialog', { name: title });
    await expect(dialog).toBeVisible();
    await page.keyboard.type('abc');
    const fields = dialog.locator('input:not([type=radio]):not([type=checkbox]):not([role=combobox]), textarea');
    const search = dialog.getByRole('combobox');
    const first = (await fields.count()) > 0 ? fields.first() : search.first();
    await expect(first).toHaveValue(/abc$/);
    if ((await fields.count()) > 1) {
      const second = fields.nth(1);
      await second.focus();
      await page.keyboard.press('Control+a');
      // Letter by letter over what a fade would have taken.
      await page.keyboard.type('slowly written', { delay: 30 });
      await expect(second).toHaveValue('slowly written');
      await expect(second).toBeFocused();
      await expect(first).toHaveValue(/abc$/);
    }
    await page.keyboard.press('Escape');
    await expect(dialog).toHaveCount(0);
  });

test('a dialog that is closed gives the focus back to what opened it', async ({ page }) => {
  await goTo(page, '/');
  const opener = page.getByRole('button', { name: /^Working: / });
  for (let i = 0; i < 5; i += 1) {
    await opener.press('Enter');
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(opener).toBeFocused();
  }
});

test('while the page waits nothing of it is laid out anew: what moves is moved without it', async ({ page }) => {
  await sitDown(page);
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(/\/curves/, async (route) => {
    await held;
    await route.continue();
  });
  await openStep(page, TITLES.airbox, 'verdict');
  const bar = page.getByRole('progressbar', { name: 'Judging every engine speed' });
  await expect(bar).toBeVisible();
  await expect(page.locator('[data-chart="levelling"] .plot .main-svg').first()).toBeVisible();
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const layouts = async () => (await session.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'LayoutCount')!.value;
  // Until what came with the page has settled.
  await expect
    .poll(
      async () => {
        const before = await layouts();
        await page.evaluate(
          () =>
            new Promise<void>((resolve) => {
              let frames = 60;
              const next = () => (--frames > 0 ? requestAnimationFrame(next) : resolve());
              requestAnimationFrame(next);
            }),
        );
        return (await layouts()) - before;
      },
      { timeout: 20_000 },
    )
    .toBeLessThan(6);
  const moving = await bar.evaluate(
    (element) => element.getAnimations({ subtree: true }).filter(({ playState }) => playState === 'running').length,
  );
  expect(moving).toBeGreaterThan(0);
  release();
  await expect(bar).toHaveCount(0);
});

/** Holds the palette back on its way until it is let go. */
async function heldPalette(page: Page): Promise<() => void> {
  let release = () => {};
  const released = new Promise<void>((resolve) => (release = resolve));
  await page.route(/CommandPalette-[^/]*\.js$/, async (route) => {
    await released;
    await route.continue();
  });
  return release;
}

test('what is typed for the palette before it stands is its own, and no shortcut of the screen', async ({ page }) => {
  const release = await heldPalette(page);
  await openStep(page, TITLES.airbox, 'verdict', '?pull=p12');
  await expect(page.locator('[data-selected-pull="p12"]')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('x.');
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Backspace');
  await page.keyboard.type('open four');
  release();
  const field = page.getByRole('combobox', { name: 'Type a command' });
  await expect(field).toHaveValue('open four');
  await expect(page).toHaveURL(/pull=p12/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // The same once it is known, with Enter before anything could be looked up.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('open four');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No difference that matters');
});

test('Enter that comes before the palette stands is obeyed when it does', async ({ page }) => {
  const release = await heldPalette(page);
  await openStep(page, TITLES.airbox, 'verdict');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('open four');
  await page.keyboard.press('Enter');
  release();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No difference that matters');
  // And who thinks better of it goes on as before.
  await page.keyboard.press('Control+k');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('components write no styles into the page: they come with it', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'verdict');
  await expect(page.locator('[data-chart="levelling"] .plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'Type a command' })).toBeFocused();
  // Above the page and on its own ground, by the sheet.
  const box = page.locator('.p-dialog');
  await expect(page.locator('.p-dialog-mask')).toHaveCSS('position', 'fixed');
  const ground = () => box.evaluate((element) => getComputedStyle(element).backgroundColor);
  const light = await ground();
  await page.evaluate(() => (document.documentElement.dataset['theme'] = 'dark'));
  await expect.poll(ground).not.toBe(light);
  await page.keyboard.press('Escape');
  await openStep(page, TITLES.airbox, 'question');
  await expect(page.getByRole('region', { name: 'Setups side by side' })).toBeVisible();
  expect(await page.evaluate(() => document.querySelectorAll('style[data-primevue-style-id]').length)).toBe(0);
});
