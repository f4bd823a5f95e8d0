import { expect, type Page } from '@playwright/test';
import { beginProgramme, drawn, openStep, programmeId, seriesNames, settled, test, TITLES, typeInto, viewOf } from './support.js';

/** Amber rectangles of the traces: how many, and from where to where the first one reaches. */
const marks = (page: Page) =>
  page.evaluate(() => {
    const plot = document.querySelector('[data-chart="traces"] .plot') as unknown as {
      _fullLayout?: { shapes: { yref: string; x0: number; x1: number }[]; xaxis: { range: number[] } };
    } | null;
    const shapes = plot?._fullLayout?.shapes.filter(({ yref }) => yref.endsWith('domain')) ?? [];
    return { count: shapes.length, first: shapes[0] ?? null, range: plot?._fullLayout?.xaxis.range.map(Number) ?? [] };
  });

test('what a check found is said in a sentence, looked at by keys, and drawn where it is', async ({ page }) => {
  await openStep(page, TITLES.twin, 'logs', '?pull=p05');
  await drawn(page, 'traces');
  const found = page.getByRole('list', { name: 'What the checks found' });
  await expect(found).toContainText(/Drop does not follow flow squared: the drop over the box changes by −\d+\s%\s?at 4\d{3}\srpm/);
  await expect(found).toContainText('Touches restriction.');
  expect((await marks(page)).count).toBe(0);
  await found.getByRole('button', { name: /^Look at/ }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await seriesNames(page, 'traces')).some((name) => name?.includes('Pressure drop box'))).toBe(true);
  await expect.poll(async () => (await marks(page)).count).toBe(1);
  const { first, range } = await marks(page);
  expect(first!.x0).toBeGreaterThan(range[0]!);
  expect(first!.x1).toBeLessThan(range[1]!);
  expect(range[1]! - range[0]!).toBeLessThan(4);
  // Of what is seen closely mean and drift are told, as of a steady load.
  await expect(page.locator('aside[aria-label^="What every line reads"]')).toContainText(
    /mean [\d.]+ \([\d.]+ to [\d.]+\); drift −?[\d.]+/,
  );
  // Over engine speed nothing of it is drawn, and it is there again over time.
  await page.getByRole('combobox', { name: 'Drawn over' }).click();
  await page.getByRole('option', { name: 'over engine speed' }).click();
  await expect.poll(async () => (await marks(page)).count).toBe(0);
});

test('a section’s law is drawn over flow, its step said and fitted on both sides, the other sections chosen', async ({ page }) => {
  await openStep(page, TITLES.twin, 'logs', '?pull=p05');
  await drawn(page, 'restriction');
  const table = page.getByRole('table', { name: 'Restriction by setup' });
  await expect(table.getByRole('row')).toHaveCount(3);
  const view = await viewOf(page, await programmeId(page, TITLES.twin));
  const [a, b] = ['A', 'B'].map((setup) => view.findings.restriction.find((entry) => entry.setup === setup && entry.section === 'box')!);
  await expect(table.getByRole('row').nth(1)).toContainText(a!.effectiveAreaCm2!.toFixed(1));
  await expect(table.getByRole('row').nth(2)).toContainText(b!.effectiveAreaCm2!.toFixed(1));
  const { step } = b!;
  await expect(page.getByRole('region', { name: 'Restriction' })).toContainText(
    `B changes at ${Math.round(step!.atRpm)} rpm: the drop by −${Math.abs(step!.changePct).toFixed(0)}`,
  );
  await expect(page.getByRole('region', { name: 'Restriction' })).toContainText(`from ${step!.below!.areaCm2.toFixed(1)} cm²`);
  await page.getByRole('combobox', { name: 'Section' }).click();
  await page.getByRole('option', { name: 'filter' }).click();
  await expect(page.getByRole('region', { name: 'Restriction' })).not.toContainText('changes at');
  const filter = view.findings.restriction.find(({ setup, section }) => setup === 'A' && section === 'filter')!;
  await expect(table.getByRole('row').nth(1)).toContainText(filter.effectiveAreaCm2!.toFixed(1));
});

