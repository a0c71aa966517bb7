// Devices for the measurements of the link, in a process of their own: prints the ports that they listen on.
import { KINDS, type HartKind } from '../../apps/stand-in/src/kinds.ts'
import { overTcp } from '../../apps/stand-in/src/line.ts'
import { serveHart } from '../../apps/stand-in/src/serve-hart.ts'

const [count = '1', parameters = '0', slow = ''] = process.argv.slice(2)
const kind = KINDS['pressure'] as HartKind
const own = Array.from({ length: Number(parameters) }, (_, i) => ({
  id: i + 1,
  name: `P ${i + 1}`,
  type: 'float' as const,
  initial: i,
}))
const many: HartKind = { ...kind, make: { ...kind.make, parameters: own } }
const ports: string[] = []
for (let i = 0; i < Number(count); i++)
  ports.push((await overTcp(0, serveHart(many, { slow: slow === 'slow' }).heard)).split(':').at(-1)!)
console.log(ports.join(' '))
process.on('disconnect', () => process.exit(0))
