import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { ROOT } from './seed.mjs';
import { drawn, expect, goTo, openStep, test, TITLES } from './support.js';

const LOOSE = join(ROOT, 'demo/loose');

async function drop(page: Page, files: { name: string; text: string }[]): Promise<void> {
  await goTo(page, '/');
  await page.getByRole('button', { name: 'Bring files in' }).first().click();
  await page
    .locator('[data-test=pick-files]')
    .setInputFiles(files.map(({ name, text }) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })));
  await expect(page.getByRole('heading', { name: 'Sort what was dropped' })).toBeVisible();
}
const looseFiles = () => readdirSync(LOOSE).map((name) => ({ name, text: readFileSync(join(LOOSE, name), 'utf8') }));
/** A fourth device in a fourth dialect: one object a line, German names, seconds from anywhere, every other sample of what the box saw. */
const probeFiles = () =>
  looseFiles()
    .filter(({ name }) => name.startsWith('box-'))
    .map(({ name, text }) => {
      const [head, ...rows] = text
        .trim()
        .split('\n')
        .map((line) => line.split('\t'));
      const rpm = head!.findIndex((title) => title.startsWith('eng_speed'));
      const lines = rows
        .filter((_, i) => i % 2 === 0)
        .map((cells, i) => {
          const speed = Number(cells[rpm]);
          return JSON.stringify({ zeit_s: i / 10, 'Motordrehzahl_1/min': speed, 'Abgastemperatur_°C': Math.round(430 + speed / 20) });
        });
      return { name: name.replace('box-', 'sonde-').replace('.txt', '.jsonl'), text: `${lines.join('\n')}\n` };
    });
const posts = (page: Page) => page.locator('[data-post]');
/** Setups as the gaps of the loose day propose them. */
const PROPOSED = 'AAAABBBAAABBB';
const letters = async (page: Page) => (await page.locator('[data-post] .head').allTextContents()).join('');

test('a folder of exports of four devices in four dialects is sorted and kept with the mouse, verdict and all; it survives a reload', async ({
  page,
}) => {
  await drop(page, [...looseFiles(), ...probeFiles()]);
  await expect(posts(page)).toHaveCount(13);
  // The long pauses are taken for swaps.
  await expect.poll(() => letters(page)).toBe(PROPOSED);
  await expect(page.locator('[data-row="p05"]')).toContainText('ecu-whole-day.csv');
  await expect(page.locator('[data-row="p05"]')).toContainText('run_005.csv');
  await expect(page.locator('[data-row="p05"]')).toContainText('box-5.txt');
  await expect(page.locator('[data-row="p05"]')).toContainText('sonde-5.jsonl');
  await page.getByLabel('Kind of p01').selectOption('conditioning');
  await page.getByLabel('Name of setup B').fill('Freer filter');
  await page.keyboard.press('Enter');
  await page.reload();
  await expect(page.getByLabel('Kind of p01')).toHaveValue('conditioning');
  await expect(page.getByLabel('Name of setup B')).toHaveValue('Freer filter');
  await page.getByRole('button', { name: 'Keep 13 pulls' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Freer filter', { timeout: 60_000 });
  await drawn(page, 'curves');
  // It can be taken back: the files wait again, with what was decided about them.
  await page.getByRole('button', { name: 'Take back and sort again' }).click();
  await expect(page.getByLabel('Kind of p01')).toHaveValue('conditioning');
  await goTo(page, '/');
  await expect(page.getByRole('list', { name: 'Dropped files that wait to be sorted' })).toContainText('13 pulls');
});

test('with the keys alone: choose, paint, leave out, undo, keep', async ({ page }) => {
  await drop(page, [...looseFiles(), ...probeFiles()]);
  await expect(posts(page)).toHaveCount(13);
  const before = PROPOSED;
  await expect.poll(() => letters(page)).toBe(before);
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('[data-post="p01"]')).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('3');
  await expect(page.getByLabel('Name of setup C')).toBeVisible();
  expect((await letters(page))[0]).toBe('C');
  await page.keyboard.press('z');
  await expect.poll(() => letters(page)).toBe(before);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  // The palette has what the keys do, and the button what the key does.
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('selected pull');
  await expect(page.getByRole('dialog').getByRole('option')).toHaveText([
    'Make the selected pull measuredm',
    'Make the selected pull conditioningc',
    'Make the selected pull one drive: laps or a long rund',
    'Leave out the selected pullx',
  ]);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Kind of p01')).toHaveValue('conditioning');
  await page.getByRole('button', { name: 'Undo' }).press('Enter');
  await expect(page.getByLabel('Kind of p01')).toHaveValue('measured');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('x');
  await expect(page.getByLabel('Kind of p02')).toHaveValue('left-out');
  const keep = page.getByRole('button', { name: 'Keep 12 pulls' });
  await keep.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/between|against|Whether/, { timeout: 60_000 });
  await drawn(page, 'curves');
});

