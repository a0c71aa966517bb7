// A Modbus line: one request at a time, and what came back told apart.
import type { BusLine } from '@calm-loop/contract'
import { decodeModbus, encodeModbus, type ModbusReceived, type ToEncode } from '@calm-loop/core/modbus'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { openChannel, type Reached } from './channel.ts'
import type { LineLog } from './line-log.ts'

const WITHIN_ms = 300
/** Silence after which an answer is whole. */
const QUIET_ms = 40

export interface Answered {
  readonly outcome: BusLine['outcome']
  readonly frame?: ModbusReceived
  readonly took_ms: number
  /** Bytes that came. */
  readonly bytes: number
}
export interface ModbusLine {
  ask(request: Omit<ToEncode, 'transport' | 'direction'>, tries?: number): Promise<Answered>
  close(): void
}

/** @throws Error with why the port cannot be opened */
export async function openModbusLine(reached: Reached, log: LineLog, lost: (why: string) => void): Promise<ModbusLine> {
  const transport = reached.kind === 'tcp' ? 'tcp' : 'rtu'
  let held = new Uint8Array()
  let came: (() => void) | undefined
  let transaction = 0
  let last: Promise<unknown> = Promise.resolve()
  const channel = await openChannel(reached, {
    bytes(bytes) {
      held = Uint8Array.from([...held, ...bytes])
      came?.()
    },
    lost,
  })
  const once = async (request: Omit<ToEncode, 'transport' | 'direction'>): Promise<Answered> => {
    transaction = (transaction + 1) % 65_536
    held = new Uint8Array()
    const begun = performance.now()
    const sent = encodeModbus({ ...request, transport, direction: 'request', transaction })
    log.add('out', sent, `ask function ${request.function}, unit ${request.unitId}`)
    channel.send(sent)
    const took = () => performance.now() - begun
    const due = WITHIN_ms + channel.byte_ms * (sent.length + 8)
    for (let quiet = false; ;) {
      const got = attempt(() => decodeModbus({ transport, direction: 'response', bytes: held, count: request.count }))
      if (!(got instanceof Refusal)) {
        log.add('in', held.slice(0, got.used), `answer function ${got.function}, unit ${got.unitId}`)
        const other = got.unitId !== request.unitId || (transport === 'tcp' && got.transaction !== transaction)
        if (other && transport === 'tcp') {
          held = held.slice(got.used)
          continue
        }
        const outcome = other ? 'other-unit' : got.exception === null ? 'device' : 'exception'
        return { outcome, frame: got, took_ms: took(), bytes: held.length }
      }
      if (held.length && quiet) {
        log.add('in', held, `no frame: ${got.code}`)
        return { outcome: 'damaged', took_ms: took(), bytes: held.length }
      }
      if (!held.length && took() > due) {
        log.add('note', undefined, `No answer of unit ${request.unitId}.`)
        return { outcome: 'silence', took_ms: took(), bytes: 0 }
      }
      const wait = held.length ? QUIET_ms + channel.byte_ms * 20 : due - took() + 1
      const before = held.length
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, wait)
        came = () => {
          clearTimeout(timer)
          resolve()
        }
      })
      quiet = held.length > 0 && held.length === before
    }
  }
  return {
    ask(request, tries = 2) {
      const mine = last.then(async () => {
        let got = await once(request)
        for (let i = 1; i < tries && got.outcome !== 'device' && got.outcome !== 'exception'; i++)
          got = await once(request)
        return got
      })
      last = mine.catch(() => undefined)
      return mine
    },
    close: () => channel.close(),
  }
}

const SAYS = {
  shared:
    'One address answers with damaged bytes while others are clean: two devices share it and speak at once. Switch ' +
    'one of them off and ask again.',
  speed:
    'Bytes come, and none make a frame: speed or parity is not the device’s. Try 9600 or 19200 bit/s, even parity, ' +
    'then none.',
  edge:
    'Several addresses answer with damaged bytes: the line has no termination or two masters, or its speed is at the ' +
    'edge.',
  other:
    'A device answered for another address than was asked: a gateway that changes addresses, or an answer that came ' +
    'late.',
  exchanged:
    'Nothing answers at all: first exchange A and B at one end (makers name them both ways round), then look at ' +
    'power, then at speed and parity.',
  one:
    'Every address answers: a device on the network that does not look at the address. It is one device, not ' +
    'several.',
  behind:
    'The gateway is reached and no device behind it answers: look at its serial side, then at power of the devices.',
}

/** What a scan of a line says of the line itself. */
export function diagnosed(lines: readonly BusLine[], serial: boolean): string[] {
  const count = (outcome: BusLine['outcome']) => lines.filter((l) => l.outcome === outcome).length
  const [found, damaged] = [count('device') + count('exception'), count('damaged')]
  const sick = damaged === 0 ? [] : found === 0 ? [SAYS.speed] : damaged === 1 ? [SAYS.shared] : [SAYS.edge]
  const silent = found === 0 && damaged === 0 && count('silence') > 0
  const all = !serial && lines.length > 2 && found === lines.length
  return [
    ...(all ? [SAYS.one] : []),
    ...sick,
    ...(count('other-unit') ? [SAYS.other] : []),
    ...(silent ? [serial ? SAYS.exchanged : SAYS.behind] : []),
  ]
}
