// Writing to a device: on record before anything is sent, read back and compared after.
import type { DeviceWrite, Person, WriteValues } from '@calm-loop/contract'
import {
  readBackOf,
  refusedValue,
  writeStep,
  type Parameter,
  type Value,
  type Values,
} from '@calm-loop/core/description'
import { isWarning } from '@calm-loop/core/hart'
import { Refusal } from '@calm-loop/core/refusal'
import { sure } from '@calm-loop/core/sure'
import type { Database } from '../db/database.ts'
import { noteWrites, orphansUnknown, queueWrites, writesBy, writesTo } from './device-store.ts'
import { answered, codeOf, type Exchange } from './hart-line.ts'
import { refusalWords } from './link-words.ts'

/** A parameter, and what it is to hold. */
export type Change = readonly [Parameter, Value]

/** What every caution before a moving current must have been said. */
const CAUTIONS = ['manual', 'trips', 'area']
/** @throws Refusal `cautions-open` */
export function refuseUncautioned(cautions: readonly string[]): void {
  if (!CAUTIONS.every((c) => cautions.includes(c)))
    throw new Refusal(
      'cautions-open',
      'The loop current moves. Say first that the loop is in manual, that trips on it are dealt with, and that the ' +
        'area allows the work, by the site’s own procedure.',
    )
}

export interface WriterParts {
  readonly db: Database
  ask(command: number, data: Uint8Array): Promise<Exchange>
  /** What a read-back has shown. */
  took(values: Values): void
  changed(): void
}
export interface Writer {
  /** Writes to the device at hand, the newest first. */
  list(): DeviceWrite[]
  /** Takes up a device: what was on its way to it when a link ended is not known. */
  takeUp(serial: string): Promise<void>
  leave(): void
  /** @throws Refusal `value-refused`, `read-back-first`, `constant-kept`, `cautions-open` */
  refuse(asked: WriteValues, changes: readonly Change[]): void
  /** Puts changes on record as waiting. @param held what the device holds as far as it was read */
  queue(what: { id: string; serial: string; changes: readonly Change[]; held: Values; person: Person }): Promise<void>
  /** Sends what was queued, one command after the other. */
  send(id: string, changes: readonly Change[]): Promise<void>
  /** Reads back what is unknown. @param parameterOf by id */
  readAgain(parameterOf: (id: string) => Parameter | undefined): Promise<void>
  /** What became of the writes of an id. */
  by(id: string): Promise<DeviceWrite[]>
}

/** Changes that go by one command, the unit first: the figures that follow speak it. */
function byCommand(changes: readonly Change[]): Change[][] {
  const together = new Map<string, Change[]>()
  for (const change of changes) {
    const { write } = change[0]
    const key = write && 'command' in write ? `command ${write.command}` : `own ${write?.own}`
    together.set(key, [...(together.get(key) ?? []), change])
  }
  const hasUnit = (group: Change[]) => Number(group.some(([p]) => p.type === 'unit'))
  return [...together.values()].sort((a, b) => hasUnit(b) - hasUnit(a))
}

const startsWith = (data: Uint8Array, start: Uint8Array) => start.every((b, i) => data[i] === b)
/** A read-back that was asked for by number says that number again: another’s is a late answer. */
const TRIES = 3

