import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

// Components, whose markup oxlint does not read; all other code is in .oxlintrc.json.
export default ts.config(
  js.configs.recommended,
  ...ts.configs.strict,
  ...svelte.configs.recommended,
  {
    // No rule reads JSDoc.
    languageOptions: {
      globals: { ...globals.browser, ...globals.node },
      parserOptions: { jsDocParsingMode: 'none' },
    },
    rules: {
      'no-undef': 'off',
      // Code is wrapped by the formatter; comments are not.
      'max-len': ['error', { code: 1000, comments: 120, ignoreUrls: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // An index that is out of range is ruled out by the loop or by the schema in these places.
      '@typescript-eslint/no-non-null-assertion': 'off',
      // The application is always served at the root of its own port.
      'svelte/no-navigation-without-resolve': 'off',
    },
  },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser } } },
);
