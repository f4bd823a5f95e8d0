import type { Page } from '@playwright/test';
import { STEP_NAMES } from '../web/src/model/step-names.js';
import { expect, goTo, programmeId, test, TITLES } from './support.js';

// A view that is reached by links says what it says to somebody who opens it from outside, whatever stood there before.

/** What a view says once nothing of it changes any more, without clocks that go on. What is below may wait to be seen. */
async function said(page: Page): Promise<string> {
  let before = '';
  let same = 0;
  await expect
    .poll(
      async () => {
        const now = (await page.locator('main').innerText()).replace(/\d+(:\d{2})+/g, '·');
        const isAwaited = /Reading the programme|as soon as the measured power is there|being tried|[Jj]udging every|being judged/.test(
          now,
        );
        const isBusy = (await page.locator('main h1').count()) === 0 || (await page.locator('main [aria-busy="true"]').count()) > 0;
        same = now === before && !isAwaited && !isBusy ? same + 1 : 0;
        before = now;
        return same;
      },
      { intervals: [300], timeout: 40_000 },
    )
    .toBe(2);
  return before;
}

test('every step says the same by links as from outside: in a row, back, and after the same step of another programme', async ({
  page,
}) => {
  test.slow();
  const [airbox, cooler] = [await programmeId(page, TITLES.airbox), await programmeId(page, TITLES.cooler)];
  const at = (id: string, step: string) => `/programmes/${id}/${step}`;
  const outside = new Map<string, string>();
  for (const step of STEP_NAMES) {
    await page.goto(at(airbox, step));
    outside.set(step, await said(page));
  }
  for (const step of STEP_NAMES) expect(outside.get(step)!.length, step).toBeGreaterThan(60);
  for (const step of STEP_NAMES) {
    await goTo(page, at(cooler, step));
    const other = await said(page);
    expect(other, `${step} of the cooler`).not.toBe(outside.get(step));
    await goTo(page, at(airbox, step));
    expect(await said(page), `${step} after that of the cooler`).toBe(outside.get(step));
  }
  for (const step of STEP_NAMES.toReversed()) {
    await goTo(page, at(airbox, step));
    expect(await said(page), `${step} from behind`).toBe(outside.get(step));
  }
  await page.goBack();
  expect(await said(page), 'one back').toBe(outside.get(STEP_NAMES[1]!));
});
