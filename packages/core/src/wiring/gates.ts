// The two gates of wiring work: power off and proved dead before anything is landed; judged and safe before power goes
// on.
import type { Refusal as RefusalType } from '../refusal/index.ts'
import { Refusal } from '../refusal/index.ts'
import type { WiringFinding } from './finding.ts'

export type WireGate = 'power-off' | 'safe-to-energise'

export const GATE_WORDS: Record<WireGate, string> = {
  'power-off':
    'Isolated at every source and locked off; proved dead at the terminals, the tester tried before and ' +
    'after; operations told.',
  'safe-to-energise':
    'Wired as on the sheet; every conductor pulled on; covers on; nobody at the terminals; operations told.',
}

/** An entry of the wiring log as far as the gates need it, oldest first. */
export interface GateEntry {
  readonly gate: WireGate
  /** Text of the wiring it was confirmed for. */
  readonly wiring: string
}

export interface GateState {
  /** Confirmed last and still standing. */
  readonly power: 'unknown' | 'off' | 'on'
  /** The wiring was changed after it had been confirmed safe. */
  readonly lapsed: boolean
}

/** Where the gates stand for a wiring: a confirmation of another wiring than the present one has lapsed. */
export function gateState(log: readonly GateEntry[], wiring: string): GateState {
  const last = log.at(-1)
  if (!last) return { power: 'unknown', lapsed: false }
  if (last.gate === 'power-off') return { power: 'off', lapsed: false }
  return last.wiring === wiring ? { power: 'on', lapsed: false } : { power: 'unknown', lapsed: true }
}

/** Why a gate cannot be confirmed now; undefined when it can. */
export function refuseGate({
  gate,
  log,
  wiring,
  findings,
  needs,
}: {
  readonly gate: WireGate
  readonly log: readonly GateEntry[]
  readonly wiring: string
  readonly findings: readonly WiringFinding[]
  readonly needs: readonly string[]
}): RefusalType | undefined {
  if (gate === 'power-off') return undefined
  const stop = findings.find((f) => f.grade === 'stop')
  if (stop) return new Refusal(stop.code, `${stop.what} ${stop.action}`)
  if (needs.length) return new Refusal('loop-incomplete', `Still to be entered before power: ${needs.join(', ')}.`)
  if (gateState(log, wiring).power !== 'off')
    return new Refusal(
      'power-not-off',
      'Confirm first that the power is off: what was not proved dead cannot be declared ready.',
    )
  return undefined
}