test('with the keys alone: a lap log is one drive, cut by its own counter', async ({ page }) => {
  const rows = Array.from({ length: 4000 }, (_, i) => {
    const at = i / 10;
    const inLap = at % 100;
    // One long straight a lap, at full throttle.
    const open = inLap > 20 && inLap < 30;
    const rpm = open ? 2500 + 400 * (inLap - 20) : 3000 + 500 * Math.sin(at / 4);
    return `${at.toFixed(1)},${rpm.toFixed(0)},${open ? 100 : 20},${(open ? 30 + inLap - 20 : 25).toFixed(1)},${(28 + 4 * Math.sin(at / 30)).toFixed(1)},${Math.floor(at / 100)}`;
  });
  const text = `Time [s],Engine speed [rpm],Throttle [%],Vehicle speed [km/h],Intake air temperature [°C],Lap\n${rows.join('\n')}\n`;
  await drop(page, [{ name: 'laps.csv', text }]);
  await expect(posts(page)).toHaveCount(4);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('d');
  for (const pull of ['p01', 'p02', 'p03', 'p04']) await expect(page.getByLabel(`Kind of ${pull}`)).toHaveValue('drive');
  const keep = page.getByRole('button', { name: 'Keep 1 pull' });
  // Back to pulls is back for all of them, and again.
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Keep 4 pulls' })).toBeVisible();
  await page.keyboard.press('z');
  await expect(keep).toBeVisible();
  await keep.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Steps of the programme' })).toBeVisible({ timeout: 60_000 });
  await goTo(page, page.url().replace(/\/verdict.*$/, '/logs'));
  const laps = page.getByRole('region', { name: 'Laps', exact: true }).getByRole('row');
  await expect(laps).toHaveCount(3);
  await expect(laps.nth(1)).toContainText('100.00');
  await expect(page.getByRole('region', { name: 'Drives', exact: true })).toContainText('Cut where the logger’s lap counter counts on.');
});

