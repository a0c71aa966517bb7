// What a server is told that stands beside a PostgreSQL of its own: in development, and for the tests of the pages.
import { sealKeyFile } from './data-folder.mjs'

/** The environment of a server on `cluster` whose records are kept in `folder`. */
export const serverEnv = (cluster, folder, port) => ({
  DATABASE_URL: cluster.applicationUrl,
  MIGRATION_DATABASE_URL: cluster.ownerUrl,
  SEAL_KEY_FILE: sealKeyFile(folder),
  PORT: String(port),
})
