import { fileURLToPath } from 'node:url';
import { ESLint } from 'eslint';
import { describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
const eslint = new ESLint({ cwd: root });
const rulesBroken = async (code: string, path: string) => {
  const [result] = await eslint.lintText(code, { filePath: `${root}${path}` });
  return result!.messages.map(({ ruleId }) => ruleId);
};

describe('the lint rule that keeps the core by itself', () => {
  it.each([
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
  ])('refuses %s in core/src', async (name) => {
    const code = `import x from '${name}';\nexport const y = x;\n`;
    expect(await rulesBroken(code, 'core/src/judge/zz.ts')).toContain('no-restricted-imports');
    expect(await rulesBroken(code, 'server/src/zz.ts')).not.toContain('no-restricted-imports');
  });

  it.each(['window', 'document', 'process', 'Buffer', 'fetch', 'localStorage', 'setTimeout'])(
    'refuses the global %s in core/src',
    async (name) => {
      expect(await rulesBroken(`export const y = ${name};\n`, 'core/src/judge/zz.ts')).toContain('no-restricted-globals');
    },
  );

  it.each(['Math.random()', 'Date.now()', 'new Date()'])('refuses %s in core/src', async (call) => {
    expect(await rulesBroken(`export const y = ${call};\n`, 'core/src/judge/zz.ts')).toContain('no-restricted-syntax');
  });
});
