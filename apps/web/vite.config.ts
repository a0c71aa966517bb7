import vue from '@vitejs/plugin-vue'
import { defineConfig, type Plugin } from 'vite'
import vuetify from 'vite-plugin-vuetify'

/** What a route is for stands in the server's description of the interface; the page has no use for the words. */
const withoutSummaries: Plugin = {
  name: 'routes-without-summaries',
  apply: 'build',
  enforce: 'pre',
  transform(code, id) {
    if (!/packages\/contract\/src\/[a-z-]*routes\.ts$/.test(id)) return undefined
    return { code: code.replace(/^(\s*summary:\s*)'(?:[^'\\]|\\.)*',$/gm, "$1'',"), map: null }
  },
}

export default defineConfig({
  plugins: [withoutSummaries, vue(), vuetify({ autoImport: true })],
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  // `npm run dev`: the server behind the page; the host stays the page's own, as its writes are judged by it.
  server: {
    proxy: { '/api': { target: process.env['CALM_LOOP_API'] ?? 'http://127.0.0.1:8420', changeOrigin: false } },
  },
})
