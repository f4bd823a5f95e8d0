import js from '@eslint/js';
import prettier from 'eslint-config-prettier/flat';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';

// Components alone: their templates are read by no other linter. Everything else is oxlint's (.oxlintrc.json), at a fiftieth of the time.
export default tseslint.config(
  { ignores: ['**/*.{js,mjs,ts}'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      'vue/multi-word-component-names': 'off',
    },
  },
  prettier,
);
