import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  {
    ignores: [
      '**/build/',
      '**/build-setup/',
      '**/dist/',
      '**/.svelte-kit/',
      '**/node_modules/',
      'test-results/',
    ],
  },
  js.configs.recommended,
  ...ts.configs.strict,
  ...svelte.configs.recommended,
  {
    // No rule reads JSDoc.
    languageOptions: { globals: globals.node, parserOptions: { jsDocParsingMode: 'none' } },
    rules: {
      'no-undef': 'off',
      // Code is wrapped by prettier; comments are not.
      'max-len': ['error', { code: 1000, comments: 120, ignoreUrls: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  { files: ['apps/web/**'], languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  {
    files: ['apps/web/**'],
    rules: {
      // The application is always served at the root of its own port.
      'svelte/no-navigation-without-resolve': 'off',
    },
  },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    // An index that is out of range is ruled out by the loop or by the schema in these places.
    files: ['**/*.test.ts', 'packages/**', 'apps/**', 'launch/**', 'e2e/**', 'bench/**'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
);
