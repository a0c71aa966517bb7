import { defineConfig } from 'drizzle-kit'

export default defineConfig({
  dialect: 'postgresql',
  schema: ['./src/db/schema.ts', './src/db/round-schema.ts', './src/db/kit-schema.ts', './src/db/attachment-schema.ts'],
  out: './drizzle',
})
