import { boardSchema } from '@gezeit/contract';
import { expect, test as base, type Page } from '@playwright/test';

/** Titles of the demo's programmes. */
export const TITLES = {
  airbox: 'Sealed airbox, Skudde estate',
  trumpets: 'Four inlet trumpets, Racka pick-up',
  cooler: 'Water-cooled charge cooler, Ouessant hatchback',
};

/** A page of somebody who has said who is working; it must not complain nor ask anything of another host. */
export const test = base.extend<{ page: Page }>({
  page: async ({ page, baseURL }, use) => {
    const complaints: string[] = [];
    page.on('console', (message) => {
      if (message.type() === 'error' && !/status of 4\d\d/.test(message.text())) complaints.push(message.text());
    });
    page.on('pageerror', (error) => complaints.push(error.message));
    page.on('request', (request) => {
      if (!/^(blob|data):/.test(request.url()) && !request.url().startsWith(baseURL!)) complaints.push(`asked ${request.url()}`);
    });
    await page.addInitScript(() => localStorage.setItem('gezeit.person', JSON.stringify({ initials: 'BT', name: 'Browser Test' })));
    await use(page);
    expect(complaints).toEqual([]);
  },
});
export { expect };

/** Address part of a demo programme. */
export async function programmeId(page: Page, title: string): Promise<string> {
  const board = boardSchema.parse(await (await page.request.get('/api/programmes')).json());
  const entry = board.programmes.find((programme) => programme.title === title);
  if (!entry) throw new Error(`${title} is not on the board`);
  return entry.id;
}

export async function openStep(page: Page, title: string, step: 'question' | 'logs' | 'verdict', query = ''): Promise<void> {
  await page.goto(`/programmes/${await programmeId(page, title)}/${step}${query}`);
  await expect(page.getByRole('navigation', { name: 'Steps of the programme' })).toBeVisible();
}

/** Names of the series that a Plotly chart shows. */
export async function seriesNames(page: Page, chart: string): Promise<string[]> {
  return page
    .locator(`[data-chart="${chart}"] .plot`)
    .evaluate((plot) => ((plot as unknown as { data?: { name?: string }[] }).data ?? []).map(({ name }) => name ?? ''));
}

/** Waits until a chart has drawn its series. */
export async function drawn(page: Page, chart: string): Promise<void> {
  await expect.poll(async () => (await seriesNames(page, chart)).filter(Boolean).length).toBeGreaterThan(0);
}
