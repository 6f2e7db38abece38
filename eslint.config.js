import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

const typed = {
  projectService: true,
  tsconfigRootDir: import.meta.dirname,
  extraFileExtensions: ['.vue'],
}

export default ts.config(
  {
    ignores: [
      'test/fixtures/files',
      'dist',
      '.cache',
      'test-results',
      'playwright-report',
      'node_modules',
      '**/*.kernel.ts',
      '**/*.wasm.ts',
      'src/core/everywhere.d.ts',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.ts'],
    languageOptions: { parserOptions: typed },
  },
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { ...typed, parser: ts.parser } },
  },
  {
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      'no-undef': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // What does not fit into a screenful or a handful has a value or a subject hidden in it.
      'max-lines': ['error', { max: 400 }],
      'max-params': ['error', { max: 5 }],
    },
  },
  {
    // A row of a table of cases is as long as its case.
    files: ['**/*.test.ts'],
    rules: { 'max-params': ['error', { max: 9 }] },
  },
  {
    files: ['**/*.ts', '**/*.vue'],
    rules: {
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/await-thenable': 'error',
    },
  },
  {
    // What must be there is said with a sentence (core/assert), not with a mark.
    files: ['{src,cli,server}/**'],
    ignores: ['**/*.test.ts', '**/*.fixture.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    // In the core, the world outside does not exist: no page, no process, no clock, no chance.
    files: ['src/core/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['window', 'document', 'process', 'Buffer', 'fetch', 'performance', 'localStorage', 'crypto'],
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now' },
        { object: 'Math', property: 'random' },
      ],
    },
  },
  prettier,
)
