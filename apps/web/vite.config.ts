import vue from '@vitejs/plugin-vue'
import { createReadStream, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { basename, join } from 'node:path'
import { defineConfig, type Plugin } from 'vite'
import { compression, defineAlgorithm } from 'vite-plugin-compression2'
import { VitePWA } from 'vite-plugin-pwa'
import vuetify from 'vite-plugin-vuetify'

/** What reads letters, and what it was trained with: served by us under names that do not change. */
const found = createRequire(import.meta.url).resolve
const core = (name: string) => found(`tesseract.js-core/${name}`)
const READING = [
  found('tesseract.js/dist/worker.min.js'),
  ...['', '-simd', '-relaxedsimd'].map((how) => core(`tesseract-core${how}-lstm.wasm.js`)),
  join(found('@tesseract.js-data/eng/package.json'), '../4.0.0_best_int/eng.traineddata.gz'),
]
const reading: Plugin = {
  name: 'reading',
  generateBundle() {
    for (const file of READING)
      this.emitFile({ type: 'asset', fileName: `reading/${basename(file)}`, source: readFileSync(file) })
  },
  configureServer(server) {
    server.middlewares.use('/reading', (req, res, next) => {
      const file = READING.find((f) => basename(f) === basename(req.url ?? ''))
      if (!file) return next()
      if (file.endsWith('.js')) res.setHeader('content-type', 'text/javascript')
      createReadStream(file).pipe(res)
    })
  },
}

export default defineConfig({
  plugins: [
    vue(),
    reading,
    vuetify({ autoImport: true }),
    // Compressed once, here, and not at each request.
    compression({
      include: /\.(js|css|html|svg|json|wasm)$/,
      exclude: /^reading\//,
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
        // Large, and wanted by few: kept once somebody has read a plate.
        globIgnores: ['reading/**'],
        runtimeCaching: [{ urlPattern: /\/reading\/[^/]+$/, handler: 'CacheFirst', options: { cacheName: 'reading' } }],
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
