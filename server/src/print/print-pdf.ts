import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { GezeitError } from '@gezeit/core';

const PLACES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/lib/chromium/chromium'];
const MOST_MS = 20_000;
/** One is printed at a time, and so many wait. */
const MOST_WAITING = 3;

/**
 * A page from outside must reach nothing: no script, no address but what stands in it. It is the first thing of the document, so that nothing
 * can stand before it; frames of files are refused by it too.
 */
const SEALED =
  '<!doctype html><meta http-equiv="Content-Security-Policy" content="default-src \'none\'; style-src \'unsafe-inline\'; font-src data:; img-src data:">';

/** The Chromium that is there; null where none is. */
export function chromiumPath(): string | null {
  const named = process.env['GEZEIT_CHROMIUM'];
  return (named ? [named] : PLACES).find((path) => existsSync(path)) ?? null;
}

let last: Promise<unknown> = Promise.resolve();
let waiting = 0;

/**
 * A page that stands by itself, as PDF on the paper that its `@page` rule says, by the Chromium of this machine.
 * @throws GezeitError `no-chromium`, `printer-busy`, `not-printed`.
 */
export async function printPdf(html: string): Promise<Buffer> {
  const chromium = chromiumPath();
  if (!chromium)
    throw unavailable('no-chromium', 'There is no Chromium on the machine that serves Gezeit.', 'Use Print: your browser makes the PDF.');
  if (waiting >= MOST_WAITING) throw unavailable('printer-busy', 'Other sheets are being printed.', 'Try again in a few seconds.');
  waiting += 1;
  const done = last.then(() => printed(chromium, html));
  last = done.catch(() => undefined);
  try {
    return await done;
  } finally {
    waiting -= 1;
  }
}

async function printed(chromium: string, html: string): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), 'gezeit-print-'));
  try {
    const [page, pdf] = [join(folder, 'sheet.html'), join(folder, 'sheet.pdf')];
    await writeFile(page, SEALED + html);
    await run(chromium, [
      '--headless',
      // Root has no sandbox to give; the page is sealed.
      ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
      '--disable-gpu',
      '--host-resolver-rules=MAP * ~NOTFOUND',
      `--user-data-dir=${join(folder, 'browser')}`,
      '--no-pdf-header-footer',
      `--print-to-pdf=${pdf}`,
      pathToFileURL(page).href,
    ]);
    return await readFile(pdf);
  } catch {
    throw unavailable('not-printed', 'Chromium could not print the sheet.', 'Use Print: your browser makes the PDF.');
  } finally {
    await rm(folder, { recursive: true, force: true, maxRetries: 3 }).catch(() => undefined);
  }
}

function run(command: string, args: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: 'ignore', timeout: MOST_MS, killSignal: 'SIGKILL' });
    child.once('error', reject);
    child.once('exit', (status) => (status === 0 ? resolve() : reject(new Error(`it ended with ${status}`))));
  });
}

const unavailable = (code: string, message: string, nextStep: string) => new GezeitError(code, message, nextStep, {}, 'unavailable');
