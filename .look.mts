import { chromium } from '@playwright/test';
const [out, title, path = 'verdict', height = '800', theme = 'light', y = '0', width = '1280'] = process.argv.slice(2);
const list = (await (await fetch('http://127.0.0.1:4999/api/programmes')).json()).programmes;
const id = list.find((p: {title: string}) => p.title.startsWith(title)).id;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const page = await browser.newPage({ viewport: { width: Number(width), height: Number(height) } });
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
await page.addInitScript((t) => { localStorage.setItem('gezeit.person', '{"initials":"EB","name":"Edda Brand"}'); localStorage.setItem('gezeit.theme', t); }, theme);
await page.goto(`http://127.0.0.1:4999/programmes/${id}/${path}`);
await page.waitForSelector('[data-chart="levelling"]', { timeout: 20000 }).catch(() => console.log('no levelling'));
await page.waitForSelector('[data-chart="choices"]', { timeout: 20000 }).catch(() => console.log('no choices'));
await page.waitForTimeout(1500);
if (Number(y) > 0) { await page.mouse.move(600, 500); await page.mouse.wheel(0, Number(y)); await page.waitForTimeout(600); }
await page.screenshot({ path: out, fullPage: height === 'full' });
await browser.close();
