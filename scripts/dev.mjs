// `npm run dev`: the demo plant with a page and a server that follow every change of the source. For whoever works on
// the code.
import { spawn } from 'node:child_process'
import { dataFolder } from './lib/data-folder.mjs'
import { ensurePackages, ROOT } from './lib/install.mjs'
import { freePort, openCluster } from './lib/postgres.mjs'
import { giveUp, say } from './lib/say.mjs'
import { serverEnv } from './lib/server-env.mjs'

ensurePackages()
const folder = `${dataFolder(false)}-dev`
say(`Starting PostgreSQL; what is entered here is kept in ${folder}`)
const cluster = await openCluster(folder).catch((error) => giveUp(error.message))
const port = await freePort()
const page = Number(process.env.PORT ?? (await freePort(5173).catch(() => freePort())))

const run = (args, env) =>
  spawn(process.execPath, args, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } })
const children = [
  run(['--watch', '--watch-preserve-output', '--import', 'tsx', 'apps/server/src/main.ts'], {
    ...serverEnv(cluster, folder, port),
    DEMO: '1',
    // An answer that is not of the contract is an error here, and in the tests.
    PROVE_ANSWERS: '1',
  }),
  run(['node_modules/vite/bin/vite.js', 'apps/web', '--host', '127.0.0.1', '--port', String(page), '--strictPort'], {
    CALM_LOOP_API: `http://127.0.0.1:${port}`,
  }),
]
console.log(`\n  Calm Loop follows its source at  http://127.0.0.1:${page}\n\n  Ctrl-C stops it.\n`)

let stopping = false
function stop() {
  if (stopping) return
  stopping = true
  for (const child of children) child.kill('SIGTERM')
  cluster.stop()
  process.exit(0)
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop)
for (const child of children) child.once('exit', stop)
