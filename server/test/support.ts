import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import { importStateSchema, type ImportState } from '@gezeit/contract';
import type { Serving } from '../src/serve.js';
import type { Threads } from '../src/work/threads.js';

export const DEMO_BUNDLES = fileURLToPath(new URL('../../demo/bundles', import.meta.url));
export const PERSON = { 'x-gezeit-person': encodeURIComponent('TS Test Suite') };

/** Threads that served a server that has closed: the next one finds them warm, and nothing of what they knew. */
const idle: Threads[] = [];

/** A server on a free port with a data folder of its own. */
export async function startServer(folder = temporaryFolder()): Promise<Serving & { folder: string }> {
  // Read by those who start one: others only ask a server that is built.
  const [{ serve }, { startThreads }, { default: pino }] = await Promise.all([
    import('../src/serve.js'),
    import('../src/work/threads.js'),
    import('pino'),
  ]);
  const threads = idle.pop() ?? startThreads();
  const serving = await serve({
    folder,
    port: 0,
    pages: null,
    version: 'test',
    log: pino({ level: process.env['GEZEIT_LOG'] ?? 'silent' }),
    threads,
  });
  const close = async () => {
    await serving.close();
    idle.push(threads);
  };
  return { ...serving, close, folder };
}

/** Folders to be gone with the process. */
const temporary: string[] = [];
process.once('exit', () => temporary.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-test-'));
  temporary.push(folder);
  return folder;
}

/** Files of a folder by their path in it. */
export function filesOf(folder: string): Map<string, Buffer> {
  const entries = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  return new Map(
    entries.map((entry) => [
      relative(folder, join(entry.parentPath, entry.name)).split(sep).join('/'),
      readFileSync(join(entry.parentPath, entry.name)),
    ]),
  );
}

/** Multipart form of a bundle's files. */
export function formOf(files: ReadonlyMap<string, Uint8Array>): FormData {
  const form = new FormData();
  for (const [path, bytes] of files) form.append(path, new Blob([new Uint8Array(bytes)]), path.split('/').at(-1));
  return form;
}

export async function startImport(address: string, files: ReadonlyMap<string, Uint8Array>): Promise<ImportState> {
  return sendForm(address, formOf(files));
}

/** Sends a form that is built already. */
export async function sendForm(address: string, form: FormData): Promise<ImportState> {
  const response = await fetch(`${address}api/imports`, { method: 'POST', headers: PERSON, body: form });
  return importStateSchema.parse(await response.json());
}

/** Follows an import's events until it ends or waits for a choice. */
export async function followImport(address: string, id: string): Promise<ImportState[]> {
  const response = await fetch(`${address}api/imports/${id}/events`);
  const states: ImportState[] = [];
  let text = '';
  const decoder = new TextDecoder();
  for await (const chunk of response.body!) {
    text += decoder.decode(chunk as Uint8Array, { stream: true });
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const line = text.slice(0, end);
      text = text.slice(end + 2);
      if (line.startsWith('data: ')) states.push(importStateSchema.parse(JSON.parse(line.slice(6))));
    }
  }
  return states;
}

/** Imports to the end. */
export async function importAll(address: string, files: ReadonlyMap<string, Uint8Array>): Promise<NonNullable<ImportState['outcome']>> {
  const { id } = await startImport(address, files);
  return (await followImport(address, id)).at(-1)!.outcome!;
}

/** A piece of evidence as a screen would send it. */
export function evidenceOfTest(id: string) {
  return {
    format: 'gezeit-evidence',
    version: 1,
    id,
    instrument: 'flow-bench',
    title: 'Stock duct on the flow bench',
    sentence: 'Effective area 21.4 cm².',
    setup: 'A',
    section: 'duct',
    inputs: { depression: 6972, flows: [0.1, 0.101], rows: [{ part: 'duct', flow: 0.1 }] },
    figures: [{ name: 'area', label: 'Effective area', value: 21.4e-4, unit: 'm²', low: 21.1e-4, high: 21.7e-4 }],
    warnings: [],
    formulas: ['e2'],
    assumptions: [],
    note: 'read twice',
  };
}
