/**
 * Mutants that change nothing that can be seen: by the line that they are in, how they change it, and why. They count neither
 * as killed nor as alive.
 */
export const changesNothing = [
  {
    line: /1e-\d+|\b(dust|rounding|tolerance)\b/,
    mutator: 'EqualityOperator',
    why: 'Whether a value that lies exactly at a tolerance for rounding counts as within it: no figure comes to lie there.',
  },
  {
    line: /n\.toFixed\(n < 10|value >= 10 \|\| Number\.isInteger|seconds < 10 \? upTo/,
    mutator: 'EqualityOperator',
    why: 'Ten is a whole number, and worded the same on both sides.',
  },
  {
    line: /^if \(!(toll|out)\)|^if \(key === undefined\)/,
    mutator: 'ConditionalExpression',
    replacement: 'true',
    why: 'What is known already is only worked out again, to the same.',
  },
  {
    line: /\b(present|assert)\(/,
    mutator: 'StringLiteral',
    why: 'The sentence of an assertion about what our own types promise: it is never said.',
  },
  {
    line: /\? \(?-1 : 1\)?|nameOf\(a\.format\) </,
    mutator: 'EqualityOperator',
    why: 'Two formats or values of one name are one, and are never compared with themselves.',
  },
]

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
    'src/core/{choice,toll,model,plan,edit,stored,inspect,check,motion,framing,format,exchange,picture,treatment,words}/**/*.ts',
    '!src/core/**/*.test.ts',
    '!src/core/**/*.fixture.ts',
  ],
  // Sandboxes hold what the tests of the core read, and no more.
  ignorePatterns: [
    'dist',
    'test-results',
    'docs',
    'tools/demo/clips',
    'test/fixtures/files',
    'test/e2e',
    'test/bench',
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
