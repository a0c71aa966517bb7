// What a simulated transmitter does when it is told to: trims, writes, fixed currents, stores; and what it answers.
import type { Command } from '../procedure/index.ts'
import type { TransmitterSetup, TransmitterState, Tuning } from './transmitter-cases.ts'
import { electrodeTemp_C, hidden, rangeOf } from './transmitter.ts'

export interface Answer {
  readonly state: TransmitterState
  readonly taken: boolean
  readonly says: string
  /** Whether the answer arrives. */
  readonly arrives: boolean
}

const shown = (v: number) => Number(v.toPrecision(6)).toString()

/**
 * Tells the device something. `seen` is its digital value now, undamped by noise as far as it can tell.
 * A device may refuse (write-protected), or its answer may get lost.
 */
export function commandTransmitter({
  setup,
  state,
  command,
  seen,
  at,
}: {
  readonly setup: TransmitterSetup
  readonly state: TransmitterState
  readonly command: Command
  readonly seen: number
  readonly at: string
}): Answer {
  const writes =
    command.do !== 'drive' &&
    command.do !== 'release' &&
    command.do !== 'store' &&
    command.do !== 'receiver' &&
    command.do !== 'self-test'
  if (state.protected && (writes || command.do === 'store'))
    return {
      state,
      taken: false,
      says:
        'The device refuses: it is write-protected. Move the protection switch under its cover, then send it ' +
        'again.',
      arrives: true,
    }
  const losing = writes ? state.losing : null
  const from: TransmitterState = losing ? { ...state, losing: null } : state
  if (losing === 'command') return { state: from, taken: false, says: '', arrives: false }
  const keeps = hidden(state).keeps !== false
  const wrote = (tuning: Partial<Tuning>, what: string): TransmitterState => {
    const active = { ...from.active, ...tuning }
    return {
      ...from,
      active,
      stored: keeps ? active : from.stored,
      changes: from.changes + 1,
      log: [...from.log, { at, what }].slice(-200),
    }
  }
  const { active } = from
  const after = ((): TransmitterState => {
    switch (command.do) {
      case 'drive':
        return { ...from, fixed_mA: command.mA }
      case 'release':
        return { ...from, fixed_mA: null }
      case 'store':
        return { ...from, stored: active, log: [...from.log, { at, what: 'Stored.' }].slice(-200) }
      case 'zero-trim':
      case 'flow-zero':
        return wrote(
          { sensorOffset: active.sensorOffset - seen },
          `${command.do === 'flow-zero' ? 'Flow zero' : 'Zero trim'}: offset ${shown(active.sensorOffset)} to ` +
            `${shown(active.sensorOffset - seen)}.`,
        )
      case 'sensor-trim': {
        if (command.end === 'lower') {
          const sensorOffset = active.sensorOffset + command.value - seen
          return wrote(
            { sensorOffset },
            `Lower sensor trim at ${shown(command.value)}: offset ${shown(active.sensorOffset)} to ` +
              `${shown(sensorOffset)}.`,
          )
        }
        // The upper trim turns the line about the lower range value.
        const about = rangeOf(setup, from).lrv
        const turn = seen === about ? 1 : (command.value - about) / (seen - about)
        const sensorGain = active.sensorGain * turn
        const sensorOffset = about + (active.sensorOffset - about) * turn
        return wrote(
          { sensorGain, sensorOffset },
          `Upper sensor trim at ${shown(command.value)}: gain ${shown(active.sensorGain)} to ${shown(sensorGain)}.`,
        )
      }
      case 'current-trim': {
        if (command.at === 4) {
          const outputOffset_mA = active.outputOffset_mA + 4 - command.reading
          return wrote(
            { outputOffset_mA },
            `Current trim at 4 mA: offset ${shown(active.outputOffset_mA)} to ${shown(outputOffset_mA)} mA.`,
          )
        }
        const turn = 16 / (command.reading - 4)
        const outputGain = active.outputGain * turn
        return wrote(
          { outputGain, outputOffset_mA: 4 + (active.outputOffset_mA - 4) * turn },
          `Current trim at 20 mA: gain ${shown(active.outputGain)} to ${shown(outputGain)}.`,
        )
      }
      case 'damping':
        return wrote({ damping_s: command.seconds }, `Damping to ${shown(command.seconds)} s.`)
      case 'self-test':
        return { ...from, tested: true }
      case 'set-range': {
        const was = rangeOf(setup, from)
        return wrote(
          { lrv: command.lrv, urv: command.urv },
          `Range ${shown(was.lrv)} … ${shown(was.urv)} to ${shown(command.lrv)} … ${shown(command.urv)}.`,
        )
      }
      case 'receiver':
        return {
          ...from,
          receiver: { low: command.low, high: command.high },
          changes: from.changes + 1,
          log: [...from.log, { at, what: `Receiver scale to ${shown(command.low)} … ${shown(command.high)}.` }].slice(
            -200,
          ),
        }
      case 'ph-calibrate':
        return wrote(
          {
            slope_mVperPh: command.slope_mVperPh,
            slopeAt_C: electrodeTemp_C(setup, state),
            offset_mV: command.offset_mV,
            sensorOffset: 0,
            sensorGain: 1,
          },
          `pH calibration: slope ${shown(active.slope_mVperPh ?? 0)} to ${shown(command.slope_mVperPh)} mV ` +
            `per pH, offset ${shown(active.offset_mV ?? 0)} to ${shown(command.offset_mV)} mV.`,
        )
    }
  })()
  return { state: after, taken: true, says: '', arrives: losing !== 'answer' }
}
