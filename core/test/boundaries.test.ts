import { execFile } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));

const MODULES = [
  'vue',
  'koa',
  'typeorm',
  'pinia',
  'node:fs',
  'fs',
  'better-sqlite3',
  'plotly.js-cartesian-dist-min',
  '@gezeit/server',
  '../../web/src/app/theme.js',
];
const GLOBALS = ['window', 'document', 'process', 'Buffer', 'fetch', 'localStorage', 'setTimeout'];
const CALLS = { 'Math.random()': 'no-restricted-properties', 'Date.now()': 'no-restricted-properties', 'new Date()': 'no-clock' };

const CASES = [
  ...MODULES.map((name) => ({ name, code: `import x from '${name}';\nexport const y = x;\n` })),
  ...[...GLOBALS, ...Object.keys(CALLS), 'new Date(0)'].map((name) => ({ name, code: `export const y = ${name};\n` })),
];
/** What the linter reports, as far as it is read here. */
interface Report {
  diagnostics: { code: string; filename: string }[];
}

let folder: string;
/** The rules that are broken by each case, where it stands in the core and where it stands in the server. */
const broken = { core: new Map<string, string[]>(), server: new Map<string, string[]>() };

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'gezeit-lint-'));
  for (const file of ['.oxlintrc.json', 'scripts/lint-core.mjs']) cpSync(join(root, file), join(folder, file), { recursive: true });
  for (const place of ['core/src/judge', 'server/src']) {
    mkdirSync(join(folder, place), { recursive: true });
    for (const [at, { code }] of CASES.entries()) writeFileSync(join(folder, place, `${at}.ts`), code);
  }
  // It ends with 1 since rules are broken.
  const said = await new Promise<string>((resolve) => {
    execFile(join(root, 'node_modules/.bin/oxlint'), ['--format', 'json'], { cwd: folder }, (_error, stdout) => resolve(stdout));
  });
  for (const { code, filename } of (JSON.parse(said) as Report).diagnostics) {
    const { name } = CASES[Number(basename(filename, '.ts'))]!;
    const place = dirname(filename).startsWith('core') ? broken.core : broken.server;
    place.set(name, [...(place.get(name) ?? []), /\((.+)\)/.exec(code)?.[1] ?? code]);
  }
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the lint rules that keep the core by itself', () => {
  it.each(MODULES)('refuse %s in core/src', (name) => {
    expect(broken.core.get(name)).toEqual(['no-restricted-imports']);
  });

  it.each(GLOBALS)('refuse the global %s in core/src', (name) => {
    expect(broken.core.get(name)).toEqual(['no-restricted-globals']);
  });

  it.each(Object.entries(CALLS))('refuse %s in core/src', (name, rule) => {
    expect(broken.core.get(name)).toEqual([rule]);
  });

  it('refuse nothing else there, and nothing of it in server/src', () => {
    expect(broken.core.get('new Date(0)')).toBeUndefined();
    expect([...broken.server]).toEqual([]);
  });
});
