// A Modbus slave on a line, RTU or TCP; and what the bench does to it.
import { EXCEPTION, serveRtu, serveTcp, slaveOf, type Transport } from '@calm-loop/core/modbus'
import { convertUnit } from '@calm-loop/core/quantity'
import type { ModbusKind } from './kinds.ts'
import type { Connection } from './line.ts'
import type { Served } from './serve-hart.ts'
import { figureOf, isManner, LATE_ms, type Manner, type Obeys } from './words.ts'
import { World } from './world.ts'

/** Silence that ends a request, ms: kinder than the 3.5 characters of the standard, as gaps grow on the way. */
const PAUSE_ms = 50

interface Open {
  rest: Uint8Array
  silence?: ReturnType<typeof setTimeout>
}

export function serveModbus(kind: ModbusKind, transport: Transport): Served {
  const world = new World(kind.input, Math.abs(kind.range.urv - kind.range.lrv))
  const state = { busy: false, protected: false, forgetful: false }
  let manner: Manner = 'normal'
  let working = kind.kept
  let stored = kind.kept
  const lines = new Map<Connection, Open>()
  const [low, high] = Object.keys(kind.kept).filter((name) => / at (4|20) mA$/.test(name))

  const primary = () => world.now(working['Damping'] ?? 0) + (working['Offset'] ?? 0)
  const currentFor = (value: number) => {
    const [lrv, urv] = [working[low ?? ''] ?? kind.range.lrv, working[high ?? ''] ?? kind.range.urv]
    return Math.min(20.5, Math.max(3.8, 4 + (16 * (value - lrv)) / (urv - lrv)))
  }
  const slave = slaveOf(kind.map, {
    read() {
      const value = primary()
      return { ...kind.live(value, currentFor(value)), ...working }
    },
    write(values) {
      if (state.protected) return EXCEPTION.failure
      const next = { ...working, ...values }
      // A range without a span is no range.
      if (low && high && next[low] === next[high]) return EXCEPTION.value
      working = next
      if (!state.forgetful) stored = next
      return undefined
    },
  })
  const send = (connection: Connection, bytes: Uint8Array) => {
    if (manner === 'silent') return
    if (manner === 'garbled') {
      const at = transport === 'rtu' ? bytes.length - 1 : Math.floor(Math.random() * 4)
      bytes[at] = (bytes[at] ?? 0) ^ 0x55
    }
    if (manner === 'late') setTimeout(() => connection.send(bytes), LATE_ms)
    else connection.send(bytes)
  }
  function hear(connection: Connection, line: Open, bytes: Uint8Array, ended: boolean): void {
    const held = Uint8Array.from([...line.rest, ...bytes])
    const { rest, answers, broken } =
      transport === 'tcp' ? serveTcp(slave, held, state) : serveRtu(slave, held, state, ended)
    line.rest = rest
    for (const answer of answers) send(connection, answer)
    if (broken) return connection.end()
    clearTimeout(line.silence)
    if (transport === 'rtu' && line.rest.length)
      line.silence = setTimeout(() => hear(connection, line, new Uint8Array(), true), PAUSE_ms)
  }

  const obeys: Obeys = (word, rest) => {
    if (isManner(word)) {
      manner = word
      if (word === 'normal') {
        state.busy = false
        world.drift(false)
      }
      return word
    }
    switch (word) {
      case 'protect':
      case 'unprotect':
        state.protected = word === 'protect'
        return word
      case 'busy':
        state.busy = true
        return word
      case 'restart':
        working = stored
        return word
      case 'forget':
        state.forgetful = true
        return word
      case 'drift':
        world.drift(true)
        return word
      case 'lose':
      case 'burst':
        throw new Error(`A Modbus device cannot be told to ${word}.`)
      case 'input': {
        const told = figureOf(rest)
        world.now(working['Damping'] ?? 0)
        world.feed(convertUnit(told.value, told.unit, kind.unit))
        return `${told.value} ${told.unit}`
      }
      case 'meter':
        return (currentFor(primary()) + 0.04).toFixed(4)
    }
  }
  return {
    obeys,
    heard: {
      opened: (connection) => void lines.set(connection, { rest: new Uint8Array() }),
      bytes(connection, bytes) {
        const line = lines.get(connection)
        if (line) hear(connection, line, bytes, false)
      },
      closed(connection) {
        clearTimeout(lines.get(connection)?.silence)
        lines.delete(connection)
      },
    },
  }
}
