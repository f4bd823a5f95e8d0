import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { formatterFor, headlineOf } from '@gezeit/core';
import type { SheetSource } from '@gezeit/contract';
import type { Page } from '@playwright/test';
import { chooseByKey, expect, goTo, openStep, programmeId, settled, test, TITLES, viewOf } from './support.js';

const paper = (page: Page) => page.getByRole('article', { name: 'Validation sheet' });
const saved = async (page: Page, name: string) => {
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).press('Enter')]);
  return { name: download.suggestedFilename(), text: readFileSync((await download.path())!, 'utf8') };
};

async function fixAnswers(page: Page, why: string): Promise<void> {
  await page.getByRole('button', { name: 'Fix these answers' }).press('Enter');
  await page.getByLabel('Why now').fill(why);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
}
async function fix(page: Page, why: string): Promise<void> {
  await fixAnswers(page, why);
  await expect(paper(page)).toContainText(`by BT Browser Test: ${why}`);
}

test('who has only the sheet knows what was tested, against what, where, when, how sure, and what not to say', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'sheet');
  const sheet = paper(page);
  await expect(sheet).toContainText('Not fixed: figures as they are now.');
  const { findings } = await viewOf(page, await programmeId(page, TITLES.airbox));
  const [first] = findings.comparisons[0]!.answers;
  for (const words of [
    'Sealed airbox, Skudde estate',
    'Does the sealed box with its larger filter gain',
    'B Sealed box against A Stock airbox',
    'Skudde estate, 1.5-litre turbo',
    'Harbour cell, inertia rollers, power at the wheel',
    '4 March 2026',
    'uncorrected, 4400 to 6600 rpm; 6 and 5 pulls',
    'specimen SB3-004',
    'At least +0.5',
    'Claims from outside, beside the measurement',
    '“+3.5 kW at 6,000 rpm” (Elvegust Airworks, draft of the product page): not shown; measured',
    'Power at the engine as if it were measured',
    'At the engine: an estimate, not measured',
    'Wheel power times 1.05 to 1.25, which is assumed',
    'The law of the place decides',
    'It rests on',
    'Signed',
  ])
    await expect(sheet).toContainText(words);
  // The same sentence as everywhere.
  const lead = (await sheet.locator('.answer').textContent())!;
  expect(first!.why.startsWith(lead.trim())).toBe(true);
});

test('by keys: fixed, out of date by an input, checked again, taken away and back', async ({ page }) => {
  const id = await programmeId(page, TITLES.trumpets);
  await openStep(page, TITLES.trumpets, 'sheet');
  // What four comparisons rest on is tried first.
  await expect(paper(page)).toBeVisible({ timeout: 60_000 });
  await fix(page, 'for the release');
  await expect(paper(page)).toContainText(/Digest of the fixed finding \(SHA-256\): [0-9a-f]{64}/);
  const lead = await paper(page).locator('.answer').textContent();
  await page.getByRole('button', { name: 'Check again' }).press('Enter');
  await expect(page.getByText('every estimate and answer to six figures, from the same inputs')).toBeVisible();
  const used = (await viewOf(page, id)).findings.pulls.find(({ status }) => status === 'used')!.id;
  const headers = { 'x-gezeit-person': 'BT%20Browser%20Test' };
  const left = await page.request.patch(`/api/programmes/${id}/pulls/${used}`, { headers, data: { excluded: 'a belt slipped' } });
  expect(left.ok()).toBe(true);
  // Told here by itself: the other window has changed it.
  await expect(page.getByText('Changed since it was fixed: pulls, or what is left out')).toBeVisible();
  await expect(paper(page)).toContainText('Out of date: 1 of its inputs changed since.');
  expect(await paper(page).locator('.answer').textContent()).toBe(lead);
  await expect(page.getByRole('link', { name: /^Sheet/ })).toHaveAttribute('title', /out of date/);
  await goTo(page, '/');
  await expect(page.getByText('1 fixed, 1 out of date')).toBeVisible();
  await goTo(page, `/programmes/${id}/sheet?fixed=fixed-1`);
  await page.getByRole('button', { name: 'Check again' }).press('Enter');
  await expect(page.getByText(/figures differ/)).toBeVisible();
  await page.locator('body').press('z');
  await settled(page);
  await expect(page.getByText('Changed since it was fixed')).toBeHidden();
  await page.getByRole('button', { name: 'Take away' }).press('Enter');
  await expect(paper(page)).toContainText('Not fixed', { timeout: 60_000 });
  await page.locator('body').press('z');
  await expect.poll(async () => (await viewOf(page, id)).fixed.length).toBe(1);
  await chooseByKey(page, 'Which setup', await secondSetup(page, id));
  await expect(paper(page)).toContainText(`${await secondSetup(page, id)} against`);
});

