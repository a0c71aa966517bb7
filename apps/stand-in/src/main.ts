// A stand-in device as a process of its own: `npm run --silent stand-in -- KIND (--tcp PORT | --pty)`.
import { parseArgs } from 'node:util'
import { isPackable } from '@calm-loop/core/hart'
import { KINDS, type Kind } from './kinds.ts'
import { overPty, overTcp } from './line.ts'
import { serveHart } from './serve-hart.ts'
import { serveModbus } from './serve-modbus.ts'
import { say, serveWords, WORDS } from './words.ts'

export const USAGE = `stand-in KIND (--tcp PORT | --pty) [--baud1200] [--control PORT] [--id NUMBER] [--tag TAG]
stand-in KIND --map
stand-in say CONTROL-PORT WORD

KIND: ${Object.keys(KINDS).join(', ')}
WORD: ${WORDS.join(', ')} (input VALUE UNIT)
PORT 0 takes a free one.`

const isTag = (text: string) => text.length <= 8 && isPackable(text)

class Usage extends Error {}

function portOf(text: string): number {
  const port = Number(text)
  if (!Number.isInteger(port) || port < 0 || port > 65_535) throw new Usage(`“${text}” is no port.`)
  return port
}

/** What a master needs to know of a Modbus kind. */
export function mapOf(kind: Kind): object {
  if (kind.protocol !== 'modbus') throw new Usage('Only a Modbus kind has a map.')
  return kind.map
}

async function standIn(args: readonly string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      tcp: { type: 'string' },
      pty: { type: 'boolean', default: false },
      baud1200: { type: 'boolean', default: false },
      control: { type: 'string' },
      id: { type: 'string' },
      tag: { type: 'string' },
      map: { type: 'boolean', default: false },
    },
  })
  const [name = '', ...more] = positionals
  const kind = Object.hasOwn(KINDS, name) ? KINDS[name] : undefined
  if (!kind || more.length) throw new Usage(`There is no kind “${positionals.join(' ')}”.`)
  if (values.map) return console.log(JSON.stringify(mapOf(kind), null, 2))
  if (values.pty === (values.tcp !== undefined)) throw new Usage('Either --tcp PORT or --pty.')
  const id = values.id === undefined ? undefined : Number(values.id)
  if (id !== undefined && !(Number.isInteger(id) && id >= 0 && id < 2 ** 24)) throw new Usage('--id: 0 to 16777215.')
  if (values.tag !== undefined && !isTag(values.tag.toUpperCase()))
    throw new Usage('--tag: up to 8 capitals, digits and marks.')
  const served =
    kind.protocol === 'hart'
      ? serveHart(kind, { slow: values.baud1200, id, tag: values.tag?.toUpperCase() })
      : serveModbus(kind, values.pty ? 'rtu' : 'tcp')
  const reached =
    values.tcp === undefined ? await overPty(served.heard) : await overTcp(portOf(values.tcp), served.heard)
  const control = values.control === undefined ? undefined : await serveWords(portOf(values.control), served.obeys)
  console.log(`ready ${reached}`)
  if (control !== undefined) console.log(`control ${control}`)
}

/** @returns exit code where it is done; undefined while it serves */
export async function main(args: readonly string[]): Promise<number | undefined> {
  try {
    if (args[0] === 'say') {
      if (args.length < 3) throw new Usage('say CONTROL-PORT WORD')
      console.log(await say(portOf(args[1] ?? ''), args.slice(2)))
      return 0
    }
    await standIn(args)
    return args.includes('--map') ? 0 : undefined
  } catch (error) {
    const { message, code } = error as Error & { code?: string }
    const misused = error instanceof Usage || code?.startsWith('ERR_PARSE_ARGS')
    console.error(misused ? `${message}\n\n${USAGE}` : message)
    return misused ? 2 : 1
  }
}