test('a column that was not known is corrected where it stands, for every file of its device', async ({ page }) => {
  const run = (name: string, shift: number) => ({
    name,
    text: `Time [s],Engine RPM,Wheel power [kW],Blorp\n${Array.from({ length: 400 }, (_, i) => `${(i / 20 + shift).toFixed(2)},${i < 40 ? 1800 : 1800 + (i - 40) * 13},${i < 40 ? 0 : (i / 4).toFixed(1)},${(70 + i / 100).toFixed(2)}`).join('\n')}\n`,
  });
  await drop(page, [run('run_1.csv', 0), run('run_2.csv', 3)]);
  await page.getByRole('button', { name: /dyno, 2 files/ }).click();
  const row = page.locator('[data-column="Blorp"]');
  await expect(row).toContainText('73.99');
  await page.getByLabel('Blorp: taken for').selectOption({ label: 'intake air temperature (manifold)' });
  await page.getByLabel('Blorp: unit').selectOption('°F');
  await expect(row).toContainText('73.99');
  await expect(row).toContainText('said by hand');
  await page.getByRole('textbox', { name: 'name of its profile' }).fill('Shed box');
  await page.getByRole('button', { name: 'Keep as a device profile' }).click();
  await expect(page.getByText('Kept as “Shed box”.')).toBeVisible();
  await page.getByLabel('Blorp: taken for').selectOption('ignore');
  await expect(row).toContainText('left out by hand');
  // It is offered at the next file of that shape, exported, removed and taken from its file again; what is none is refused in words.
  await drop(page, [run('run_9.csv', 1)]);
  await expect(page.getByText('The profile Shed box knows this device.')).toBeVisible();
  // A column that nothing is taken for is named: nothing was read "without a doubt".
  await expect(page.getByText('not taken for anything: “Blorp”')).toBeVisible();
  await expect(page.getByText('without a doubt')).toHaveCount(0);
  await page.getByText('1 saved profile').click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export Shed box' }).click()]);
  const profile = readFileSync((await download.path())!, 'utf8');
  await page.getByRole('button', { name: 'Apply the profile Shed box' }).click();
  await expect(page.getByText('The profile Shed box knows this device.')).toHaveCount(0);
  await page.getByRole('button', { name: 'Remove Shed box' }).click();
  await expect(page.getByText('1 saved profile')).toHaveCount(0);
  await page
    .locator('[data-test=pick-profile]')
    .setInputFiles({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await expect(page.getByText('odd.json is no device profile')).toBeVisible();
  await page
    .locator('[data-test=pick-profile]')
    .setInputFiles({ name: 'dyno.json', mimeType: 'application/json', buffer: Buffer.from(profile) });
  await expect(page.getByText('counts for 1 file')).toBeVisible();
  // The file is read again by it: what is said of it moves on the page meanwhile.
  await expect(page.getByText('4 of 4 columns known')).toBeVisible();
  await page.getByRole('button', { name: /dyno, run_9/ }).click();
  await expect(row).toContainText('said by hand');
});

test('what a column of a kept programme is taken for is corrected in Logs, everything follows, and it can be undone', async ({ page }) => {
  await openStep(page, TITLES.cooler, 'logs', '?pull=p02&device=ecu');
  const row = page.locator('[data-column^="Intake air temperature"]');
  const start = page.locator('[data-row="p02"] td.number').nth(3);
  await expect(row).toBeVisible();
  const before = await start.textContent();
  const label = await row.getAttribute('data-column');
  await page.getByLabel(`${label}: taken for`).selectOption('ignore');
  await expect(row).toContainText('left out by hand', { timeout: 60_000 });
  await expect(start).not.toHaveText(before!);
  await page.keyboard.press('Escape');
  await page
    .locator('h1')
    .first()
    .evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('z');
  await expect(row).not.toContainText('left out by hand', { timeout: 60_000 });
  await expect(start).toHaveText(before!);
});

test('a device’s files that come later find their pulls, one is put elsewhere by hand, a log is dragged into place, and all is undone', async ({
  page,
}) => {
  await drop(
    page,
    looseFiles().filter(({ name }) => /^(ecu-|run_)/.test(name)),
  );
  await page.getByRole('button', { name: 'Keep 13 pulls' }).click();
  await page.getByRole('link', { name: /^Logs/ }).click({ timeout: 60_000 });
  await page.locator('[data-test=add-files]').setInputFiles(
    looseFiles()
      .filter(({ name }) => /^box-/.test(name))
      .map(({ name, text }) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })),
  );
  await expect(page.locator('[data-row="p13"]')).toContainText('+ box-13.txt', { timeout: 60_000 });
  // Put out of its pull, and back where it was found.
  await page.getByRole('button', { name: 'box-3.txt of p03: put it elsewhere' }).click();
  await page.getByRole('menuitem', { name: 'It is of no pull' }).click();
  await expect(page.getByText('It was left out by hand.')).toBeVisible();
  await page.getByRole('button', { name: 'Say its pull: box-3.txt' }).click();
  await page.getByRole('menuitem', { name: 'It is of p03' }).click();
  await expect(page.locator('[data-row="p03"]')).toContainText('+ box-3.txt');
  await page.getByRole('button', { name: 'Add to the programme' }).click();
  await expect(page.getByText('The files were added.')).toBeVisible({ timeout: 60_000 });

  await page.locator('[data-row="p04"] .pick').click();
  await page.getByRole('button', { name: 'daq', exact: true }).click();
  await page.getByRole('button', { name: 'Align by hand' }).click();
  const slider = page.getByRole('slider', { name: 'Shift of this log' });
  await expect(slider.locator('path.moved')).toBeVisible();
  await slider.scrollIntoViewIfNeeded();
  const box = (await slider.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 80);
  await page.mouse.down();
  await page.mouse.move(box.x + 240, box.y + 80, { steps: 4 });
  await page.mouse.up();
  await expect(slider).toHaveAttribute('aria-valuetext', /moved \d+ ms later/);
  await slider.focus();
  const before = Number(await slider.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(slider).toHaveAttribute('aria-valuenow', String(before + 110));
  await page.getByRole('button', { name: 'Keep this alignment' }).click();
  await expect(page.getByText('aligned by hand')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('aligned by hand')).toHaveCount(0, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'daq', exact: true })).toHaveCount(0, { timeout: 30_000 });
});

