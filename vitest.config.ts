import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: { include: ['{src,server,cli,demo,fixtures,scripts}/**/*.test.ts'], testTimeout: 20_000 },
})
