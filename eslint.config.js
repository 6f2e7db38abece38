import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript'
import { importX } from 'eslint-plugin-import-x'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

/** The layers, from the ground up: each may import from itself and from those before it, never from those after it. */
const layers = ['core', 'media', 'storage', 'workers', 'stores', 'app']

const layerRules = layers.map((layer, i) => ({
  files: [`src/${layer}/**`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: `^(\\.\\./)+(${[...layers.slice(i + 1), '\\.\\./server', 'server', 'cli', 'demo', 'e2e'].join('|')})(/|$)`,
            message: `src/${layer} imports only from itself and from the layers below it.`,
          },
          ...(layer === 'core'
            ? [
                {
                  regex: '^(?!\\.{1,2}/|(zod|immer|fft\\.js|quickselect)$)',
                  message:
                    'src/core is pure: it imports nothing but itself, zod, immer for edits, and for measuring fft.js and quickselect.',
                },
              ]
            : []),
        ],
      },
    ],
  },
}))

/**
 * The rooms of the core, from the ground up: each may import from itself and from those before it. Rooms of one line are
 * neighbours that do not need each other.
 */
const rooms = [
  ['rational', 'words', 'kernel'],
  ['rate'],
  ['picture', 'planes'],
  ['evidence'],
  ['format', 'treatment'],
  ['reading'],
  ['framing', 'motion', 'resample', 'fields', 'sound'],
  ['compose', 'figure'],
  ['toll'],
  ['choice'],
  ['edit'],
  ['check'],
  ['dispatch'],
  ['exchange'],
  ['terms'],
  ['laws'],
]
const roomRules = rooms.flatMap((line, i) =>
  line.flatMap((room) => {
    const later = [...line.filter((other) => other !== room), ...rooms.slice(i + 1).flat()]
    if (later.length === 0) return []
    return {
      files: [`src/core/${room}/**`],
      ignores: ['**/*.test.ts', '**/*.fixture.ts'],
      rules: {
        'import-x/no-restricted-paths': [
          'error',
          {
            zones: later.map((other) => ({
              target: `./src/core/${room}`,
              from: `./src/core/${other}`,
              message: `core/${room} stands below core/${other}: arrows point one way.`,
            })),
          },
        ],
      },
    }
  }),
)

export default ts.config(
  {
    ignores: [
      'fixtures/files',
      'dist',
      '.cache',
      'test-results',
      'playwright-report',
      'node_modules',
      'kernels',
      '**/*.wasm.ts',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      'no-undef': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    plugins: { 'import-x': importX },
    settings: { 'import-x/resolver-next': [createTypeScriptImportResolver()] },
    rules: {
      // Types too: rooms that need each other's shapes are one room.
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
      'import-x/no-self-import': 'error',
    },
  },
  {
    // What must be there is said with a sentence (core/assert), not with a mark.
    files: ['{src,cli,server}/**'],
    ignores: ['**/*.test.ts', '**/*.fixture.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: ['{src,cli,server}/**'],
    rules: { 'max-lines': ['error', { max: 400 }] },
  },
  ...layerRules,
  ...roomRules,
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
  {
    files: ['src/core/**/*.test.ts', 'src/core/**/*.fixture.ts'],
    rules: { 'no-restricted-imports': 'off' },
  },
  prettier,
)