test('a file that may be of several pulls is asked about, and answered where it is asked', async ({ page }) => {
  // One undated file of a steady course beside a day of alike pulls: nothing tells which one it is of.
  const course = (rpmPerS: number) => (i: number) => (i < 40 ? 1800 : Math.min(6800, 1800 + ((i - 40) / 20) * rpmPerS));
  const run = (name: string, at: (i: number) => number, extra: string) => ({
    name,
    text: `Time [s],Engine RPM,${extra}\n${Array.from({ length: 300 }, (_, i) => `${(i / 20).toFixed(2)},${at(i).toFixed(0)},${i < 40 ? 0 : (i / 4).toFixed(1)}`).join('\n')}\n`,
  });
  await drop(page, [
    run('first.csv', course(400), 'Wheel power [kW]'),
    run('second.csv', course(401), 'Wheel power [kW]'),
    run('odd.csv', course(400), 'Throttle position [%]'),
  ]);
  const question = page.getByRole('group', { name: /Which pull is odd\.csv of\?/ });
  await expect(question).toBeVisible({ timeout: 60_000 });
  await question.getByRole('button', { name: 'Say its pull: odd.csv' }).click();
  await page.getByRole('menuitem', { name: /It is of p02/ }).click();
  await expect(page.locator('[data-row="p02"]')).toContainText('odd.csv');
  await expect(question).toHaveCount(0);
  // While a menu closes the keys are its own.
  await expect(page.getByRole('menuitem')).toHaveCount(0);
  await page.keyboard.press('z');
  await expect(question).toBeVisible();
});

test('which of two time columns is right is said by a button, and z takes it back; where nobody knows the time, it is said in the columns', async ({
  page,
}) => {
  const rows = (time: (i: number) => string) =>
    Array.from({ length: 480 }, (_, i) => {
      const speed = i < 80 ? 1800 : i < 380 ? 1800 + (i - 80) * 15 : 6300 - (i - 380) * 40;
      return `${time(i)},${speed},${i < 80 || i >= 380 ? 0 : (i / 4).toFixed(1)}`;
    }).join('\n');
  const seconds = (i: number) => (i / 20).toFixed(2);
  await drop(page, [
    {
      name: 'two.csv',
      text: `Time [s],Elapsed time [s],Engine RPM,Wheel power [kW]\n${rows((i) => `${seconds(i)},${seconds(3 * i)}`)}\n`,
    },
    { name: 'none.csv', text: `Blorp,Engine RPM,Wheel power [kW]\n${rows((i) => ((i + (i % 5) * 1.6) / 20).toFixed(2))}\n` },
  ]);
  const question = page.getByRole('group', { name: /Two time columns of two\.csv contradict each other/ });
  await expect(question).toBeVisible({ timeout: 60_000 });
  // What nobody knows the time of has no place in a pull.
  await expect(page.getByText('belongs to no pull')).toHaveCount(2);
  await expect(page.getByRole('button', { name: /Say its pull/ })).toHaveCount(0);
  await question.getByRole('button', { name: 'Elapsed time [s]' }).click();
  await expect(question).toHaveCount(0);
  await expect(page.locator('[data-row="p01"]')).toContainText('two.csv');
  await page.getByRole('button', { name: /dyno, none\.csv/ }).click();
  await page.getByLabel('Blorp: taken for').selectOption('time');
  await expect(page.locator('[data-row="p02"]')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.locator('h1').evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('z');
  await expect(page.locator('[data-row="p02"]')).toHaveCount(0);
  await page.keyboard.press('z');
  await expect(question).toBeVisible();
});