/** The second candidate as the list names it. */
async function secondSetup(page: Page, id: string): Promise<string> {
  const { bundle, findings } = await viewOf(page, id);
  const { candidate } = findings.comparisons[1]!;
  return `${candidate} ${bundle.setups.find((setup) => setup.id === candidate)!.name}`;
}

test('a sentence with a figure is held against the measurement before it leaves the house', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'sheet');
  await expect(paper(page)).toBeVisible();
  const told = page.getByRole('region', { name: 'A sentence held against the measurement' }).getByRole('status');
  const check = async (text: string) => {
    await page.getByLabel('May this be said?').fill(text);
    await page.keyboard.press('Enter');
    await expect(told).toContainText(`“${text}”`);
  };
  await check('+0.3 % at the wheel');
  await expect(told).toContainText('It may be said.');
  await check('+3.5 kW at 6,000 rpm');
  await expect(told).toContainText('Understood: 3.5 kW at 6000 rpm.');
  await expect(told).toContainText(/It may not be said: not shown\. .* Measured \+\d\.\d\skW.* What it supports: at least \+\d\.\d\skW/);
  await check('+20 %');
  await expect(told).toContainText('It may not be said: less than claimed.');
  await check('+3 kW at the crank');
  await expect(told).toContainText('It is claimed at the crank and was measured at the wheel');
  await check('50 % less restriction');
  await expect(told).toContainText('It may be said.');
  await check('sounds better');
  await expect(told).toContainText('it needs a figure');
});

