import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { compression, defineAlgorithm } from 'vite-plugin-compression2'
import { VitePWA } from 'vite-plugin-pwa'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  plugins: [
    vue(),
    vuetify({ autoImport: true }),
    // Compressed once, here, and not at each request.
    compression({
      include: /\.(js|css|html|svg|json|wasm)$/,
      threshold: 1024,
      algorithms: [defineAlgorithm('brotliCompress'), defineAlgorithm('gzip')],
    }),
    // Everything that a page out of coverage may need is fetched once; an update waits until somebody takes it.
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Calm Loop',
        short_name: 'Calm Loop',
        description: 'Working companion for process instrumentation technicians',
        start_url: '/loops',
        display: 'standalone',
        background_color: '#f7f4ec',
        theme_color: '#f7f4ec',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,woff2,svg}'],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/(healthz|readyz)$/],
      },
    }),
  ],
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  // `npm run dev`: the server behind the page; the host stays the page's own, as its writes are judged by it.
  server: {
    proxy: { '/api': { target: process.env['CALM_LOOP_API'] ?? 'http://127.0.0.1:8420', changeOrigin: false } },
  },
})
