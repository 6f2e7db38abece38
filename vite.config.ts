import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'

export default defineConfig({
  plugins: [
    vue(),
    VitePWA({
      // The worker is ours; the plugin builds it and writes down what it keeps.
      strategies: 'injectManifest',
      srcDir: 'src/workers',
      filename: 'service-worker.ts',
      injectRegister: false,
      injectManifest: {
        globPatterns: ['**/*.{js,css,html,svg,png,woff2,wasm}'],
        // The second engine is kept once it was needed.
        globIgnores: ['**/ffmpeg-core*'],
        maximumFileSizeToCacheInBytes: 4e6,
      },
      manifest: {
        name: 'Yard Tally',
        short_name: 'Yard Tally',
        description: 'Choose the frame size, rate and scan of a film project with every price on the table',
        display: 'standalone',
        start_url: '/',
        background_color: '#F6F3EB',
        theme_color: '#F6F3EB',
        icons: [
          { src: '/mark-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/mark-512.png', sizes: '512x512', type: 'image/png', purpose: 'any' },
          { src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' },
        ],
      },
    }),
  ],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': 'http://127.0.0.1:4173' } },
})