test('a sentence of our own stands on the sheet, marked where the data does not carry it, in print and public too, and is taken back', async ({
  page,
}) => {
  await openStep(page, TITLES.airbox, 'sheet');
  const told = page.getByRole('region', { name: 'A sentence held against the measurement' }).getByRole('status');
  const own = page.getByRole('list', { name: 'Our own sentences on the sheet' }).getByRole('listitem');
  const section = paper(page).locator('section', { has: page.getByRole('heading', { name: 'In our own words' }) });
  await expect(paper(page)).toBeVisible();
  await expect(section).toHaveCount(0);
  await page.getByLabel('May this be said?').focus();
  await page.keyboard.type('+20 % everywhere');
  await page.keyboard.press('Enter');
  await told.getByRole('button', { name: 'Put it on the sheet, marked as beyond the data' }).press('Enter');
  await expect(section.getByRole('listitem')).toContainText(/Beyond the data “\+20 % everywhere” /);
  await expect(own).toContainText('beyond the data');
  // What may be said can be begun from; as it stands it is supported.
  const begin = page.getByLabel('Begin from what may be said');
  await begin.selectOption({ index: 1 });
  const statement = await page.getByLabel('May this be said?').inputValue();
  expect(statement).toMatch(/^At least \+\d/);
  await page.getByLabel('May this be said?').press('Enter');
  await expect(told).toContainText('It may be said.');
  await told.getByRole('button', { name: 'Put it on the sheet', exact: true }).press('Enter');
  await expect(section.getByRole('listitem')).toHaveCount(2);
  await expect(section.getByRole('listitem').nth(1)).not.toContainText('Beyond the data');
  await page.emulateMedia({ media: 'print' });
  await expect(section.getByText('Beyond the data')).toBeVisible();
  await expect(own.first()).toBeHidden();
  await page.emulateMedia({ media: 'screen' });
  // What others claim is listed elsewhere, and our own words are none of it.
  await expect(paper(page)).not.toContainText('Claims written down after results were known: “+20 %');
  const address = page.url();
  await goTo(page, `${address}?version=public`);
  const version = page.getByRole('article', { name: 'Public short version' });
  await expect(version).toContainText('Not shown by the measurement +20 % everywhere');
  await goTo(page, address);
  await page.getByRole('button', { name: 'Take “+20 % everywhere” off the sheet' }).press('Enter');
  await expect(section.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('heading', { name: 'In our own words' }).click();
  await settled(page);
  await page.keyboard.press('z');
  await expect(section.getByRole('listitem')).toHaveCount(2);
});

test('printed: the paper alone, on either size, in the dark theme too; as a file it stands by itself', async ({ page, context }) => {
  await openStep(page, TITLES.cooler, 'sheet');
  await expect(paper(page)).toBeVisible();
  await page.getByRole('button', { name: 'Switch to the dark theme' }).click();
  await page.emulateMedia({ media: 'print' });
  for (const name of ['Fix these answers', 'Print', 'Save the sheet as PDF', 'Save the sheet as one HTML file'])
    await expect(page.getByRole('button', { name })).toBeHidden();
  await expect(page.getByRole('banner')).toBeHidden();
  const colours = await paper(page).evaluate((element) => {
    const dark = (colour: string) => (colour.match(/\d+/g) ?? []).slice(0, 3).every((part) => Number(part) < 120);
    const texts = [...element.querySelectorAll('*')].filter((one) =>
      [...one.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent!.trim()),
    );
    return texts
      .map((one) => (one instanceof SVGElement ? getComputedStyle(one).fill : getComputedStyle(one).color))
      .filter((colour) => !dark(colour));
  });
  expect(colours).toEqual([]);
  for (const [size, points] of [
    ['A4', [595, 842]],
    ['Letter', [612, 792]],
  ] as const) {
    await page.emulateMedia({ media: 'screen' });
    await chooseByKey(page, 'Paper', size);
    await page.emulateMedia({ media: 'print' });
    const pdf = (await page.pdf({ preferCSSPageSize: true, printBackground: true })).toString('latin1');
    const boxes = [...pdf.matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)].map(([, width, height]) => [
      Math.round(Number(width)),
      Math.round(Number(height)),
    ]);
    expect(boxes.length).toBeGreaterThanOrEqual(1);
    expect(boxes.length).toBeLessThanOrEqual(3);
    for (const box of boxes) box.forEach((side, i) => expect(Math.abs(side - points[i]!)).toBeLessThanOrEqual(1));
    expect(pdf).toContain('/FontFile');
    expect(pdf.length).toBeLessThan(2_000_000);
  }
  await page.emulateMedia({ media: 'screen' });
  const { name, text } = await saved(page, 'Save the sheet as one HTML file');
  expect(name).toMatch(/^sheet-B-not-fixed\.html$/);
  expect(text).not.toMatch(/<script|<link|https?:\/\/(?!www\.w3\.org)/);
  expect(text.length).toBeLessThan(2_000_000);
  const alone = await context.newPage();
  const asked: string[] = [];
  alone.on('request', (request) => /^(data|about):/.test(request.url()) || asked.push(request.url()));
  await alone.setContent(text);
  await alone.waitForLoadState('networkidle');
  expect(asked).toEqual([]);
  expect(await paper(alone).locator('.answer').textContent()).toBe(await paper(page).locator('.answer').textContent());
  // Asking whether a font can be used says yes of one that is not there: what was loaded is asked.
  const loaded = () => alone.evaluate(() => [...document.fonts].filter(({ status }) => status === 'loaded').map(({ family }) => family));
  await expect.poll(async () => (await loaded()).join()).toContain('Atkinson Hyperlegible Next Variable');
  const findings = JSON.parse((await saved(page, 'Save its findings as JSON')).text) as { format: string };
  expect(findings.format).toBe('gezeit-findings');
});

test('by keys: its data leaves as tables, each with as many rows as there are answers, speeds and pulls', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'sheet');
  await expect(paper(page)).toBeVisible();
  const { findings } = await viewOf(page, await programmeId(page, TITLES.airbox));
  const source = (await (await page.request.get(`/api/programmes/${await programmeId(page, TITLES.airbox)}/sheet`)).json()) as SheetSource;
  const speeds = (curves: readonly { engineSpeedRpm: number[] }[]) =>
    curves.reduce((sum, { engineSpeedRpm }) => sum + engineSpeedRpm.length, 0);
  const tables = [
    ['answers', /^question,answer,estimate,low,high,unit,why\n/, findings.comparisons[0]!.answers.length],
    ['curves', /^setup,engineSpeedRpm,powerW,/, speeds(source.curves.setups)],
    ['difference', /^reference,candidate,engineSpeedRpm,pct,lowPct,highPct,wholeLowPct,wholeHighPct\n/, speeds(source.curves.differences)],
    ['pulls', /^id,setup,status,reasons,flags,/, findings.pulls.length],
  ] as const;
  for (const [i, [name, head, rows]] of tables.entries()) {
    await page.getByRole('button', { name: 'Save its data as CSV' }).press('Enter');
    const items = page.getByRole('menuitem');
    await expect(items).toHaveCount(tables.length);
    for (let step = 0; step <= i; step += 1) await page.keyboard.press('ArrowDown');
    const [download] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
    expect(download.suggestedFilename()).toBe(`sheet-B-not-fixed-${name}.csv`);
    const text = readFileSync((await download.path())!, 'utf8');
    expect(text).toMatch(head);
    expect(text.trim().split('\n')).toHaveLength(rows + 1);
    await expect(items).toHaveCount(0);
  }
});

