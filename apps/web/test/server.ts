// One server with the demo plant for all tests of the web application: pages are mounted without a browser, their
// answers are real.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { freePort, openCluster } from '../../../scripts/lib/postgres.mjs'
import { serverEnv } from '../../../scripts/lib/server-env.mjs'

const ROOT = join(import.meta.dirname, '../../..')
const READY_WITHIN_ms = 60_000

declare module 'vitest' {
  interface ProvidedContext {
    plant: string
  }
}

export default async function setup(project: TestProject) {
  const folder = mkdtempSync(join(tmpdir(), 'calm-loop-web-test-'))
  const cluster = await openCluster(folder, { durable: false })
  const port = await freePort()
  const server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      ...process.env,
      ...serverEnv(cluster, folder, port),
      DEMO: '1',
      PROVE_ANSWERS: '1',
      WORK_PATIENCE: '5',
    },
  })
  const base = `http://127.0.0.1:${port}`
  for (const until = Date.now() + READY_WITHIN_ms; ;) {
    if (
      await fetch(`${base}/api/session`).then(
        (a) => a.ok,
        () => false,
      )
    )
      break
    if (Date.now() > until || server.exitCode !== null) throw new Error('The server of the tests did not start.')
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  project.provide('plant', base)
  return async () => {
    const gone = new Promise((resolve) => server.once('exit', resolve))
    server.kill('SIGTERM')
    await gone
    cluster.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