test('the heat of the pulls is drawn and told by setup, from the same start, and a pull is chosen in it', async ({ page }) => {
  await openStep(page, TITLES.airbox, 'logs', '?pull=p02');
  await drawn(page, 'heat');
  const heat = page.getByRole('region', { name: 'Heat' });
  const view = await viewOf(page, await programmeId(page, TITLES.airbox));
  const rise = view.findings.comparisons[0]!.riseAtEqualStartK!;
  await expect(heat).toContainText(
    `From the same start the intake air of B rises less than that of A: −${Math.abs(rise.value).toFixed(1)}`,
  );
  const [cooling] = view.findings.chargeCooling;
  await expect(heat.getByRole('table')).toContainText(cooling!.effectiveness.toFixed(2));
  await expect(heat).toContainText('too little is logged between the pulls');
});

test('runs on the road stand gear by gear with their caution, and only what they have in common is compared', async ({ page }) => {
  await openStep(page, TITLES.airfield, 'logs', '?pull=p02');
  const road = page.getByRole('region', { name: 'Road', exact: true });
  await expect(road).toContainText('On a closed road or track only');
  const { findings } = await viewOf(page, await programmeId(page, TITLES.airfield));
  const rows = page.getByRole('region', { name: 'Runs on the road' }).getByRole('row');
  await expect(rows).toHaveCount(findings.road.runs.length + 1);
  await expect(rows.nth(1)).toContainText(`≈ ${findings.road.runs[0]!.wheelPower!.meanKW.toFixed(0)}`);
  for (const { gear } of findings.road.pairs) await expect(road).toContainText(`Gear ${gear}, `);
  await rows.nth(5).getByRole('button').focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/pull=p03/);
});

test('laps are cut by a line and by hand, with keys alone; what two setups differ by follows, and it is undone', async ({ page }) => {
  await openStep(page, TITLES.airfield, 'logs', '?pull=p13');
  await drawn(page, 'track');
  const drives = page.getByRole('region', { name: 'Drives', exact: true });
  await expect(drives).toContainText('On a closed road or track only');
  const id = await programmeId(page, TITLES.airfield);
  const found = async () => (await viewOf(page, id)).findings.drives;
  const before = await found();
  const rows = page.getByRole('region', { name: 'Laps', exact: true }).getByRole('row');
  await expect(rows).toHaveCount(before.drives[0]!.laps.length + 1);
  await expect(rows.nth(1)).toContainText(before.drives[0]!.laps[0]!.seconds.toFixed(2));
  await expect(drives).toContainText('slow');
  const above = before.pairs[0]!.figures.find(({ of }) => of === 'aboveAmbientK')!;
  await expect(drives).toContainText(
    `Intake air above ambient: ${above.reference.toFixed(1)} K with A, with B −${Math.abs(above.difference.value).toFixed(1)}`,
  );
  await expect(drives).toContainText('The intervals are between laps');
  // A line elsewhere: the same laps, begun elsewhere, so that the first of them begins sooner or later.
  await page.getByRole('textbox', { name: 'Time of the drive at which the car is on the line' }).focus();
  await page.keyboard.type('25');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: 'Put it there' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await found()).drives[0]!.laps[0]!.startS).not.toBe(before.drives[0]!.laps[0]!.startS);
  const moved = await found();
  expect(moved.drives[0]!.cutBy).toBe('line');
  expect(moved.drives[0]!.laps[1]!.seconds).toBeCloseTo(before.drives[0]!.laps[1]!.seconds, -1);
  // By hand, refused where a time is none.
  await page.getByLabel('Laps by hand, at').focus();
  await page.keyboard.type('10, soon');
  await expect(drives).toContainText('“soon” is no time within the drive');
  await expect(page.getByRole('button', { name: 'Cut there' })).toBeDisabled();
  for (let i = 0; i < 4; i += 1) await page.keyboard.press('Backspace');
  await page.keyboard.type('1:30');
  await page.keyboard.press('Enter');
  await expect(rows).toHaveCount(2);
  await expect(rows.nth(1)).toContainText('80.00');
  await expect(drives).toContainText('Cut at the times typed by hand.');
  await page.getByRole('heading', { name: 'Drives: laps and long runs' }).click();
  for (const laps of [moved.drives[0]!.laps.length, before.drives[0]!.laps.length]) {
    await page.keyboard.press('z');
    await expect(rows).toHaveCount(laps + 1);
  }
  await settled(page);
  expect(await found()).toEqual(before);
});

