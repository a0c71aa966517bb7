// A procedure without a link: what is written is written with the technician’s own communicator, and what the device
// holds then is what it shows, typed.
import { lastDigit } from '../check/index.ts'
import { unitOf } from '../quantity/index.ts'
import { Refusal } from '../refusal/index.ts'
import type { RunState, ShownByHand } from './state.ts'
import type { Held } from './steps.ts'
import { valueFor } from './taken.ts'

/** A pair of figures that a device shows after a write; each is typed. */
export interface AskedOfDevice {
  readonly names: readonly [string, string]
  readonly units: readonly [string, string]
}

type Shown = 'range' | 'receiver' | 'electrode'

/** What a read-back is about: what was written last, or what is to be written; undefined where no figures show it. */
function shownOf({ procedure, pending, lastWrite }: RunState): Shown | undefined {
  const written = (pending ?? lastWrite)?.command.do
  if (written === 'set-range' || (!written && procedure === 'range-change')) return 'range'
  if (written === 'receiver' || (!written && procedure === 'receiver-scale')) return 'receiver'
  return written === 'ph-calibrate' ? 'electrode' : undefined
}

/** What a read-back asks for; undefined where the device shows no figures of it. */
export function askedOfDevice(state: RunState): AskedOfDevice | undefined {
  const { terms: t } = state
  switch (shownOf(state)) {
    case 'range':
      return { names: ['Device shows, for 4 mA', 'Device shows, for 20 mA'], units: [t.unit, t.unit] }
    case 'receiver': {
      const unit = t.receiverUnit ?? t.unit
      return { names: ['Receiver shows, at 4 mA', 'Receiver shows, at 20 mA'], units: [unit, unit] }
    }
    case 'electrode':
      return { names: ['Slope that it shows, per pH', 'Offset that it shows'], units: ['mV', 'mV'] }
    default:
      return undefined
  }
}

/** The pair that was written last; undefined before a write. */
function pairWritten({ pending, lastWrite }: RunState): readonly [number, number] | undefined {
  const command = (pending ?? lastWrite)?.command
  switch (command?.do) {
    case 'set-range':
      return [command.lrv, command.urv]
    case 'receiver':
      return [command.low, command.high]
    case 'ph-calibrate':
      return [command.slope_mVperPh, command.offset_mV]
    default:
      return undefined
  }
}

/** A figure as shown, which is what was written where it agrees with it to its last digit. */
function figureOf(text: string, unit: string, written: number | undefined): number {
  const value = valueFor(text, unitOf(unit).quantity, unit, {})
  const last = lastDigit(text)
  return written !== undefined && last !== undefined && Math.abs(value - written) <= 0.5 * last * (1 + 1e-9)
    ? written
    : value
}

/**
 * What the device holds, as the person saw it.
 * @param typed the pair asked for, where there is one
 * @throws Refusal `value-missing`, and what `valueFor` throws
 */
export function heldByHand(state: RunState, typed: readonly [string, string] | undefined): Held {
  const { terms: t, lastWrite, pending, world } = state
  const base: Held = {
    lrv: t.lrv,
    urv: t.urv,
    receiverLow: t.lrv,
    receiverHigh: t.urv,
    fixed_mA: pending?.command.do === 'drive' ? pending.command.mA : world.fixed_mA,
    stored: true,
    changes: ((pending ?? lastWrite)?.changesBefore ?? 0) + 1,
  }
  const [shown, asked] = [shownOf(state), askedOfDevice(state)]
  if (!shown || !asked) return base
  if (!typed) throw new Refusal('value-missing', 'Type what the device shows now.')
  const written = pairWritten(state)
  const [a, b] = [figureOf(typed[0], asked.units[0], written?.[0]), figureOf(typed[1], asked.units[1], written?.[1])]
  if (shown === 'range') return { ...base, lrv: a, urv: b }
  return shown === 'receiver'
    ? { ...base, receiverLow: a, receiverHigh: b }
    : { ...base, slope_mVperPh: a, offset_mV: b }
}

/** What was seen and typed, as it was typed: of the rest of what a device holds nobody read anything. */
export function shownByHand(state: RunState, words: string, typed: readonly [string, string] | undefined): ShownByHand {
  const asked = typed && askedOfDevice(state)
  const withUnit = (text: string, unit: string) =>
    /[^\d\s.,+\-−]/.test(text.replace(/\de/gi, '')) ? text : `${text} ${unitOf(unit).label}`
  return {
    words,
    figures: asked
      ? [
          [asked.names[0], withUnit(typed[0], asked.units[0])],
          [asked.names[1], withUnit(typed[1], asked.units[1])],
        ]
      : [],
  }
}
