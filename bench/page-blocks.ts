// How long the page is blocked at most while 100 MB of CSV are dropped, read and kept, and its verdict is drawn. Needs a build.
// npm run bench:page-blocks -- [megabytes]
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { seededFolder } from '../e2e/seed.mjs';
import { served } from '../e2e/served.js';
import { bigLog } from './big-log.js';
import { fixedCalculationMs } from './fixed-calculation.js';

const megabytes = Number(process.argv[2] ?? 100);

interface Block {
  ms: number;
  during: string;
}

const folder = mkdtempSync(join(tmpdir(), 'gezeit-blocks-'));
const file = join(folder, 'day.csv');
writeFileSync(file, bigLog(megabytes));
const data = await seededFolder();
const server = await served(data);
const browser = await chromium.launch({
  executablePath: process.env['GEZEIT_CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'BB', name: 'Bench' })));
  await page.addInitScript(() => {
    const seen: { ms: number; during: string }[] = ((window as unknown as { blocks: unknown }).blocks = []);
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) seen.push({ ms: duration, during: location.pathname.split('/').pop() ?? '' });
    }).observe({ type: 'longtask', buffered: true });
  });
  await page.goto(server.address);
  await page.getByRole('button', { name: 'Bring files in' }).first().click();
  await pause(1000);
  // What the page took to open is not what the files take.
  await page.evaluate(() => void ((window as unknown as { blocks: unknown[] }).blocks.length = 0));
  await page.locator('[data-test=pick-files]').setInputFiles(file);
  await page.getByRole('heading', { name: 'Sort what was dropped' }).waitFor();
  await page.locator('[data-post]').first().waitFor({ timeout: 120_000 });
  const sortedMs = await page.evaluate(() => performance.now());
  await page.getByRole('button', { name: /^Keep \d+ pulls/ }).click();
  await page.waitForURL(/verdict|question|logs/, { timeout: 120_000 });
  await pause(3000);
  const blocks = await page.evaluate(() => (window as unknown as { blocks: Block[] }).blocks);
  const longest = blocks.toSorted((a, b) => b.ms - a.ms).slice(0, 5);
  console.log(`${megabytes} MB: sorted ${(sortedMs / 1000).toFixed(1)} s after the page was opened`);
  console.log(`longest blocks: ${longest.map(({ ms, during }) => `${ms.toFixed(0)} ms (${during})`).join(', ') || 'none over 50 ms'}`);
  console.log(`fixed calculation in the same run: ${fixedCalculationMs().toFixed(1)} ms`);
} finally {
  await browser.close();
  await server.stop();
  for (const made of [folder, data]) rmSync(made, { recursive: true });
}