test('what the bench found is a paper of its own, with what it rests on, and stays as it was where it was fixed', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'sheet', '?version=bench');
  const bench = page.getByRole('article', { name: 'Found on the bench' });
  await expect(bench).toContainText('Not fixed: as it stands now.');
  const id = await programmeId(page, TITLES.airbox);
  const { evidence } = (await (await page.request.get(`/api/programmes/${id}/sheet`)).json()) as SheetSource;
  expect(evidence!.length).toBeGreaterThan(1);
  for (const { sentence, figures, by, assumptions } of evidence!) {
    await expect(bench).toContainText(sentence);
    await expect(bench).toContainText(by);
    for (const { label } of figures) await expect(bench.getByRole('rowheader', { name: label, exact: true }).first()).toBeVisible();
    for (const { name, value } of assumptions) await expect(bench).toContainText(`${name} ${value}`);
  }
  await fixAnswers(page, 'with the bench');
  await expect(bench).toContainText('Fixed with the answers');
  const headers = { 'x-gezeit-person': 'BT%20Browser%20Test' };
  const removed = await page.request.delete(`/api/programmes/${id}/evidence/${evidence![0]!.id}`, { headers });
  expect(removed.ok()).toBe(true);
  await page.reload();
  await expect(page.getByText('Out of date.')).toBeVisible();
  for (const { sentence } of evidence!) await expect(bench).toContainText(sentence);
  await chooseByKey(page, 'Which state of the answers', 'as it is now, not fixed');
  await expect(bench).not.toContainText(evidence![0]!.sentence);
  for (let i = 0; i < 2; i += 1) expect((await page.request.post(`/api/programmes/${id}/undo`, { headers, data: {} })).ok()).toBe(true);
});

test('the public version: no inside data, not for publication until it is fixed', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'sheet');
  await expect(paper(page)).toBeVisible();
  await chooseByKey(page, 'For whom', 'public short version');
  const short = page.getByRole('article', { name: 'Public short version' });
  await expect(short).toContainText('Sealed box against Stock airbox');
  await expect(short).toContainText('Not fixed: not for publication.');
  await expect(short).toContainText('At least +0.5');
  await expect(short).toContainText('On the road: not measured.');
  for (const inside of ['Elvegust', 'Harbour cell', 'map 12', 'EB Elin Bora']) await expect(short).not.toContainText(inside);
  await page.getByRole('button', { name: 'Fix these answers' }).press('Enter');
  await page.getByLabel('Why now').fill('for the page of the part');
  await page.keyboard.press('Enter');
  await expect(short).not.toContainText('not for publication');
  const { name, text } = await saved(page, 'Save the sheet as one HTML file');
  expect(name).toMatch(/^public-B-fixed-\d+\.html$/);
  expect(text).toContain('On the road: not measured.');
});

test('all setups stand beside each other by all that was asked and measured, with what the bench found, and leave as a PDF too', async ({
  page,
}) => {
  await openStep(page, TITLES.trumpets, 'sheet');
  await chooseByKey(page, 'For whom', 'setups beside each other');
  const beside = page.getByRole('article', { name: 'Setups beside each other' });
  const { findings } = await viewOf(page, await programmeId(page, TITLES.trumpets));
  const row = beside.getByRole('row', { name: /^Gain/ });
  await expect(row.getByRole('cell')).toHaveCount(findings.comparisons.length + 1);
  await expect(row.getByRole('cell').first()).toHaveText('reference');
  for (const [i, comparison] of findings.comparisons.entries()) {
    const { figure } = headlineOf(comparison.answers[0]!, formatterFor());
    await expect(row.getByRole('cell').nth(i + 1)).toContainText(figure);
  }
  await expect(page.getByRole('combobox', { name: 'Which setup' })).toBeHidden();
  // A withheld figure is not shown, whatever stands beside it.
  await openStep(page, TITLES.cooler, 'sheet', '?version=beside');
  const withheld = (await viewOf(page, await programmeId(page, TITLES.cooler))).findings.comparisons[0]!.answers.find(
    ({ answer }) => answer === 'withheld',
  )!;
  expect(withheld.estimate).not.toBeNull();
  await expect(beside.getByRole('row', { name: /^Gain/ }).getByRole('cell').nth(1)).toHaveText('withheld');
  await openStep(page, TITLES.airbox, 'sheet', '?version=beside');
  await expect(beside).toContainText('Found on the bench');
  await expect(beside).toContainText('sealed duct passes 23.3 % more than stock duct');
  await expect(beside.getByRole('row', { name: /^Drop over the filter/ })).toContainText('at 154 g/s');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the sheet as PDF' }).press('Enter'),
  ]);
  expect(download.suggestedFilename()).toBe('beside-not-fixed.pdf');
  expect(
    readFileSync((await download.path())!)
      .toString('latin1')
      .match(/\/MediaBox/g),
  ).toHaveLength(1);
});

