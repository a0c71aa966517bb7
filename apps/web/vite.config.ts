import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true })],
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  // `npm run dev`: the server behind the page; the host stays the page's own, as its writes are judged by it.
  server: {
    proxy: { '/api': { target: process.env['CALM_LOOP_API'] ?? 'http://127.0.0.1:8420', changeOrigin: false } },
  },
})