test('a long run says what drifts over its distance, and is counted as no pull', async ({ page }) => {
  await openStep(page, TITLES.airfield, 'verdict');
  await expect(page.getByText('8 of 12 pulls counted, 4 conditioning.')).toBeVisible();
  await openStep(page, TITLES.airfield, 'logs', '?pull=p13');
  const drives = page.getByRole('region', { name: 'Drives', exact: true });
  await drives.getByRole('button', { name: /p15/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/pull=p15/);
  const { findings } = await viewOf(page, await programmeId(page, TITLES.airfield));
  const drive = findings.drives.drives.find(({ pull }) => pull === 'p15')!;
  const trim = drive.courses.find(({ quantity }) => quantity === 'longTermTrim')!.perHundredKm!;
  const driven = (value: number | null) => `+${((value! * drive.distanceM!) / 100_000).toFixed(2)}`;
  const row = drives.getByRole('row', { name: /Long-term fuel trim/ });
  await expect(row).toContainText(`${driven(trim.value)} (${driven(trim.low)} to ${driven(trim.high)})`);
  await expect(row).toContainText('goes up');
  await expect(drives).toContainText('That leaves no whole lap');
});

test('a calibration found wrong afterwards is put right by keys, said by every pull and by the answer, and undone', async ({ page }) => {
  await openStep(page, TITLES.twin, 'logs', '?pull=p02&device=daq');
  const id = await programmeId(page, TITLES.twin);
  const before = (await viewOf(page, id)).findings;
  const box = before.restriction.find(({ setup, section }) => setup === 'A' && section === 'box')!;
  await page.getByRole('button', { name: /^Pressure drop box .*calibration as read/ }).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: /^Put the calibration right/ });
  await dialog.getByRole('textbox', { name: 'Factor' }).fill('zero');
  await expect(dialog.getByRole('button', { name: 'Put right' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Factor' }).focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('1.1');
  await expect(dialog.getByRole('status')).toContainText('become');
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('button', { name: /^Pressure drop box .*calibration × 1\.1/ })).toBeVisible({ timeout: 20_000 });
  await expect
    .poll(
      async () =>
        (await viewOf(page, id)).findings.restriction.find(({ setup, section }) => setup === 'A' && section === 'box')!.dropKPa /
        box.dropKPa,
    )
    .toBeCloseTo(1.1, 3);
  const { findings } = await viewOf(page, id);
  expect(findings.pulls.every(({ warnings }) => warnings.some((text) => text.includes('put right, × 1.1')))).toBe(true);
  expect(findings.comparisons[0]!.notes.some((text) => text.includes('put right, × 1.1'))).toBe(true);
  await page.getByRole('heading', { name: 'What was taken for what' }).click();
  await page.keyboard.press('z');
  await expect(page.getByRole('button', { name: /^Pressure drop box .*calibration as read/ })).toBeVisible({ timeout: 20_000 });
  await settled(page);
  expect((await viewOf(page, id)).findings.restriction).toEqual(before.restriction);
});

test('response and fade are asked with their own terms, and answered or told what is missing', async ({ page }) => {
  await beginProgramme(page, 'Asked of response', 'question');
  for (const kind of ['Does it respond quicker?', 'Does it fade less?']) {
    await page.getByRole('combobox', { name: 'Ask something more' }).click();
    await page.getByRole('option', { name: kind }).click();
    await expect(page.getByRole('button', { name: `Remove ${kind}` })).toBeVisible();
  }
  await page.getByRole('combobox', { name: 'What responds' }).click();
  await page.getByRole('option', { name: 'until torque is there' }).click();
  await page.getByRole('combobox', { name: 'Response in' }).click();
  await page.getByRole('option', { name: 'as engine speed' }).click();
  await typeInto(page, 'Level, per cent of the reference’s own', '80');
  await page.getByRole('combobox', { name: 'What fades' }).click();
  await page.getByRole('option', { name: 'of charge temperature' }).click();
  await typeInto(page, 'Pull of the series at which fade is read', '4');
  await settled(page);
  const id = page.url().match(/programmes\/([^/]+)/)![1]!;
  const { questions } = (await viewOf(page, id)).bundle.programme;
  expect(questions!.find(({ kind }) => kind === 'quicker-response')).toMatchObject({
    unit: 'rpm',
    smallest: 100,
    response: { of: 'torque', levelPct: 80 },
  });
  expect(questions!.find(({ kind }) => kind === 'fades-less')).toMatchObject({ unit: 'K', smallest: 3, nth: 4 });
  await openStep(page, TITLES.airfield, 'verdict');
  await expect(page.getByRole('listitem').filter({ hasText: 'Quicker response' })).toContainText(/−0\.\d\d\ss/);
});