test('the sheets of every setup come one after another, each as it is by itself, and leave as one PDF', async ({ page }) => {
  await openStep(page, TITLES.trumpets, 'sheet');
  const { findings } = await viewOf(page, await programmeId(page, TITLES.trumpets));
  await expect(paper(page)).toBeVisible();
  const alone = await paper(page).textContent();
  await chooseByKey(page, 'For whom', 'sheets of every setup');
  await expect(paper(page)).toHaveCount(findings.comparisons.length);
  expect(findings.comparisons.length).toBeGreaterThan(2);
  expect(await paper(page).first().textContent()).toBe(alone);
  for (const [i, comparison] of findings.comparisons.entries()) {
    const { before, figure, after } = headlineOf(comparison.answers[0]!, formatterFor());
    await expect(paper(page).nth(i).locator('.answer')).toHaveText(`${before}${figure}${after}`);
  }
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the sheet as PDF' }).press('Enter'),
  ]);
  expect(download.suggestedFilename()).toBe('sheets-not-fixed.pdf');
  const pages = readFileSync((await download.path())!)
    .toString('latin1')
    .match(/\/MediaBox/g)!.length;
  expect(pages).toBeGreaterThanOrEqual(findings.comparisons.length);
  expect(pages).toBeLessThanOrEqual(3 * findings.comparisons.length);
});

/** The numbers of a text, as they are printed. */
const numbersOf = (text: string): string[] => text.match(/[+−]?\d+(?:[.,]\d+)*/g) ?? [];

test('the PDF of every demo programme holds what its findings say, to the printed digit, in one to three pages with its fonts', async ({
  page,
}) => {
  test.setTimeout(180_000);
  for (const title of Object.values(TITLES)) {
    const view = await viewOf(page, await programmeId(page, title));
    // Nothing is driven yet: there is no sheet.
    if (view.bundle.pulls.length === 0) continue;
    await openStep(page, title, 'sheet');
    await expect(paper(page)).toBeVisible({ timeout: 30_000 });
    await expect(page.locator('main [aria-busy="true"]')).toHaveCount(0);
    const begun = performance.now();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save the sheet as PDF' }).click(),
    ]);
    const file = (await download.path())!;
    test.info().annotations.push({ type: 'made in', description: `${title}: ${Math.round(performance.now() - begun)} ms` });
    expect(download.suggestedFilename()).toMatch(/^sheet-\w+-not-fixed\.pdf$/);
    const pdf = readFileSync(file);
    const pages = pdf.toString('latin1').match(/\/MediaBox \[0 0 /g) ?? [];
    expect(pages.length, title).toBeGreaterThanOrEqual(1);
    expect(pages.length, title).toBeLessThanOrEqual(3);
    // The pages’ font varies in weight: its letters are embedded as drawings; what stands in for a rare sign is embedded too.
    expect(pdf.toString('latin1')).toContain('/Type3');
    expect(pdf.toString('latin1')).not.toMatch(/\/BaseFont \/(?!\w+\+)/);
    expect(pdf.length).toBeLessThan(2_000_000);
    const { status, stdout } = spawnSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
    // Nothing here can read a PDF: said, and the rest holds.
    if (status !== 0) {
      test.info().annotations.push({ type: 'skipped', description: 'pdftotext is not installed' });
      continue;
    }
    const printed = new Set(numbersOf(stdout));
    const [comparison] = view.findings.comparisons;
    const words = formatterFor();
    for (const answer of comparison!.answers) {
      const { before, figure, after } = headlineOf(answer, words);
      for (const number of numbersOf(before + figure + after))
        expect([...printed], `${title}: ${number} of ${answer.question}`).toContain(number);
    }
    // What stands on the screen stands in print.
    const shown = numbersOf(await paper(page).innerText());
    const missing = [...new Set(shown)].filter((number) => !printed.has(number));
    expect(missing.length, `${title}: ${missing.join(' ')}`).toBeLessThan(0.03 * new Set(shown).size);
    for (const button of ['Fix these answers', 'Take away', 'Check again']) expect(stdout).not.toContain(button);
  }
});
