// The driver of a device on a port: guided work and readings over HART, for a loop that the device is tied to.
import type { LiveReading, LiveValues, TrendSample } from '@calm-loop/contract'
import { hexOf } from '@calm-loop/core/bytes'
import { isOther, readPlan, valuesIn, writeStep } from '@calm-loop/core/description'
import type { DeviceCommand } from '@calm-loop/core/device'
import { heldOver, wireCommand } from '@calm-loop/core/guided'
import { decodePayload, isWarning, type Received } from '@calm-loop/core/hart'
import type { Chain } from '@calm-loop/core/loop'
import type { Held } from '@calm-loop/core/procedure'
import { convertUnit, sameQuantity } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { HttpProblem } from '../http/problems.ts'
import { answered, codeOf, type Exchange } from '../ports/hart-line.ts'
import { refusalWords } from '../ports/link-words.ts'
import { STALE_ms } from '../ports/live.ts'
import type { Session } from '../ports/session-parts.ts'
import type { Driver, Listener } from './driver.ts'

/** A device that takes its zero, or keeps what it was told, may be busy as long as this, ms. */
const PATIENCE_ms = 12_000
/** Parameters of an electrode, by the names that descriptions give them. */
const ELECTRODE = { slope_mVperPh: 'slope', offset_mV: 'asymmetry' } as const

const MALFUNCTION = 0x80
const TAKEN = { taken: true, says: '' }
const NOT_A_METER = 'That is done at the meter itself: this link speaks to its transmitter.'

/** An answer, or undefined where none came. @throws HttpProblem `device-refused` */
function dataOf(got: Exchange): Received | undefined {
  if (!answered(got)) return undefined
  const code = codeOf(got.frame)
  if (code && !isWarning(code)) throw new HttpProblem(409, 'device-refused', refusalWords(code))
  return got.frame
}

/**
 * @param chain of the loop, in whose units everything is told and shown
 * @param tied serial of the loop’s device: no other is ever spoken to
 */
