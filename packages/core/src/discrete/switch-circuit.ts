// The same sensor and input as parts of a circuit, for the solver that the wiring desk uses.
import { solveCircuit, type Part } from '../circuit/index.ts'
import { actsAs, conducts, type SwitchCircuit } from './discrete-input.ts'
import { sure } from '../sure/index.ts'

const STIFF_OHM = 1e-6

/**
 * What an output stage is between its terminals: it holds its residual voltage as long as current flows the way it can
 * drive.
 */
export interface StageParts {
  readonly parts: readonly Part[]
  /** Ids of parts that let current through from first terminal to second only. */
  readonly oneWay: readonly string[]
}

/** An output stage between `plus`, `minus` and `signal`, conducting or not. */
export function stageParts(
  id: string,
  stage: 'PNP' | 'NPN' | 'push-pull',
  at: { plus: string; minus: string; signal: string },
  { conducting, residualV, leakOhm }: { conducting: boolean; residualV: number; leakOhm: number | undefined },
): StageParts {
  const high = { plus: at.plus, minus: at.signal }
  const low = { plus: at.signal, minus: at.minus }
  const holds = (ends: { plus: string; minus: string }): Part => ({
    kind: 'source',
    id,
    ...ends,
    volts: residualV,
    seriesOhm: STIFF_OHM,
  })
  if (stage === 'push-pull') return { parts: [holds(conducting ? high : low)], oneWay: [] }
  const ends = stage === 'PNP' ? high : low
  if (conducting) return { parts: [holds(ends)], oneWay: [id] }
  return {
    parts: leakOhm === undefined ? [] : [{ kind: 'resistor', id, a: ends.plus, b: ends.minus, ohm: leakOhm }],
    oneWay: [],
  }
}

/** Signal wire and input by the circuit solver: a second way to what `readInput` says. */
export function solveSwitch(circuit: SwitchCircuit, target: boolean): { signalV: number; inputV: number } {
  const { sensor, supplyV, input, extraResistor } = circuit
  const conducting = conducts(sensor.contact, target)
  const pole = (p: 'positive' | 'negative') => (p === 'positive' ? 'P' : 'N')
  const rest: Part[] = [
    { kind: 'source', id: 'supply', plus: 'P', minus: 'N', volts: supplyV, seriesOhm: STIFF_OHM },
    { kind: 'resistor', id: 'input', a: 'S', b: pole(input.common), ohm: input.ohm },
  ]
  if (extraResistor)
    rest.push({ kind: 'resistor', id: 'extra', a: 'S', b: pole(extraResistor.to), ohm: extraResistor.ohm })
  const stage = stageParts(
    'stage',
    actsAs(sensor.output, input.common),
    { plus: 'P', minus: 'N', signal: 'S' },
    {
      conducting,
      residualV: sensor.residualV,
      leakOhm: sensor.leakage_mA > 0 ? (1000 * supplyV) / sensor.leakage_mA : undefined,
    },
  )
  let solved = solveCircuit({ ground: 'N', parts: [...rest, ...stage.parts] })
  // A source delivers out of plus; through a stage the current goes the other way.
  if (stage.oneWay.some((id) => solved.parts[id]!.mA > 0)) solved = solveCircuit({ ground: 'N', parts: rest })
  return { signalV: sure(solved.nodes['S']), inputV: Math.abs(sure(solved.parts['input']).volts) }
}
