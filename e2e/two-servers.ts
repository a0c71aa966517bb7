// Two servers on one PostgreSQL, each to be killed and started again at its place.
import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { sealKeyFile } from '../scripts/lib/data-folder.mjs'
import { freePort, openCluster } from '../scripts/lib/postgres.mjs'
import { ensureWebBuilt } from '../scripts/lib/web.mjs'

const ROOT = join(import.meta.dirname, '..')

export interface TwoServers {
  readonly ports: readonly [number, number]
  /** Address of the database as its owner. */
  readonly ownerUrl: string
  /** Ends one server as by kill -9. */
  kill(which: 0 | 1): Promise<void>
  /** Starts it again at the same place. */
  revive(which: 0 | 1): Promise<void>
  stop(): Promise<void>
}

export async function twoServers(folder: string): Promise<TwoServers> {
  const cluster = await openCluster(folder, { durable: false })
  const ports = [await freePort(), await freePort()] as const
  const webRoot = ensureWebBuilt()
  const servers: (ChildProcess | undefined)[] = []
  const start = async (which: 0 | 1): Promise<void> => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
      env: {
        ...process.env,
        ...{ NODE_ENV: 'production', DATABASE_URL: cluster.applicationUrl, MIGRATION_DATABASE_URL: cluster.ownerUrl },
        ...{ SEAL_KEY_FILE: sealKeyFile(folder), PORT: String(ports[which]), DEMO: '1', WEB_ROOT: webRoot },
        ...{ TRUST_PROXY: '1', WORK_PATIENCE: '5' },
      },
    })
    servers[which] = child
    await new Promise<void>((resolve, reject) => {
      child.stdout!.on('data', (text: Buffer) => String(text).includes('listening') && resolve())
      child.once('exit', () => reject(new Error('The server ended.')))
    })
  }
  // One after the other: the first makes the tables and the demo plant.
  await start(0)
  await start(1)
  return {
    ports,
    ownerUrl: cluster.ownerUrl,
    async kill(which) {
      const child = servers[which]!
      const ended = new Promise<void>((resolve) => void child.once('exit', () => resolve()))
      child.kill('SIGKILL')
      await ended
    },
    revive: start,
    stop() {
      for (const child of servers) child?.kill('SIGKILL')
      cluster.stop()
      return Promise.resolve()
    },
  }
}
