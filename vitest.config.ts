import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'
import { saidTemplates } from './scripts/said-templates.ts'

export default defineConfig({
  plugins: [vue({ template: { compilerOptions: { nodeTransforms: [saidTemplates()] } } })],
  test: {
    include: ['{src,server,cli,demo,fixtures,scripts}/**/*.test.ts'],
    testTimeout: 40_000,
    // By default one core stays idle, which of two is half.
    maxWorkers: availableParallelism(),
  },
})
