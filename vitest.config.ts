import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

// A limit is there against hanging: a machine that is busy with other work may take its time.
const PATIENCE = { testTimeout: 120_000, hookTimeout: 120_000, expect: { poll: { timeout: 60_000 } } }

export default defineConfig({
  test: {
    // One worker a core, also on a machine that has but two: most of a server test is waiting.
    maxWorkers: Math.max(2, availableParallelism()),
    coverage: {
      provider: 'v8',
      include: ['packages/*/src/**/*.{ts,vue}', 'apps/*/src/**/*.{ts,vue}'],
      exclude: ['**/*.test.ts', '**/*.fixture.ts', '**/*.d.ts', 'packages/*/golden/**'],
      reporter: ['json-summary', 'json'],
      reportsDirectory: '.tmp/coverage',
      reportOnFailure: true,
    },
    projects: [
      {
        test: {
          name: 'core',
          include: ['packages/*/src/**/*.test.ts', 'scripts/**/*.test.ts'],
          environment: 'node',
          // The core remembers nothing, so that its modules need not be read again for every file.
          isolate: false,
          ...PATIENCE,
        },
      },
      {
        test: {
          name: 'stand-in',
          include: ['apps/stand-in/test/**/*.test.ts'],
          environment: 'node',
          ...PATIENCE,
        },
      },
      {
        test: {
          name: 'server',
          include: ['apps/server/test/**/*.test.ts'],
          environment: 'node',
          // Every file opens a server of its own; what they share is code.
          isolate: false,
          globalSetup: 'apps/server/test/cluster.ts',
          ...PATIENCE,
        },
      },
      {
        plugins: [vue(), vuetify({ autoImport: true })],
        test: {
          name: 'web',
          include: ['apps/web/{src,test}/**/*.test.ts'],
          environment: 'happy-dom',
          globalSetup: 'apps/web/test/server.ts',
          setupFiles: 'apps/web/test/window.ts',
          ...PATIENCE,
          server: { deps: { inline: ['vuetify'] } },
        },
      },
    ],
  },
})
