import js from '@eslint/js';
import prettier from 'eslint-config-prettier/flat';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';

const FRAMEWORKS = ['vue', 'vue-router', 'pinia', 'primevue', 'primevue/*', 'koa', '@koa/*', 'typeorm', 'better-sqlite3', 'plotly.js*'];
const OUTSIDE_CORE = {
  patterns: [
    { group: ['node:*', ...FRAMEWORKS], message: 'The core computes only: no framework, no database, no Node.' },
    { group: ['fs', 'path', 'os', 'crypto', 'zlib', 'worker_threads', 'child_process', 'buffer'], message: 'The core knows no Node.' },
    { group: ['@gezeit/server*', '@gezeit/web*', '**/server/**', '**/web/**'], message: 'Imports point from the edges to the core.' },
  ],
};
const DOM_AND_NODE = [
  'window',
  'document',
  'navigator',
  'localStorage',
  'fetch',
  'XMLHttpRequest',
  'Worker',
  'self',
  'process',
  'Buffer',
  'require',
  'global',
  'setTimeout',
  'setInterval',
  'performance',
];

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'reports/**', 'test-results/**', 'playwright-report/**'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    files: ['**/*.{ts,vue}'],
    rules: { 'no-undef': 'off', '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }] },
  },
  { files: ['**/*.vue'], rules: { 'vue/multi-word-component-names': 'off' } },
  {
    files: ['**/*.{js,mjs}'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly', URL: 'readonly' } },
  },
  {
    files: ['core/src/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', OUTSIDE_CORE],
      'no-restricted-globals': ['error', ...DOM_AND_NODE],
      'no-restricted-syntax': [
        'error',
        { selector: "MemberExpression[object.name='Math'][property.name='random']", message: 'Take a seeded generator.' },
        { selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']", message: 'The core reads no clock.' },
        { selector: 'NewExpression[callee.name=Date][arguments.length=0]', message: 'The core reads no clock.' },
      ],
    },
  },
  prettier,
);
