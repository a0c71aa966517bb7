// Live values of the device on a port: asked for while the line is free and somebody looks.
import type { LiveValues } from '@calm-loop/contract'
import { decodePayload, readStatus, symbolOf, type Received, type Variable } from '@calm-loop/core/hart'
import { sure } from '@calm-loop/core/sure'
import { answered, codeOf, type Exchange } from './hart-line.ts'

/** For a page no more often than this; for who judges how steady it is, as often as the line gives it. */
const SHOWN_ms = 1000
const TURN_ms = 250
/** What was told longer ago than this is not what is told now, ms. */
export const STALE_ms = 5000

/** Somebody who hears every reading of one device, and of no other. */
export interface Hearer {
  readonly serial: string
  reading(values: LiveValues): void
  /** The device, or the port, was let go or lost. */
  gone?(): void
}

export interface LiveParts {
  /** The device at hand. */
  serial(): string | undefined
  /** Whether nothing else is on the line, and a device is there. */
  free(): boolean
  /** Whether a page looks at the port. */
  looked(): boolean
  ask(command: number): Promise<Exchange>
  changed(): void
}

export interface Live {
  latest(): LiveValues | null
  /** Takes a reading that came, asked for or not. */
  take(frame: Received): void
  hear(hearer: Hearer): () => void
  /** Whether anybody hears. */
  heard(): boolean
  forget(): void
  close(): void
}

export function liveOf({ serial, free, looked, ask, changed }: LiveParts): Live {
  let latest: LiveValues | null = null
  const hearers = new Set<Hearer>()
  let asked_ms = 0
  let asking = false

  const hearing = () => [...hearers].filter((h) => h.serial === serial())

  const isStale = ({ at_ms }: LiveValues) => Date.now() - at_ms > STALE_ms

  function take(frame: Received): void {
    // In burst mode another device of the line speaks too.
    if (!('long' in frame.address) || frame.address.long !== serial()) return
    if (frame.command !== 3 || (frame.status?.[0] ?? 1) & 0x80) return
    const fields = decodePayload(3, 'response', frame.data) as { mA: number | null; variables: Variable[] }
    const values: LiveValues = {
      at_ms: Date.now(),
      mA: fields.mA,
      variables: fields.variables.map((v) => ({ unit: symbolOf(v.unitCode) ?? '', value: v.value })),
      flags: [...readStatus(...sure(frame.status)).device],
    }
    latest = values
    hearing().forEach((h) => h.reading(values))
    changed()
  }
  function forget(): void {
    if (!latest) return
    latest = null
    hearers.forEach((h) => h.gone?.())
    changed()
  }
  const timer = setInterval(() => {
    // What it told long ago, it does not tell now: it is silent, or the line is taken up by other work.
    if (latest && isStale(latest)) forget()
    const wanted = hearing().length > 0 || (looked() && performance.now() - asked_ms >= SHOWN_ms)
    if (asking || !wanted || !free()) return
    asked_ms = performance.now()
    asking = true
    void ask(3)
      .then((e) => answered(e) && !codeOf(e.frame) && take(e.frame))
      .finally(() => (asking = false))
  }, TURN_ms)
  timer.unref()

  return {
    latest: () => latest,
    take,
    hear(hearer) {
      hearers.add(hearer)
      if (latest && !isStale(latest) && hearer.serial === serial()) hearer.reading(latest)
      return () => void hearers.delete(hearer)
    },
    heard: () => hearers.size > 0,
    forget,
    close() {
      clearInterval(timer)
      hearers.clear()
    },
  }
}
