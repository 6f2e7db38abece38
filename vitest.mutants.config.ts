import { defineConfig } from 'vitest/config'

/** The tests that mutants of the core are tried against: those of the core, without the one that visits every timecode of a day. */
export default defineConfig({
  test: {
    include: ['src/core/**/*.test.ts'],
    exclude: [
      'src/core/rate/timecode.test.ts',
      'src/core/{reading,evidence,planes}/**/*.test.ts',
      'node_modules/**',
    ],
    testTimeout: 20_000,
  },
})
