// A HART device on a line: hears requests, answers, bursts; and obeys the bench.
import {
  answerRequest,
  burstFrame,
  EMPTY_STREAM,
  encodeFrame,
  feed,
  newDevice,
  realCurrent,
  restarted,
  type Frame,
  type HartStream,
  type Instant,
  type Master,
} from '@calm-loop/core/hart'
import { convertUnit } from '@calm-loop/core/quantity'
import type { HartKind } from './kinds.ts'
import type { Connection, Heard } from './line.ts'
import { BYTE_ms, paced, type Paced } from './pace.ts'
import { pastOf } from './past.ts'
import { figureOf, isManner, LATE_ms, type Manner, type Obeys } from './words.ts'
import { World } from './world.ts'

/** Silence that ends a half frame, ms. */
const GAP_ms = 200
const BURST_EVERY_ms = 500

export interface Served {
  readonly heard: Heard
  readonly obeys: Obeys
}

interface Open {
  stream: HartStream
  readonly out: Paced
  silence?: ReturnType<typeof setTimeout>
}

export interface HartOptions {
  readonly slow: boolean
  readonly id?: number | undefined
  readonly tag?: string | undefined
}

/** @param slow as fast as 1200 bit/s, not faster */
export function serveHart(kind: HartKind, { slow, id, tag }: HartOptions): Served {
  const make = { ...kind.make, ...(id === undefined ? {} : { deviceId: id }) }
  const { lrv, urv, unit } = kind.memory.range
  const span = Math.abs(convertUnit(urv, unit, make.unit) - convertUnit(lrv, unit, make.unit))
  const world = new World(kind.input, span)
  const hidden = { sensorError: 3e-4 * span, outputError_mA: 0.04 }
  let device = { ...newDevice(make, { ...kind.memory, ...(tag === undefined ? {} : { tag, longTag: tag }) }), hidden }
  const past = make.historian ? pastOf(kind.input, span) : undefined
  let manner: Manner = 'normal'
  let burstTo: Master = 'primary'
  /** The answer to the next accepted write is lost, and all after it. */
  let losing = false
  const lines = new Map<Connection, Open>()

  const instant = (): Instant => {
    const sensed = world.now(device.working.damping_s)
    return { sensed, others: kind.others(sensed), past }
  }
  const bytesOf = (frame: Frame) => {
    const bytes = encodeFrame(frame, device.working.responsePreambles)
    if (manner === 'garbled') {
      const at = device.working.responsePreambles + Math.floor(Math.random() * (bytes.length - 5))
      bytes[at] = (bytes[at] ?? 0) ^ (1 << Math.floor(Math.random() * 8))
    }
    return bytes
  }
  function hear(line: Open, bytes: Uint8Array): void {
    const { stream, frames } = feed(line.stream, bytes, performance.now(), GAP_ms)
    line.stream = stream
    for (const frame of frames) {
      const { device: after, answer } = answerRequest(device, frame, instant())
      if (losing && after.counter !== device.counter) {
        manner = 'silent'
        losing = false
      }
      device = { ...after, hidden: device.hidden }
      if (!answer || manner === 'silent') continue
      // On a slow line the request has taken its time to come.
      const wait = (manner === 'late' ? LATE_ms : 0) + (slow ? frame.used * BYTE_ms : 0)
      if (wait) setTimeout(() => line.out.send(bytesOf(answer)), wait)
      else line.out.send(bytesOf(answer))
    }
    clearTimeout(line.silence)
    if (line.stream.held.length) line.silence = setTimeout(() => hear(line, new Uint8Array()), GAP_ms + 20)
  }
  setInterval(() => {
    if (device.burst === null || manner === 'silent') return
    const frame = burstFrame(device, instant(), burstTo)
    burstTo = burstTo === 'primary' ? 'secondary' : 'primary'
    if (frame) for (const line of lines.values()) line.out.send(bytesOf(frame))
  }, BURST_EVERY_ms)

  const obeys: Obeys = (word, rest) => {
    if (isManner(word)) {
      manner = word
      if (word === 'normal') {
        device = { ...device, busy: false, burst: null }
        world.drift(false)
        losing = false
      }
      return word
    }
    switch (word) {
      case 'protect':
      case 'unprotect':
        device = { ...device, protected: word === 'protect' }
        return word
      case 'busy':
        device = { ...device, busy: true }
        return word
      case 'restart':
        device = { ...restarted(device), hidden }
        return word
      case 'forget':
        device = { ...device, forgetful: true, stored: device.working }
        return word
      case 'drift':
        world.drift(true)
        return word
      case 'lose':
        losing = true
        return word
      case 'burst':
        device = { ...device, burst: 3 }
        return word
      case 'input': {
        const told = figureOf(rest)
        world.now(device.working.damping_s)
        world.feed(convertUnit(told.value, told.unit, make.unit))
        return `${told.value} ${told.unit}`
      }
      case 'meter':
        return realCurrent(device, instant()).toFixed(4)
    }
  }
  return {
    obeys,
    heard: {
      opened: (connection) =>
        void lines.set(connection, { stream: EMPTY_STREAM, out: paced((b) => connection.send(b), slow) }),
      bytes(connection, bytes) {
        const line = lines.get(connection)
        if (line) hear(line, bytes)
      },
      closed(connection) {
        clearTimeout(lines.get(connection)?.silence)
        lines.delete(connection)
      },
    },
  }
}
