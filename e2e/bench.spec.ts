import { strFromU8, unzipSync, zipSync } from 'fflate';
import { importStateSchema } from '@gezeit/contract';
import { INSTRUMENTS, PLAIN_FORMATTER } from '@gezeit/core';
import {
  beginProgramme,
  chooseByKey,
  drawn,
  expect,
  goTo,
  openStep,
  programmeId,
  settled,
  test,
  TITLES,
  typeInto,
  viewOf,
} from './support.js';

test('a programme from nothing to a filled budget, with the keyboard only', async ({ page }) => {
  await goTo(page, '/');
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('new programme');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'New programme' })).toBeVisible();
  await typeInto(page, 'Title', 'Keyboard airbox, Gute roadster');
  await page.getByRole('button', { name: 'Begin' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Title of the programme')).toHaveValue('Keyboard airbox, Gute roadster');
  await expect(page.getByRole('region', { name: 'Still open' })).toContainText('displacement is not said');
  await typeInto(page, 'The question', 'Does the duct lose less than the stock one?');
  await typeInto(page, 'Name of the car', 'Gute roadster, 2-litre');
  await typeInto(page, 'Displacement', '2,0');
  await typeInto(page, 'Name of the cell', 'Tramontane cell');
  await typeInto(page, 'Parts of A', 'stock box, stock duct');
  await typeInto(page, 'Parts of B', 'stock box, wide duct');
  await typeInto(page, 'Smallest difference that matters', '2 kW');
  await typeInto(page, 'Power that it is a share of', '120');
  await chooseByKey(page, 'Ask something more', 'Does it lose nothing?');
  await settled(page);
  await expect(page.getByRole('region', { name: 'Still open' })).not.toContainText('displacement');

  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Type a command' }).fill('Bench');
  await page.keyboard.press('Enter');
  await expect(page.getByText('No section yet: add the first one')).toBeVisible();
  for (const [kind, fields] of [
    ['opening', { Area: '60 cm²' }],
    ['duct', { Area: '28', Length: '450 mm' }],
    ['filter', { 'Media area': '0.4' }],
    ['bend', { Area: '34', 'Radius of the bend': '2.4 in' }],
  ] as const) {
    await chooseByKey(page, 'Add a section', kind);
    await expect(page.getByRole('heading', { level: 2, name: kind })).toBeVisible();
    for (const [label, text] of Object.entries(fields)) await typeInto(page, `${label} in A`, text);
    await settled(page);
  }
  const budget = page.getByRole('region', { name: 'Restriction budget' });
  await expect(budget).toContainText('Most is lost in the filter of A');
  await expect(budget).toContainText('estimated');
  await expect(budget).not.toContainText('missing');
  await page.getByRole('button', { name: 'Copy the path of A to B' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Copy the path of A to B' })).toBeHidden();
  await page.getByRole('button', { name: 'duct', exact: true }).first().focus();
  await page.keyboard.press('Enter');
  await typeInto(page, 'Area in B', '40');
  await settled(page);
  await expect(page.getByRole('note', { name: 'Gain at most' })).toContainText(/What B takes away is worth about 0\.\d+\s%/);
  const id = /programmes\/([^/]+)/.exec(page.url())![1]!;
  const { bundle } = await viewOf(page, id);
  expect(bundle.programme.smallestGainPct).toBeCloseTo(1.667, 3);
  expect(bundle.vehicle.displacementL).toBe(2);
  expect(bundle.setups.map(({ path }) => path!.map(({ kind }) => kind))).toEqual([
    ['opening', 'duct', 'filter', 'bend'],
    ['opening', 'duct', 'filter', 'bend'],
  ]);
  expect(bundle.setups[0]!.path![3]!.geometry.bendRadiusMm).toBeCloseTo(60.96, 6);
});

const SHEET = [
  'What;Part;Depression (inH2O);Flow (CFM);Air (°C)',
  'check plate;;10;161,4;',
  'leakage, part blanked;blank;10;5;',
  ...[8, 10, 10, 16, 25].map(
    (depression) => `part;wide duct;${depression};${(190 * Math.sqrt(depression / 10)).toFixed(2).replace('.', ',')};21`,
  ),
].join('\n');

test('a flow-bench sheet comes in from CSV, becomes a section’s loss, and a wrong one changes nothing', async ({ page }) => {
  const id = await beginProgramme(page, 'Sheet from CSV');
  await page.getByRole('combobox', { name: 'Add a section' }).click();
  await page.getByRole('option', { name: 'duct', exact: true }).click();
  await page.getByRole('button', { name: 'Flow bench' }).click();
  const file = page.getByLabel('Import CSV of Readings');
  await file.setInputFiles({ name: 'sheet.csv', mimeType: 'text/csv', buffer: Buffer.from(SHEET) });
  await expect(page.getByRole('status').filter({ hasText: '7 rows from sheet.csv' })).toBeVisible();
  await expect(page.getByLabel('Depression, row 1')).toHaveValue('2.4909');
  await expect(page.locator('.sentence')).toContainText('wide duct has an effective area of');
  await file.setInputFiles({ name: 'other.csv', mimeType: 'text/csv', buffer: Buffer.from('nothing;of\nthe;kind') });
  await expect(page.getByRole('alert').filter({ hasText: 'No row names the columns' })).toContainText('other.csv');
  await expect(page.getByLabel('Depression, row 1')).toHaveValue('2.4909');
  await settled(page);
  await page.reload();
  await expect(page.getByLabel('Depression, row 1')).toHaveValue('2.4909');

  await page.getByRole('button', { name: 'duct', exact: true }).first().click();
  await page.getByRole('combobox', { name: 'Loss of duct in A comes from' }).click();
  await page.getByRole('option', { name: 'flow bench' }).click();
  await settled(page);
  await page.getByRole('combobox', { name: 'Part of the sheet for duct in A' }).click();
  await page.getByRole('option', { name: 'wide duct' }).click();
  await expect(page.getByRole('region', { name: 'Restriction budget' })).toContainText('flow bench');
  const section = (await viewOf(page, id)).bundle.setups[0]!.path![0]!;
  expect(section.source).toBe('bench');
  expect(section.bench!.inertialPerM4).toBeGreaterThan(1e4);
});

test('a number takes the unit that is typed with it, comma or point, and says what it understood', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'bench', '?instrument=flow-bench');
  const field = page.getByLabel('Compare at');
  await field.fill('25 inH2O');
  await expect(page.getByText('= 6.227 kPa')).toBeVisible();
  await field.fill('0,9 psi');
  await expect(page.getByText('= 6.205 kPa')).toBeVisible();
  await field.fill('25 furlongs');
  await expect(page.getByRole('alert')).toContainText('no unit that Gezeit reads');
  await expect(field).toHaveValue('25 furlongs');
  await page.getByRole('button', { name: 'Opening and duct' }).click();
  await page.getByLabel('Velocities before, m/s').fill('8.1 m/s 30 km/h; 8,3');
  await expect(page.getByText('m/s, 3 readings')).toBeVisible();
  await page.getByRole('button', { name: 'Flow bench', exact: true }).click();
  await field.fill('4');
  await field.press('Tab');
  await expect(field).toHaveValue('4');
});

