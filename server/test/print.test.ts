import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { chromiumPath, printPdf } from '../src/print/print-pdf.js';

const page = (body: string, rule = '@page { size: A4 }') => `<html><head><style>${rule}</style></head><body>${body}</body></html>`;
const boxesOf = (pdf: Buffer) =>
  [...pdf.toString('latin1').matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)].map(([, ...sides]) =>
    sides.map((side) => Math.round(Number(side))),
  );

/** The text of a PDF; null where nothing here can read one. */
function textOf(pdf: Buffer): string | null {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-test-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    const { status, stdout } = spawnSync('pdftotext', [join(folder, 'a.pdf'), '-'], { encoding: 'utf8' });
    return status === 0 ? stdout : null;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

// Chromium is there wherever the browser tests run; where it is not, printing says so, which the test of every route holds.
describe.runIf(chromiumPath() !== null)('a sheet printed by the server', { timeout: 60_000 }, () => {
  it('is on the paper that it names, with as many pages as it has', async () => {
    expect(boxesOf(await printPdf(page('one')))).toEqual([[595, 842]]);
    const two = await printPdf(page('<p>one</p><p style="break-before: page">two</p>', '@page { size: letter }'));
    expect(boxesOf(two)).toEqual([
      [612, 792],
      [612, 792],
    ]);
    const text = textOf(two);
    if (text !== null) expect(text.replace(/\s+/g, ' ').trim()).toBe('one two');
  });

  it('reaches nothing: no script, no address, no file of the machine', async () => {
    const asked: string[] = [];
    const server = createServer((request, response) => {
      asked.push(request.url ?? '');
      response.end('caught');
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const folder = mkdtempSync(join(tmpdir(), 'gezeit-test-'));
    try {
      writeFileSync(join(folder, 'secret.txt'), 'a secret of the machine');
      const away = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
      const body = [
        'plain',
        `<iframe src="file://${folder}/secret.txt"></iframe>`,
        `<object data="file://${folder}/secret.txt"></object>`,
        `<iframe src="${away}/frame"></iframe>`,
        `<img src="${away}/image">`,
        `<link rel="stylesheet" href="${away}/style">`,
        `<style>@import url(${away}/import); p { background: url(${away}/background) }</style><p>x</p>`,
        `<script src="${away}/script"></script><script>fetch('${away}/fetch'); document.body.textContent = 'run'</script>`,
        `<img src="x" onerror="document.body.textContent = 'run'">`,
      ].join('');
      const text = textOf(await printPdf(page(body)));
      expect(asked).toEqual([]);
      if (text !== null) {
        expect(text).toContain('plain');
        expect(text).not.toMatch(/secret|run|caught/);
      }
      // On a busy machine a page that leads away has left before it is printed: then there is none, and still nothing was reached.
      const leading = `plain<meta http-equiv="refresh" content="0; url=${away}/refresh">`;
      const printed = await printPdf(page(leading)).catch((error: unknown) => error);
      expect(asked).toEqual([]);
      if (Buffer.isBuffer(printed)) expect(textOf(printed) ?? 'plain').not.toContain('caught');
      else expect(printed).toMatchObject({ code: 'not-printed' });
    } finally {
      server.close();
      rmSync(folder, { recursive: true });
    }
  });

  it('comes one after the other, and says so where too many wait', async () => {
    const all = await Promise.allSettled(Array.from({ length: 6 }, () => printPdf(page('one'))));
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(3);
    for (const entry of all)
      if (entry.status === 'rejected')
        expect(entry.reason).toMatchObject({ code: 'printer-busy', nextStep: 'Try again in a few seconds.' });
    expect(boxesOf(await printPdf(page('again')))).toHaveLength(1);
  });

  it('says what to do instead where the Chromium that was named is none', async () => {
    const before = process.env['GEZEIT_CHROMIUM'];
    try {
      process.env['GEZEIT_CHROMIUM'] = '/nowhere/chromium';
      await expect(printPdf(page('x'))).rejects.toMatchObject({ code: 'no-chromium', nextStep: 'Use Print: your browser makes the PDF.' });
      process.env['GEZEIT_CHROMIUM'] = '/bin/false';
      await expect(printPdf(page('x'))).rejects.toMatchObject({ code: 'not-printed' });
    } finally {
      if (before === undefined) delete process.env['GEZEIT_CHROMIUM'];
      else process.env['GEZEIT_CHROMIUM'] = before;
    }
  });
});
