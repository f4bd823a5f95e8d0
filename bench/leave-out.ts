// From the key that leaves a pull out to the new sentence, and from there to the new curves, in the browser on the airbox demo. Needs a build.
import { rmSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { seededFolder } from '../e2e/seed.mjs';
import { served } from '../e2e/served.js';
import { fixedCalculationMs } from './fixed-calculation.js';
import { median } from '../core/src/numeric/means.js';

const PULLS = ['p05', 'p06', 'p07', 'p09', 'p10'];
const ROUNDS = 3;

interface Moments {
  key?: number;
  sentence?: number;
  curves?: number;
  /** Resolves with the last of them: a look at every frame would have the page draw frames for it. */
  all?: Promise<void>;
}

/** In the page: notes the key, the first paint of a new sentence, and the first drawing of new curves. */
function watchMoments(): void {
  const moments: Moments = ((window as unknown as { moments: Moments }).moments = {});
  const before = document.querySelector('p.why')?.textContent;
  let end = () => {};
  moments.all = new Promise((resolve) => (end = resolve));
  window.addEventListener('keydown', ({ key }) => key === 'Enter' && (moments.key ??= performance.now()), { capture: true });
  const look = () => {
    const now = document.querySelector('p.why')?.textContent;
    if (moments.sentence === undefined && now !== before && now?.includes('counted')) moments.sentence = performance.now();
    if (moments.sentence !== undefined && document.querySelector('.curves')?.getAttribute('aria-busy') === 'false')
      moments.curves ??= performance.now();
    if (moments.curves !== undefined) end();
  };
  new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true, attributes: true });
}

const data = await seededFolder();
const server = await served(data);
const browser = await chromium.launch({
  executablePath: process.env['GEZEIT_CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'BB', name: 'Bench' })));
  // The runner that strips the types names functions by a helper, which the page has not.
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.goto(server.address);
  await page.getByRole('link', { name: /Sealed airbox/ }).click();
  await page.waitForURL(/verdict/);
  await page.goto(`${page.url()}?pull=${PULLS[0]}`);
  const found: Required<Moments>[] = [];
  for (const [round, pull] of Array.from({ length: ROUNDS }, (_, i) => PULLS.map((id) => [i, id] as const)).flat()) {
    for (let at = ''; at !== pull; at = new URL(page.url()).searchParams.get('pull') ?? '') {
      const key = (new URL(page.url()).searchParams.get('pull') ?? '') > pull ? 'ArrowLeft' : 'ArrowRight';
      if (new URL(page.url()).searchParams.get('pull') !== pull) await page.keyboard.press(key);
      await pause(100);
    }
    await page.locator('.curves[aria-busy=false] .js-plotly-plot').waitFor();
    await pause(800);
    const before = (await page.locator('p.why').textContent())!;
    await page.keyboard.press('x');
    await page.getByRole('dialog').getByRole('textbox').waitFor();
    await page.keyboard.type(`round ${round}, for ${pull}`);
    await page.evaluate(watchMoments);
    await page.keyboard.press('Enter');
    await page.evaluate(() => (window as unknown as { moments: Moments }).moments.all);
    found.push(await page.evaluate(() => ({ ...(window as unknown as { moments: Required<Moments> }).moments, all: Promise.resolve() })));
    await page.getByRole('dialog').waitFor({ state: 'hidden' });
    await page.keyboard.press('z');
    await page.locator('p.why', { hasText: before }).waitFor();
  }
  const sentences = found.map(({ key, sentence }) => sentence - key);
  const curves = found.map(({ sentence, curves: drawn }) => drawn - sentence);
  const show = (values: number[]) =>
    `median ${median(values).toFixed(0)} ms (${Math.min(...values).toFixed(0)} to ${Math.max(...values).toFixed(0)})`;
  console.log(`key to sentence: ${show(sentences)}; sentence to curves: ${show(curves)}; of ${found.length}`);
  console.log(`fixed calculation in the same run: ${fixedCalculationMs().toFixed(0)} ms`);
} finally {
  await browser.close();
  await server.stop();
  rmSync(data, { recursive: true });
}