test('a claim is held against the measured power, and against nothing until that is there', async ({ page }) => {
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(/\/curves/, async (route) => {
    await held;
    await route.continue();
  });
  await openStep(page, TITLES.airbox, 'bench');
  const budget = page.getByRole('region', { name: 'Restriction budget' });
  await expect(budget).toContainText('as soon as the measured power is there');
  await expect(budget).not.toContainText('Claim “');
  release();
  await expect(budget).toContainText('Claim “+3.5 kW at 6,000 rpm”: 2.5 %');
  await expect(budget).not.toContainText('as soon as');
  await page.unroute(/\/curves/);
  await page.route(/\/curves/, (route) => route.fulfill({ status: 409, json: {} }));
  await page.reload();
  await expect(budget).toContainText('The measured power could not be had');
  await expect(budget).not.toContainText('Claim “');
});

test('a section that was removed comes back by undo, after a reload', async ({ page }) => {
  await openStep(page, TITLES.coupe, 'bench', '?section=filter');
  await page.getByRole('button', { name: 'Remove from A' }).click();
  await expect(page.getByText('A has no such section.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('A has no such section.')).toBeVisible();
  await page.keyboard.press('z');
  await expect(page.getByRole('button', { name: 'Remove from A' })).toBeVisible();
  const path = (await viewOf(page, await programmeId(page, TITLES.coupe))).bundle.setups[0]!.path!;
  expect(path.map(({ kind }) => kind)).toContain('filter');
});

test('a result is kept as evidence, goes out with the bundle and comes back equal', async ({ page }) => {
  await openStep(page, TITLES.coupe, 'bench', '?instrument=air-demand');
  await page.getByLabel('Note to keep with the result').fill('kept by the browser test');
  await page.getByRole('button', { name: 'Keep as evidence' }).click();
  const kept = page.getByRole('region', { name: 'Evidence' });
  await expect(kept).toContainText('kept by the browser test');
  const id = await programmeId(page, TITLES.coupe);
  const files = unzipSync(new Uint8Array(await (await page.request.get(`/api/programmes/${id}/bundle`)).body()));
  const description = JSON.parse(strFromU8(files['gezeit.json']!)) as { programme: { title: string } };
  description.programme.title = 'Coupe that came back';
  files['gezeit.json'] = new TextEncoder().encode(JSON.stringify(description));
  const upload = await page.request.post('/api/imports', {
    headers: { 'x-gezeit-person': 'BT' },
    multipart: { 'back.zip': { name: 'back.zip', mimeType: 'application/zip', buffer: Buffer.from(zipSync(files)) } },
  });
  const { id: job } = importStateSchema.parse(await upload.json());
  await expect
    .poll(async () => importStateSchema.parse(await (await page.request.get(`/api/imports/${job}`)).json()).outcome?.kind)
    .toBe('imported');
  const back = await viewOf(page, await programmeId(page, 'Coupe that came back'));
  const out = await viewOf(page, id);
  expect(back.evidence).toEqual(out.evidence);
  expect(back.bundle.setups).toEqual(out.bundle.setups);
  expect(back.bundle.bench).toEqual(out.bundle.bench);
  await goTo(page, `/programmes/${back.id}/bench`);
  await expect(page.getByRole('region', { name: 'Evidence' })).toContainText('kept by the browser test');
  await page
    .getByRole('button', { name: /^Take Air demand away/ })
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'Evidence' })).not.toContainText('kept by the browser test');
});