export function wireDriver(session: Session, chain: Chain, tied: string): Driver {
  const { unit } = chain.digital
  const span = chain.urv - chain.lrv
  const hears = new Map<Listener, () => void>()
  const begun = performance.now()
  let last: LiveReading = { t_s: 0, knots: {} }
  let last_ms = 0
  /** Its last self-test was answered. */
  let tested = false

  const inUnit = (value: number | null, of: string, wanted: string): number | undefined => {
    if (value === null || attempt(() => sameQuantity(of, wanted)) !== true) return undefined
    return of === wanted ? value : convertUnit(value, of, wanted)
  }
  const isElectrode = chain.digital.quantity === 'acidity'
  /** The electrode’s own voltage and temperature, where a device gives them among its variables. */
  const besideIn = ({ variables }: LiveValues, unit: 'mV' | 'degC'): number | undefined => {
    const of = isElectrode && variables.slice(1).find((v) => attempt(() => sameQuantity(v.unit, unit)) === true)
    return of ? inUnit(of.value, of.unit, unit) : undefined
  }
  function readingOf(values: LiveValues): LiveReading {
    const [first] = values.variables
    const digital = first && inUnit(first.value, first.unit, unit)
    const [electrode, temperature] = [besideIn(values, 'mV'), besideIn(values, 'degC')]
    return {
      t_s: (performance.now() - begun) / 1000,
      knots: {
        ...(digital === undefined ? {} : { [chain.digital.id]: digital }),
        ...(electrode === undefined ? {} : { electrode }),
        ...(temperature === undefined ? {} : { temperature }),
      },
      believes: { mA: values.mA, flags: values.flags },
    }
  }
  function sampleOf({ t_s, knots }: LiveReading): TrendSample {
    const digital = knots[chain.digital.id]
    return {
      t_s,
      digital: digital === undefined ? null : (100 * (digital - chain.lrv)) / span,
      current: null,
      electrode: knots['electrode'] ?? null,
      ...(knots['temperature'] === undefined ? {} : { temperature: knots['temperature'] }),
    }
  }

  /** The device of this loop, at hand. @throws HttpProblem */
  const ready = () => session.attach(tied)
  async function answersTo(commands: readonly number[]): Promise<Received[] | undefined> {
    const frames: Received[] = []
    for (const command of commands) {
      const frame = dataOf(await session.tell(tied, command))
      if (!frame) return undefined
      frames.push(frame)
    }
    return frames
  }
  const electrodeOf = (id: keyof typeof ELECTRODE) =>
    session.description().parameters.find((p) => p.id === ELECTRODE[id] && 'own' in p.read)

  /** Slope and offset of an electrode, where its description says how they are read; undefined without an answer. */
  async function electrode(): Promise<Partial<Held> | undefined> {
    const { parameters, ...rest } = session.description()
    const own = parameters.filter((p) => p.id === ELECTRODE.slope_mVperPh || p.id === ELECTRODE.offset_mV)
    const values: Record<string, unknown> = {}
    for (const step of readPlan({ ...rest, parameters: own })) {
      const frame = dataOf(await session.tell(tied, step.command, step.data))
      if (!frame || isOther(step, frame.data)) return undefined
      Object.assign(values, valuesIn(step, frame.data))
    }
    const [slope, offset] = [values[ELECTRODE.slope_mVperPh], values[ELECTRODE.offset_mV]]
    // Devices give the slope without its sign: a glass electrode falls with the pH.
    if (typeof slope !== 'number' || typeof offset !== 'number') return {}
    return { slope_mVperPh: -Math.abs(slope), offset_mV: offset }
  }
  async function calibrateElectrode(slope: number, offset: number): Promise<boolean> {
    const steps = (
      [
        ['slope_mVperPh', Math.abs(slope)],
        ['offset_mV', offset],
      ] as const
    ).map(([id, value]) => {
      const p = electrodeOf(id)
      if (!p)
        throw new Refusal(
          'no-description',
          'How slope and offset are written stands in this device’s description, which is not here. Import it under ' +
            'Link, Descriptions.',
        )
      return writeStep([[p, value]], new Uint8Array())
    })
    for (const { command, data } of steps) if (!dataOf(await session.tell(tied, command, data))) return false
    return true
  }
  async function held(): Promise<Held | undefined> {
    const frames = await answersTo([0, 2, 15])
    if (!frames) return undefined
    const [identity, current, output] = frames as [Received, Received, Received]
    const of = {
      unit,
      receiver: { low: chain.receiverLow, high: chain.receiverHigh },
      stored: !session.state().unstored,
    }
    const own = isElectrode ? await electrode() : {}
    // Read now: a self-test may have taken its time.
    const health = tested ? await found() : undefined
    if (!own || (tested && health === undefined)) return undefined
    return {
      ...heldOver({ identity, current, output }, of),
      ...own,
      ...(health === undefined ? {} : { health }),
    }
  }

  /** What a command came to; undefined when no answer came. */
  async function told(command: DeviceCommand): Promise<{ taken: boolean; says: string } | undefined> {
    if (command.do === 'start' || command.do === 'zero' || command.do === 'write' || command.do === 'health')
      throw new Refusal('no-bench', NOT_A_METER)
    if (command.do === 'ph-calibrate') {
      if (!(await calibrateElectrode(command.slope_mVperPh, command.offset_mV))) return undefined
      session.wrote()
      return TAKEN
    }
    const wire = wireCommand(command, unit)
    if (!wire) throw new Refusal('no-bench', 'That is set at the receiver, not told to the transmitter.')
    // What an earlier one found says nothing of this one, whose answer may be lost.
    if (command.do === 'self-test') tested = false
    const frame = dataOf(await session.tell(tied, wire.command, wire.data, wire.once))
    if (!frame) return undefined
    if (command.do === 'self-test') tested = true
    else if (command.do === 'store') session.wrote(false)
    else if (command.do !== 'drive' && command.do !== 'release') session.wrote()
    return TAKEN
  }
  /** What a device says of itself after a self-test: its flags, and its additional status. */
  async function found(): Promise<string | undefined> {
    const frames = await answersTo([48])
    const [frame] = frames ?? []
    if (!frame?.status) return undefined
    const status = decodePayload(48, 'response', frame.data)
    const words = ['deviceStatus', 'standardStatus0', 'standardStatus1', 'standardStatus2', 'standardStatus3']
    const raised = words.some((name) => !/^0*$/.test(`${(status[name] as string | number | undefined) ?? 0}`))
    return [
      ...((frame.status[1] & MALFUNCTION) === 0 ? [] : ['the device reports a malfunction of itself']),
      ...(raised ? [`its own status is ${hexOf(frame.data)}: look it up in its manual`] : []),
    ].join('; ')
  }

  return {
    description: { driver: 'hart', family: 'current', unit: chain.process.unit, lowest: chain.lrv, highest: chain.urv },
    units: { [chain.digital.id]: unit, ...(isElectrode ? { electrode: 'mV', temperature: 'degC' } : {}) },
    ready,
    patience_ms: PATIENCE_ms,
    witnesses: new Set(isElectrode ? ['digital', 'electrode', 'temperature'] : ['digital']),
    async read() {
      await ready()
      const now = await held()
      return now && { held: now, log: [] }
    },
    async command(command) {
      await ready()
      try {
        return await told(command)
      } catch (error) {
        if (error instanceof HttpProblem && error.code === 'device-refused')
          return { taken: false, says: error.message }
        throw error
      }
    },
    subscribe(listener) {
      const stop = session.hear({
        serial: tied,
        reading(values) {
          last = readingOf(values)
          last_ms = values.at_ms
          listener.reading?.(last)
          listener.trend?.(sampleOf(last))
        },
        // What it told last is not what it tells now.
        gone() {
          last = { t_s: (performance.now() - begun) / 1000, knots: {} }
          listener.changed?.()
          listener.reading?.(last)
        },
      })
      hears.set(listener, stop)
      return () => {
        hears.delete(listener)
        stop()
      }
    },
    latest: () => (Date.now() - last_ms > STALE_ms ? { t_s: last.t_s, knots: {} } : last),
    close() {
      const all = [...hears]
      hears.clear()
      for (const [listener, stop] of all) {
        stop()
        listener.closed?.()
      }
    },
  }
}
