import { defineConfig } from 'vitest/config'

/** `npm run golden`: writes a corpus; `npm test` reads all of them. */
export default defineConfig({
  test: {
    name: 'golden',
    include: ['apps/server/golden/record.ts'],
    environment: 'node',
    globalSetup: 'apps/server/test/cluster.ts',
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
})
