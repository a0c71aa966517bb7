// Steps that several procedures share: what comes before and after, valves, readings, writes, driven currents.
import { formatQuantity } from '../quantity/index.ts'
import { inSentence } from '../words/index.ts'
import type { CommandPlan } from './command.ts'
import { backInService, outOfService, pumpReady, VALVE_NAMES, type Manifold, type ValveMove } from './manifold.ts'
import type { Step, Terms } from './step.ts'

/** A value as the page shows it, in the unit of the digital value. */
export const inUnit = (v: number, t: Pick<Terms, 'unit' | 'decimals'>) =>
  formatQuantity(v, t.unit, { decimals: t.decimals + 2, trim: true })
export const n = (v: number, decimals: number) => Number(v.toFixed(Math.max(decimals, 0) + 2)).toString()

/** Before anything is touched; the same for every procedure. */
export function prelude(t: Terms, found: boolean): Step[] {
  return [
    {
      id: 'told',
      kind: 'words',
      title: 'Operations told',
      says: t.tell
        ? `Call: ${t.tell}. Say which loop and for how long.`
        : 'Call the operator of this part of the plant. Say which loop and for how long.',
      asks: 'Who was told',
      makes: 'told',
    },
    {
      id: 'manual',
      kind: 'confirm',
      title: 'Loop in manual',
      says:
        'The operator holds the output by hand: what is done now bumps the measurement, and in automatic the ' +
        'loop would move the plant.',
      makes: 'manual',
    },
    {
      id: 'trips',
      kind: 'words',
      title: 'Trips fed by this loop by-passed',
      says: t.controls
        ? `This loop: ${t.controls}. By-pass only under the site’s permit.`
        : 'If it feeds a trip or interlock, by-pass it under the site’s permit.',
      asks: 'Permit number, or “none fed”',
      makes: 'bypassed',
    },
    ...(found
      ? [
          {
            id: 'as-found',
            kind: 'as-found',
            title: 'As found on record',
            says: 'What was found must stand before anything is adjusted: afterwards nobody can know it.',
          } as const,
        ]
      : []),
    {
      id: 'warning',
      kind: 'confirm',
      title: 'Warning read and accepted',
      says: ['The site’s procedure, local codes and licensed practice come first.', ...t.cautions].join(' '),
    },
  ]
}

/** After everything is put back; the same for every procedure. */
export const ending = (): Step[] => [
  {
    id: 'told-back',
    kind: 'words',
    title: 'Operations told: finished',
    says: 'Say that the loop measures again, and wait until the reading is believed.',
    asks: 'Who was told',
    makes: 'told-back',
  },
  {
    id: 'bypass-removed',
    kind: 'confirm',
    title: 'By-passes removed',
    says: 'Every trip that was by-passed is live again, and the permit handed back.',
    makes: 'bypass-removed',
  },
  {
    id: 'automatic',
    kind: 'confirm',
    title: 'Loop in automatic again',
    says: 'The operator puts it back; the reading is plausible.',
    makes: 'automatic',
  },
]

const valveStep = (move: ValveMove, prefix: string, i: number): Step => ({
  id: `${prefix}-${i + 1}-${move.valve}`,
  kind: 'valve',
  move,
  title: `${move.to === 'open' ? 'Open' : 'Shut'} the ${inSentence(VALVE_NAMES[move.valve])}`,
  says:
    prefix === 'out'
      ? 'Taking the cell out of service, valve by valve.'
      : prefix === 'pump'
        ? 'Making the high side ready for the pump; the low side stays open to air.'
        : 'Bringing the cell back into service, valve by valve.',
})

const after = (start: Manifold, moves: readonly ValveMove[]) =>
  moves.reduce((m, { valve, to }) => ({ ...m, [valve]: to }), start)

/** What a run of a manifold starts from. */
export function valves(t: Terms, withPump: boolean): { out: Step[]; pump: Step[]; back: Step[] } {
  const outMoves = outOfService(t.manifold)
  const pumpMoves = withPump ? pumpReady(t.manifold) : []
  const state = after(
    {
      high: 'open',
      low: 'open',
      equalize: 'shut',
      ...(t.manifold === 'five-valve' ? { 'vent-high': 'shut', 'vent-low': 'shut' } : {}),
    },
    [...outMoves, ...pumpMoves],
  )
  return {
    out: outMoves.map((m, i) => valveStep(m, 'out', i)),
    pump: pumpMoves.map((m, i) => valveStep(m, 'pump', i)),
    back: backInService(t.manifold, state).map((m, i) => valveStep(m, 'back', i)),
  }
}

export const steady = (
  id: string,
  of: Step['of'] & string,
  says = 'Slope and noise over the window must be inside the site’s limits.',
): Step => ({
  id,
  kind: 'steady',
  title: 'Reading stable',
  says,
  of,
})

export function digitalReading({
  t,
  id,
  title,
  expected,
  verifies = false,
}: {
  readonly t: Terms
  readonly id: string
  readonly title: string
  readonly expected: number
  readonly verifies?: boolean
}): Step {
  return {
    id,
    kind: 'reading',
    title,
    says: verifies
      ? 'After the work the device must agree with what is applied, within tolerance.'
      : 'The transmitter’s own digital value.',
    of: 'digital',
    verifies,
    reads: { what: 'digital', unit: t.unit, quantity: t.quantity, expected, decimals: t.decimals },
  }
}
export const meterReading = (id: string, title: string, mA: number, verifies = false): Step => ({
  id,
  kind: 'reading',
  title,
  says: 'The meter in the loop, or the volts across the shunt: either may be typed.',
  of: 'current',
  verifies,
  reads: { what: 'current', unit: 'mA', quantity: 'current', expected: mA, decimals: 3 },
})
export const plausible = (t: Terms, judges: readonly string[], id = 'plausible'): Step => ({
  id,
  kind: 'plausible',
  title: 'Correction plausible',
  says: `A correction above ${t.plausiblePct} % of span stops here: something else is wrong then.`,
  judges,
})
export const write = (id: string, title: string, says: string, sends: CommandPlan): Step => ({
  id,
  kind: 'command',
  title,
  says,
  writes: true,
  sends,
})
export const readBack = (
  id: string,
  says = 'The device is asked what it holds now. What it answered to the write is not enough.',
): Step => ({
  id,
  kind: 'read-back',
  title: 'Read back',
  says,
})
export const store = (): Step => ({
  id: 'store',
  kind: 'command',
  title: 'Stored in the device',
  says: 'Some devices forget what was written at the next power failure unless they are told to keep it.',
  sends: { do: 'store' },
})
export const drive = (id: string, mA: number): Step => ({
  id,
  kind: 'command',
  title: `Drive ${n(mA, 1)} mA`,
  says: 'The transmitter holds this current whatever it measures.',
  sends: { do: 'drive', mA },
})
export const release = (): Step => ({
  id: 'release',
  kind: 'command',
  title: 'Fixed current released',
  says: 'The transmitter measures again. Forgotten, the loop would stand still and look healthy.',
  sends: { do: 'release' },
})

export function onBench(t: Terms, words: string): Step {
  return {
    id: 'off-process',
    kind: 'confirm',
    title: 'Input taken off the process',
    says: words,
    makes: 'input-off-process',
    ...(t.manifold === 'none'
      ? { caution: 'Isolated, vented and proved without pressure by the site’s procedure before anything is opened.' }
      : {}),
  }
}
export const onProcess: Step = {
  id: 'on-process',
  kind: 'confirm',
  title: 'Input back on the process',
  says: 'Pump, simulator or buffer taken away; the sensor sees the process again.',
  makes: 'input-on-process',
}
