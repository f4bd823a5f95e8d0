// Takes the current picture of each main view from the demo data: npm run build && npm run screenshots
import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { boardSchema, stagedSchema } from '@gezeit/contract';
import { chromium } from '@playwright/test';
import { seededFolder } from './seed.mjs';
import { served } from './served.js';
import { choicesShown } from './support.js';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const SHOTS: { name: string; programme: number; path: string; theme: 'light' | 'dark'; to?: string }[] = [
  { name: 'programmes', programme: 0, path: '', theme: 'light' },
  { name: 'question', programme: 2, path: 'question', theme: 'light' },
  { name: 'bench', programme: 0, path: 'bench?section=duct', theme: 'light' },
  { name: 'bench-flow', programme: 0, path: 'bench?instrument=flow-bench&section=filter', theme: 'light' },
  { name: 'bench-cooler-dark', programme: 3, path: 'bench?instrument=cooler', theme: 'dark' },
  { name: 'plan', programme: 0, path: 'plan', theme: 'light' },
  { name: 'logs', programme: 0, path: 'logs?pull=p06', theme: 'light' },
  { name: 'logs-heat', programme: 0, path: 'logs?pull=p06', theme: 'light', to: 'heat' },
  { name: 'logs-step-dark', programme: 4, path: 'logs?pull=p05', theme: 'dark', to: 'restriction' },
  { name: 'logs-road', programme: 5, path: 'logs?pull=p02', theme: 'light', to: 'Road' },
  { name: 'logs-laps-dark', programme: 5, path: 'logs?pull=p13', theme: 'dark', to: 'Drives' },
  { name: 'logs-dark', programme: 1, path: 'logs?pull=p20&device=ecu', theme: 'dark' },
  { name: 'verdict', programme: 0, path: 'verdict?pull=p06', theme: 'light' },
  { name: 'verdict-withheld-dark', programme: 2, path: 'verdict', theme: 'dark' },
  { name: 'sheet', programme: 0, path: 'sheet', theme: 'light' },
];
const TITLES = ['Sealed airbox', 'Four inlet trumpets', 'Water-cooled', 'Water-to-air', 'Twin-mouth', 'Cold feed'];

const data = await seededFolder();
const server = await served(data);
const { address } = server;
const browser = await chromium.launch({
  executablePath: process.env['GEZEIT_CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  const { programmes } = boardSchema.parse(await (await fetch(`${address}/api/programmes`)).json());
  for (const { name, programme, path, theme, to } of SHOTS) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: theme, locale: 'en-GB' });
    await page.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'EA', name: '' })));
    const id = programmes.find(({ title }) => title.startsWith(TITLES[programme]!))!.id;
    await page.goto(path === '' ? address : `${address}/programmes/${id}/${path}`);
    await page.locator('h1').first().waitFor();
    await page.waitForFunction(() => document.querySelector('main [aria-busy="true"]') === null);
    if (path.startsWith('verdict')) {
      await choicesShown(page);
      await page.evaluate(() => scrollTo(0, 0));
    }
    if (to) await page.locator(`[data-chart="${to}"], [aria-label="${to}"]`).evaluate((part) => part.scrollIntoView({ block: 'start' }));
    await page.waitForTimeout(1500);
    await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
    await page.close();
  }
  await takeSort();
  await takeDay(programmes.find(({ title }) => title.startsWith(TITLES[3]!))!.id);
} finally {
  await browser.close();
  await server.stop();
  rmSync(data, { recursive: true });
}

/** The loose day of the demo, dropped and waiting to be sorted. */
async function takeSort(): Promise<void> {
  const folder = join(root, 'demo/loose');
  const form = new FormData();
  for (const file of readdirSync(folder)) form.append(file, new Blob([Uint8Array.from(readFileSync(join(folder, file)))]), file);
  const answer = await fetch(`${address}/api/staged?title=Loose%20day`, {
    method: 'POST',
    headers: { 'x-gezeit-person': 'EB' },
    body: form,
  });
  const { id } = stagedSchema.parse(await answer.json());
  for (const theme of ['light', 'dark'] as const) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: theme, locale: 'en-GB' });
    await page.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'EB', name: 'Elin Bora' })));
    await page.goto(`${address}/sort/${id}`);
    await page.locator('[data-post="p13"]').waitFor({ timeout: 60_000 });
    await page.locator('[data-post="p05"]').click();
    await page.waitForTimeout(1500);
    await page.screenshot({ path: join(root, `docs/screenshots/sort${theme === 'dark' ? '-dark' : ''}.png`) });
    await page.close();
  }
}

/** The coupe's day on the simulated rig, a swap and a few pulls in. */
async function takeDay(id: string): Promise<void> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light', locale: 'en-GB' });
  await page.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'EB', name: 'Elin Bora' })));
  await page.request.post(`${address}/api/programmes/${id}/day/devices`, {
    headers: { 'x-gezeit-person': 'EB' },
    data: { id: 'rig-1', kind: 'rig', speed: 60, follows: true, seed: 11, clockWrongS: 0 },
  });
  const says = (kind: string) => page.locator(`[data-instruction="${kind}"]`).waitFor({ timeout: 60_000 });
  const tick = async () => {
    for (const box of await page.getByRole('dialog').getByRole('checkbox').all()) if (!(await box.isChecked())) await box.check();
  };
  const driven = (count: number) => page.locator('header.line').getByText(`${count} of `).waitFor({ timeout: 60_000 });
  await page.goto(`${address}/programmes/${id}/day`);
  await says('begin');
  await page.locator('body').press('Enter');
  await says('check');
  await page.locator('body').press('Enter');
  await tick();
  await page.getByRole('button', { name: 'Done' }).click();
  await says('swap');
  await page.locator('body').press('s');
  await page.getByRole('dialog').getByRole('checkbox').first().waitFor();
  await tick();
  await page.getByRole('dialog').getByRole('button', { name: 'The swap begins' }).click();
  await page.waitForTimeout(15_000);
  await page.locator('body').press('s');
  await tick();
  await page.getByRole('radio', { name: 'No' }).check();
  await page.getByRole('button', { name: 'Swap done' }).last().click();
  await driven(6);
  await page.locator('[data-chart="day-says"]').waitFor();
  await says('wait');
  await page.waitForTimeout(2500);
  await page.screenshot({ path: join(root, 'docs/screenshots/day.png') });
  await page.setViewportSize({ width: 1920, height: 1080 });
  await page.getByRole('button', { name: 'Switch to the dark theme' }).click();
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(root, 'docs/screenshots/day-dark.png') });
  // Reduced to a quarter the instruction must still be read: looked at, not kept.
  const small = await browser.newPage({ viewport: { width: 480, height: 270 } });
  const picture = (await page.screenshot()).toString('base64');
  await small.setContent(`<body style="margin:0"><img src="data:image/png;base64,${picture}" style="width:480px"></body>`);
  if (process.env['GEZEIT_QUARTER']) await small.screenshot({ path: process.env['GEZEIT_QUARTER'] });
  await page.close();
}
