/**
 * Looks for tests that do not bite: `npm run mutants`, by hand and now and then, never in `npm test`. A share of killed mutants
 * of 90 % over all and of 85 % in each room is what we keep to.
 * @type {import('@stryker-mutator/core').PartialStrykerOptions}
 */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutants.config.ts', related: false },
  plugins: ['@stryker-mutator/vitest-runner'],
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 10_000,
  mutate: [
    'src/core/{choice,toll,edit,check,motion,framing,format,exchange,picture,treatment,words}/**/*.ts',
    '!src/core/**/*.test.ts',
    '!src/core/**/*.fixture.ts',
  ],
  // Sandboxes hold what the tests of the core read, and no more.
  ignorePatterns: [
    'dist',
    'test-results',
    'docs',
    'demo/clips',
    'fixtures/files',
    'e2e',
    'bench',
    'server',
    'public',
    '*.log',
  ],
  thresholds: { high: 95, low: 90, break: null },
  reporters: ['json'],
  jsonReporter: { fileName: 'test-results/mutants.json' },
  tempDirName: 'test-results/mutated',
  cleanTempDir: 'always',
}
