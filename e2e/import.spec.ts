import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoCopy, drawn, expect, pickFolder, goTo, test } from './support.js';

/** A copy of a demo bundle under another title. */
function bundleCopy(title: string, change: (folder: string) => void = () => {}): string {
  return demoCopy('water-cooler-and-fuel', (folder) => {
    const file = join(folder, 'gezeit.json');
    writeFileSync(file, readFileSync(file, 'utf8').replace('Water-cooled charge cooler, Ouessant hatchback', title));
    change(folder);
  });
}

test('a bundle is imported by the folder picker, with its report; the same one opens; a changed one offers version or copy', async ({
  page,
}) => {
  const folder = bundleCopy('Picked by hand');
  await pickFolder(page, folder);
  const dialog = page.getByRole('dialog', { name: 'Bring files in' });
  await expect(dialog.getByText('Imported, original files kept byte for byte.')).toBeVisible({ timeout: 20_000 });
  await dialog.getByRole('button', { name: 'Open the programme' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('The charge is cooler');
  await drawn(page, 'curves');

  await pickFolder(page, folder);
  await expect(dialog.getByText('This very bundle is imported already.')).toBeVisible();
  writeFileSync(join(folder, 'gezeit.json'), readFileSync(join(folder, 'gezeit.json'), 'utf8').replace('RON, batch 12', 'RON, batch 13'));
  await pickFolder(page, folder);
  await expect(dialog.getByText('“Picked by hand” is there already')).toBeVisible();
  await dialog.getByRole('button', { name: 'New version' }).click();
  await expect(dialog.getByText('Imported, original files kept byte for byte.')).toBeVisible({ timeout: 20_000 });
  await dialog.getByRole('button', { name: 'Open the programme' }).click();
  await expect(page.getByText('98 RON, batch 11 → 98 RON, batch 13').filter({ visible: true }).first()).toBeVisible();
  await goTo(page, '/');
  await expect(page.getByText('version 2')).toHaveCount(1);
});

test('bad bundles are refused with the place and the next step, and nothing is stored', async ({ page }) => {
  await goTo(page, '/');
  const entries = page.locator('.entries li');
  await expect(entries.first()).toBeVisible();
  const before = await entries.count();
  const dialog = page.getByRole('dialog', { name: 'Bring files in' });
  const cases: [string, (folder: string) => void, RegExp][] = [
    ['empty', (folder) => writeFileSync(join(folder, 'logs/p02-dyno.csv'), ''), /The file is empty.*logs\/p02-dyno\.csv/],
    [
      'two clocks',
      (folder) =>
        writeFileSync(join(folder, 'logs/p02-dyno.csv'), 'Time [s],Elapsed time [s],Engine speed [rpm]\n0,0,2000\n1,2,3000\n2,4,4000\n'),
      /contradict each other.*column Elapsed time/,
    ],
    ['json', (folder) => edit(folder, 'gezeit.json', (text) => text.slice(0, 900)), /not valid JSON/],
  ];
  for (const [name, change, expected] of cases) {
    await pickFolder(page, bundleCopy(`Refused: ${name}`, change));
    await expect(dialog.getByRole('alert')).toContainText(expected);
    await expect(dialog).toContainText('Nothing was stored.');
  }
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring files in' }).first().click();
  await page
    .locator('[data-test=pick-files]')
    .setInputFiles({ name: 'holiday.png', mimeType: 'image/png', buffer: Buffer.from('\x89PNG nothing') });
  await expect(page.getByText('No full-throttle sweep was found in these files.')).toBeVisible();
  await expect(page.getByText('holiday.png: not read')).toBeVisible();
  await page.getByRole('button', { name: 'Throw away' }).click();
  await goTo(page, '/');
  await expect(entries).toHaveCount(before);
});

function edit(folder: string, file: string, change: (text: string) => string): void {
  writeFileSync(join(folder, file), change(readFileSync(join(folder, file), 'utf8')));
}

test('what is dropped on the page is taken, and what is no export is named', async ({ page }) => {
  await goTo(page, '/');
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
  const transfer = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    data.items.add(new File(['this is no bundle'], 'note.txt'));
    return data;
  });
  await page.dispatchEvent('body', 'dragenter', { dataTransfer: transfer });
  await expect(page.getByText('Let go: a bundle opens, exports are sorted')).toBeVisible();
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer });
  await expect(page.getByText('note.txt: not read')).toBeVisible();
});

test('who is working is asked once, before the first change, and can be changed in the bar', async ({ browser, baseURL }) => {
  const page = await browser.newPage({ baseURL });
  await pickFolder(page, bundleCopy('Asked who'));
  const question = page.getByRole('dialog', { name: 'Who is working?' });
  await question.getByLabel('Initials').fill('NW');
  await question.getByLabel('Name').fill('Nobody Else');
  await question.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Imported, original files kept byte for byte.')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Open the programme' }).click();
  await page.getByRole('button', { name: 'Working: NW Nobody Else. Change' }).click();
  await question.getByLabel('Initials').fill('XY');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Working: XY Nobody Else. Change' })).toBeVisible();
  await page.close();
});
