import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', include: ['packages/*/src/**/*.test.ts', 'scripts/**/*.test.ts'], environment: 'node' } },
      {
        test: {
          name: 'server',
          include: ['apps/server/test/**/*.test.ts'],
          environment: 'node',
          globalSetup: 'apps/server/test/cluster.ts',
          testTimeout: 30_000,
          hookTimeout: 60_000,
        },
      },
      {
        plugins: [vue(), vuetify({ autoImport: true })],
        test: {
          name: 'web',
          include: ['apps/web/src/**/*.test.ts'],
          environment: 'happy-dom',
          server: { deps: { inline: ['vuetify'] } },
        },
      },
    ],
  },
})
