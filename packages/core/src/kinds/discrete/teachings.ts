// Two teachings about a sensor “on by nature”, side by side: one looks at the signal wire, the other at the output
// stage. They speak of one current.
import { formatQuantity as show } from '../../quantity/index.ts'
import type { Lane, SwitchRun } from '../switch-run.ts'

/** What both say of one state of the target. */
export interface Teaching {
  readonly target: boolean
  /** Whoever holds a meter between the signal wire and the negative pole. */
  readonly atTheWire: string
  /** Whoever reads the data sheet. */
  readonly atTheStage: string
  /** What really flows, and what the controller makes of it. */
  readonly current: string
  readonly conducting: boolean
  readonly signalV: number
  readonly inputOn: boolean | undefined
}

const V = (v: number) => show(Math.abs(v) < 0.05 ? 0 : v, 'V', { decimals: 1 })
const mA = (v: number) => show(v, 'mA', { decimals: 1 })
/** Beyond half of the supply a newcomer calls the wire “on”. */
const HALF = 0.5
/** Less than this is only leakage, mA. */
const LEAKS_mA = 0.3

function teaching(lane: Lane, output: 'PNP' | 'NPN', supplyV: number): Teaching {
  const high = lane.signalV > HALF * supplyV
  const on = lane.state === 'undefined' ? undefined : lane.state === 'on'
  const near = lane.target ? 'with a target in front' : 'with nothing in front'
  const pole = output === 'NPN' ? 'negative' : 'positive'
  return {
    target: lane.target,
    atTheWire:
      `“The meter shows ${V(lane.signalV)} on the signal wire ${near}, so it is ${high ? 'on' : 'off'}` +
      `${!lane.target && high ? ' by nature' : ''}.”`,
    atTheStage:
      `“The output ${lane.conducting ? 'conducts' : 'does not conduct'} ${near}, so it is ` +
      `${lane.conducting ? 'active' : 'inactive'}.”`,
    current:
      (lane.conducting
        ? `The stage joins the wire to the ${pole} pole: ${mA(lane.sensor_mA)} flow. `
        : lane.sensor_mA > LEAKS_mA || lane.input_mA > LEAKS_mA
          ? `The stage is open; ${mA(lane.input_mA)} flow past it. `
          : 'The stage is open: next to nothing flows. ') +
      (on === undefined ? 'The input is sure of neither.' : `The input is ${on ? 'on' : 'off'}.`),
    conducting: lane.conducting,
    signalV: lane.signalV,
    inputOn: on,
  }
}

/** Both teachings, target away and there; undefined for an output that is no PNP or NPN, or while unknown. */
export function teachingsOf(
  run: Pick<SwitchRun, 'lanes'>,
  output: string,
  supplyV: number | undefined,
): Teaching[] | undefined {
  if (!run.lanes || supplyV === undefined || (output !== 'NPN' && output !== 'PNP')) return undefined
  return [run.lanes.absent, run.lanes.present].map((lane) => teaching(lane, output, supplyV))
}

/** What the two come to, in a sentence. */
export const bothTeach = (output: 'PNP' | 'NPN'): string =>
  output === 'NPN'
    ? 'Both are right. With an NPN the wire is held up by the input while nothing conducts, so its volts are high ' +
      'when the output is off: volts on the wire and current in the output go opposite ways.'
    : 'Both are right, and with a PNP they agree: the wire goes up when the output conducts.'
