// `npm run test:faults [-- KILLS [SEED]]`: writes while server, database and start command are killed by chance,
// connections are cut and clocks jump; then the same on two servers of one database, whose connections to it are cut
// too. At the end every write that was acknowledged is on record exactly once, in its order, and nothing else is.
import { dataFolder, run, throwAway, type Running } from '../../e2e/run-server.ts'
import { twoServers } from '../../e2e/two-servers.ts'
import { asOwner } from '../../apps/server/src/db/database.ts'
import { dice, pick } from '../hostile/shapes.ts'
import { count, sleep, verify, writer, type Trial } from './writers.ts'

const [kills = 300, seed = 20_261_127] = process.argv.slice(2).map(Number)
const roll = dice(seed)
const WRITERS = 4

/** What is killed: each harm ends with its name once it has been done, and is over when all is ready again. */
interface Plant {
  /** Every address that is to answer when all is well. */
  bases(): string[]
  harm(): Promise<string>
  stop(): Promise<void>
}

const kill = (pid: number | undefined) => {
  try {
    if (pid) process.kill(pid, 'SIGKILL')
  } catch {
    // It had just gone.
  }
}

/** One server with its database, as the start command runs it. */
async function oneServer(folder: string): Promise<Plant> {
  let app: Running = await run(folder)
  return {
    bases: () => [app.base],
    async harm() {
      const what = pick(roll, ['server', 'database', 'both', 'start'] as const)
      const pids = app.pids()
      if (what === 'start') {
        kill(pids.start)
        await app.ended
        app = await run(folder)
      }
      if (what === 'server' || what === 'both') kill(pids.server)
      if (what === 'database' || what === 'both') kill(pids.database)
      return what
    },
    stop: () => app.stop(),
  }
}

/** Two servers on one database; who writes comes to either. */
async function ofTwo(folder: string): Promise<Plant> {
  const two = await twoServers(folder)
  const bases = two.ports.map((port) => `http://127.0.0.1:${port}`)
  const cut = () =>
    asOwner(two.ownerUrl, (_db, client) =>
      client.query(
        'select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and usename = $1',
        ['calm_loop_app'],
      ),
    )
  return {
    bases: () => bases,
    async harm() {
      const what = pick(roll, ['first', 'second', 'each in turn', 'connections'] as const)
      if (what === 'connections') await cut()
      const which = what === 'first' ? [0 as const] : what === 'second' ? [1 as const] : [0 as const, 1 as const]
      if (what !== 'connections')
        for (const w of which) {
          await two.kill(w)
          await sleep(roll() * 500)
          await two.revive(w)
        }
      return what
    },
    stop: () => two.stop(),
  }
}

async function ready(plant: Plant, trial: Trial): Promise<void> {
  const answers = (base: string) =>
    fetch(`${base}/readyz`, { signal: AbortSignal.timeout(3000) }).then(
      (r) => r.ok,
      () => false,
    )
  for (let i = 0; i < 600; i++) {
    if ((await Promise.all(plant.bases().map(answers))).every(Boolean)) return
    await sleep(50)
  }
  trial.failures.push('not ready again within half a minute')
}

/** Until some more writes have come through: a kill between two writes that never were proves nothing. */
async function underLoad(trial: Trial): Promise<void> {
  const acknowledged = () => trial.counts['acknowledged'] ?? 0
  const wanted = acknowledged() + 1 + Math.floor(roll() * 8)
  for (let i = 0; i < 3000; i++) {
    if (acknowledged() >= wanted) return
    await sleep(10)
  }
  trial.failures.push('no write came through within half a minute')
}

async function killer(plant: Plant, trial: Trial, times: number): Promise<void> {
  const slowest = { what: '', ms: 0 }
  for (let i = 0; i < times; i++) {
    await underLoad(trial)
    await sleep(roll() * 200)
    const since = Date.now()
    const what = await plant.harm()
    count(trial, `killed ${what}`)
    await sleep(20)
    await ready(plant, trial)
    if (Date.now() - since > slowest.ms) Object.assign(slowest, { what, ms: Date.now() - since })
    if ((i + 1) % 20 === 0 || i + 1 === times)
      console.log(
        `${i + 1} kills, ${trial.counts['acknowledged'] ?? 0} writes acknowledged, slowest back after ` +
          `${slowest.ms} ms (${slowest.what})`,
      )
  }
}

/** Writers and killer at work on a plant; what is wrong in the end, in words. */
async function trialOf(name: string, open: (folder: string) => Promise<Plant>, times: number): Promise<string[]> {
  const folder = dataFolder()
  const plant = await open(folder)
  const trial: Trial = { base: () => pick(roll, plant.bases()), roll, failures: [], counts: {}, over: false }
  try {
    const writers = Promise.all(Array.from({ length: WRITERS }, (_, i) => writer(trial, i)))
    writers.catch((error: Error) => trial.failures.push(error.message))
    await killer(plant, trial, times)
    trial.over = true
    await verify(trial, await writers)
  } catch (error) {
    trial.failures.push((error as Error).message)
  } finally {
    trial.over = true
    await plant.stop()
    throwAway(folder)
  }
  console.log(`${name}, seed ${seed}: ${JSON.stringify(trial.counts)}`)
  return trial.failures.map((line) => `${name}: ${line}`)
}

const failures = [
  ...(await trialOf('One server', oneServer, kills)),
  ...(await trialOf('Two servers', ofTwo, Math.ceil(kills / 2))),
]
for (const line of failures.slice(0, 40)) console.log(`BAD ${line}`)
console.log(`\n${failures.length ? 0 : 2} passed, ${failures.length} failed`)
process.exitCode = failures.length ? 1 : 0
