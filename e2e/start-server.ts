// A server with the demo plant for each of the workers that run journeys side by side.
import { WORKERS } from './workers.ts'
import { dataFolder, run, throwAway, type Running } from './run-server.ts'

export default async function start() {
  // One after the other: the first builds what both serve.
  const servers: Running[] = []
  for (let i = 0; i < WORKERS; i++) {
    const server = await run(dataFolder(), [], { PRACTICE_PACE: '4' })
    process.env[`CALM_LOOP_BASE_${i}`] = server.base
    servers.push(server)
  }
  return async () => {
    for (const server of servers) {
      await server.stop()
      throwAway(server.folder)
    }
  }
}
