// `npm run broker -- [PORT]`: a small MQTT broker of one's own on this machine, that prints what it is told.
import { ensurePackages } from './lib/install.mjs'

ensurePackages({ quiet: true })
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => process.exit(0))
const { register } = await import('tsx/esm/api')
register()
const { runBroker } = await import('../apps/stand-in/src/broker.ts')
const asked = Number(process.argv[2] ?? 1883)
const { port } = await runBroker(asked, { hear: (topic, text) => console.log(`${topic} ${text}`) }).catch((error) => {
  console.error(`Cannot listen on port ${asked}: ${error.message}`)
  process.exit(1)
})
console.log(`mqtt://127.0.0.1:${port} is ready: enter it under People, Who is told.`)
