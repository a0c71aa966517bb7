// One throw-away PostgreSQL for all server tests.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { openCluster } from '../../../scripts/lib/postgres.mjs'

declare module 'vitest' {
  interface ProvidedContext {
    ownerUrl: string
    applicationUrl: string
  }
}

export default async function setup(project: TestProject) {
  const folder = mkdtempSync(join(tmpdir(), 'calm-loop-test-'))
  const cluster = await openCluster(folder, { durable: false })
  project.provide('ownerUrl', cluster.ownerUrl)
  project.provide('applicationUrl', cluster.applicationUrl)
  return () => {
    cluster.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