export function writerOf({ db, ask, took, changed }: WriterParts): Writer {
  let writes: DeviceWrite[] = []

  type Noted = Partial<Pick<DeviceWrite, 'state' | 'says' | 'held'>>
  async function note(id: string, parameters: readonly Parameter[], change: Noted): Promise<void> {
    const ids = parameters.map((p) => p.id)
    await noteWrites(db, id, ids, change)
    writes = writes.map((w) => (w.id === id && ids.includes(w.parameter) ? { ...w, ...change } : w))
    changed()
  }
  /** What the device holds by the command that reads a parameter; undefined when it does not answer. */
  async function readBack(parameter: Parameter): Promise<Uint8Array | undefined> {
    const { command, data } = readBackOf(parameter)
    for (let i = 0; i < TRIES; i++) {
      const got = await ask(command, data)
      if (!answered(got) || codeOf(got.frame)) return undefined
      if (startsWith(got.frame.data, data)) return got.frame.data
    }
    return undefined
  }
  /** Compares what is held now with what was written. */
  async function settle(id: string, changes: readonly Change[], wasLost: boolean): Promise<void> {
    const parameters = changes.map(([p]) => p)
    const back = await readBack(sure(parameters[0]))
    if (!back) {
      const words = 'No answer came, neither to the write nor to the reading back. Unknown: read back first.'
      return note(id, parameters, { state: 'unknown', says: words })
    }
    const step = writeStep(changes, back)
    const seen = step.held(back)
    took(seen)
    for (const [p, to] of changes) {
      const held = seen[p.id] ?? null
      const same = typeof to === 'number' && typeof held === 'number' ? Math.fround(to) === held : to === held
      const fine = step.agrees(back) || same
      const words = `ead back: the device holds ${fine ? 'it, bit by bit' : 'something else'}.`
      await note(id, [p], {
        state: fine ? 'held' : 'differs',
        held,
        says: wasLost ? `The answer was lost; r${words}` : `R${words}`,
      })
    }
  }
  async function sendOne(id: string, changes: readonly Change[]): Promise<void> {
    const parameters = changes.map(([p]) => p)
    const before = await readBack(sure(parameters[0]))
    if (!before) return note(id, parameters, { state: 'refused', says: 'It was not sent: the device does not answer.' })
    let step
    try {
      step = writeStep(changes, before)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      return note(id, parameters, { state: 'refused', says: `It was not sent: ${error.message}` })
    }
    await note(id, parameters, { state: 'sent', says: 'On its way.' })
    const got = await ask(step.command, step.data)
    if (!answered(got)) {
      await note(id, parameters, { state: 'unknown', says: 'No answer came. Unknown: read back first.' })
      return settle(id, changes, true)
    }
    const code = codeOf(got.frame)
    if (code && !isWarning(code)) return note(id, parameters, { state: 'refused', says: refusalWords(code) })
    await settle(id, changes, false)
  }

  return {
    list: () => writes,
    async takeUp(serial) {
      await orphansUnknown(db, serial)
      writes = await writesTo(db, serial)
    },
    leave: () => void (writes = []),
    refuse(asked, changes) {
      for (const [p, value] of changes) {
        const why = refusedValue(p, value)
        if (why) throw new Refusal('value-refused', `${p.label}: ${why}`)
        if (writes.some((w) => w.parameter === p.id && w.state === 'unknown'))
          throw new Refusal('read-back-first', `${p.label}: an earlier write is unknown. Read back first.`)
      }
      const constant = changes.find(([p]) => p.characterization && !asked.constants.includes(p.id))
      if (constant)
        throw new Refusal(
          'constant-kept',
          `${constant[0].label} is a constant of this one meter. It is overwritten only when that is confirmed for it.`,
        )
      if (changes.some(([p]) => p.movesOutput || p.type === 'unit')) refuseUncautioned(asked.cautions)
    },
    async queue({ id, serial, changes, held, person }) {
      await queueWrites(
        db,
        changes.map(([p, to]) => ({
          id,
          parameter: p.id,
          serial,
          label: p.label,
          from: held[p.id] ?? null,
          to,
          held: null,
          state: 'queued',
          says: 'Waits for its turn.',
        })),
        person,
      )
      writes = await writesTo(db, serial)
    },
    async send(id, changes) {
      for (const group of byCommand(changes)) await sendOne(id, group)
    },
    async readAgain(parameterOf) {
      for (const w of writes.filter((x) => x.state === 'unknown')) {
        const p = parameterOf(w.parameter)
        if (p) await settle(w.id, [[p, w.to]], true)
      }
    },
    by: (id) => writesBy(db, id),
  }
}
