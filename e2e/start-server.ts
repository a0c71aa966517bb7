// One server with the demo plant for all journeys.
import { dataFolder, run, throwAway } from './run-server.ts'

export default async function start() {
  const server = await run(dataFolder())
  process.env['CALM_LOOP_BASE'] = server.base
  return async () => {
    await server.stop()
    throwAway(server.folder)
  }
}
