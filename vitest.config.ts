import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: {
    include: ['{src,server,cli,test,tools}/**/*.test.ts'],
    setupFiles: ['test/setup/page.ts'],
    testTimeout: 40_000,
    // By default one core stays idle, which of two is half.
    maxWorkers: availableParallelism(),
  },
})