test('every instrument opens, says what it is built on, and names what is missing or says its sentence', async ({ page }) => {
  await openStep(page, TITLES.coupe, 'bench');
  for (const instrument of INSTRUMENTS) {
    await page
      .getByRole('navigation', { name: 'Instruments of the bench' })
      .getByRole('button', { name: instrument.title, exact: true })
      .click();
    await expect(page.getByRole('heading', { level: 2, name: instrument.title, exact: true })).toBeVisible();
    await expect(page).toHaveURL(new RegExp(`instrument=${instrument.id}`));
    await expect(page.locator('.sentence, .problems').first()).toBeVisible();
    await page.getByRole('button', { name: 'What it is built on' }).click();
    await expect(page.locator('.basis tbody tr').first()).toBeVisible();
    for (const caution of instrument.cautions?.(PLAIN_FORMATTER) ?? []) await expect(page.getByText(caution)).toBeVisible();
  }
});

test('nonsense in a field is refused with its reason and nothing is lost', async ({ page }) => {
  await openStep(page, TITLES.coupe, 'bench', '?instrument=leak-test');
  await page.getByLabel('Test pressure, gauge').fill('400');
  await expect(page.getByText('must be 150 kPa or less').first()).toBeVisible();
  await page.getByLabel('Test pressure, gauge').fill('100');
  await expect(page.getByText(/With air it goes up to 70 kPa only/).first()).toBeVisible();
  await page.getByLabel('Test pressure, gauge').fill('70');
  await expect(page.locator('.sentence')).toContainText('It passes');
});

test('the condensation region is swept in a worker and moves with the inputs', async ({ page }) => {
  await openStep(page, TITLES.coupe, 'bench', '?instrument=condensation');
  await drawn(page, 'condensation-risk');
  const wet = () =>
    page.locator('[data-chart="condensation-risk"] .plot').evaluate((plot) => {
      const region = (plot as unknown as { data: { type: string; z?: number[][] }[] }).data.find(({ type }) => type === 'heatmap');
      return region!.z!.flat().filter((risk) => risk === 1).length;
    });
  const before = await wet();
  await page.getByLabel('Charge behind the cooler').fill('30');
  await expect.poll(wet).toBeGreaterThan(before);
});
