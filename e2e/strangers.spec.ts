import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { bundleSchema } from '@gezeit/contract';
import { ROOT } from './seed.mjs';
import { expect, test } from './support.js';

const AIRBOX = join(ROOT, 'demo/bundles/sealed-airbox');
/** Markup that would run, and a name that has no place to be broken. */
const HOSTILE = `<img src=x onerror="globalThis.ran=1"><script>globalThis.ran=2</script>${'N'.repeat(110)}`;
/** What refers to something, or is one of a few: another text there would be another bundle. */
const REFERENCES = new Set(
  'id setup file device section reference candidate day startedAt at unit kind instrument evidence from to part line'.split(' '),
);
const PATHS = [
  'question',
  'bench',
  'plan',
  'day',
  'logs?pull=p02',
  'verdict?pull=p02',
  'sheet?fixed=fixed-1',
  ...['every', 'beside', 'bench', 'public'].map((version) => `sheet?version=${version}`),
];

/** The airbox demo with markup in every text that may be any text. */
function hostileBundle(): { description: unknown; changed: number } {
  const description = JSON.parse(readFileSync(join(AIRBOX, 'gezeit.json'), 'utf8')) as Record<string, unknown>;
  let changed = 0;
  const visit = (holder: Record<string, unknown>) => {
    for (const [key, value] of Object.entries(holder)) {
      if (typeof value === 'object' && value !== null) visit(value as Record<string, unknown>);
      if (typeof value !== 'string' || REFERENCES.has(key)) continue;
      holder[key] = HOSTILE;
      if (bundleSchema.safeParse(description).success) changed += 1;
      else holder[key] = value;
    }
  };
  visit(description);
  return { description, changed };
}

test('markup in every text of a programme runs nowhere, and no name is so long that a view is wider than its window', async ({
  page,
  server: address,
}) => {
  test.setTimeout(120_000);
  let programmeId = '';
  try {
    const { description, changed } = hostileBundle();
    expect(changed).toBeGreaterThan(30);
    const multipart = new FormData();
    multipart.append('gezeit.json', new Blob([JSON.stringify(description)]), 'gezeit.json');
    for (const entry of readdirSync(AIRBOX, { recursive: true, withFileTypes: true })) {
      const path = join(entry.parentPath, entry.name);
      if (entry.isFile() && entry.name !== 'gezeit.json')
        multipart.append(relative(AIRBOX, path), new Blob([readFileSync(path)]), entry.name);
    }
    const headers = { 'x-gezeit-person': encodeURIComponent(HOSTILE.slice(0, 100)) };
    const { id: job } = (await (await fetch(`${address}/api/imports`, { method: 'POST', headers, body: multipart })).json()) as {
      id: string;
    };
    type Ended = { outcome: { kind: string; programmeId: string; error?: unknown } | null };
    const state = async () => (await (await fetch(`${address}/api/imports/${job}`)).json()) as Ended;
    await expect.poll(async () => (await state()).outcome?.kind, { timeout: 30_000 }).toBe('imported');
    ({ programmeId } = (await state()).outcome!);
    // A pull left out by somebody, and answers fixed: both stand on a view with the time at which it was.
    const json = { ...headers, 'content-type': 'application/json' };
    const change = async (method: string, path: string, body: object) => {
      const answer = await fetch(`${address}/api/programmes/${programmeId}${path}`, { method, headers: json, body: JSON.stringify(body) });
      expect(answer.status, await answer.text()).toBe(200);
    };
    await change('PATCH', '/pulls/p04', { excluded: HOSTILE });
    await change('POST', '/fixed', { why: HOSTILE });
    for (const path of ['/', ...PATHS.map((view) => `/programmes/${programmeId}/${view}`)]) {
      await page.goto(`${address}${path}`);
      await expect(page.locator('h1')).toBeAttached();
      await expect(page.locator('main [aria-busy="true"]')).toHaveCount(0);
      if (path.includes('/sheet')) await expect(page.locator('.paper').first()).toBeVisible();
      if (path.includes('/logs'))
        await expect(page.getByRole('region', { name: 'Pulls with their figures and flags' })).toContainText('history');
      for (const media of ['screen', 'print'] as const) {
        await page.emulateMedia({ media });
        const seen = await page.evaluate(() => ({
          ran: (globalThis as { ran?: number }).ran,
          made: document.querySelectorAll('img[src="x"]').length,
          wider: document.documentElement.scrollWidth - window.innerWidth,
        }));
        expect({ path, media, ...seen }).toEqual({ path, media, ran: undefined, made: 0, wider: expect.any(Number) });
        if (media === 'screen') expect(seen.wider, path).toBeLessThanOrEqual(0);
      }
    }
  } finally {
    // The board of this worker's other tests stays as it was.
    const put = { method: 'POST', headers: { 'x-gezeit-person': 'T', 'content-type': 'application/json' }, body: '{"archived":true}' };
    await fetch(`${address}/api/programmes/${programmeId}/archived`, put);
  }
});
